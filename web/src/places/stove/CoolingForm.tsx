import { type FormEvent, useState } from "react";
import { useHere } from "../../api/here";
import { useHearth, type Vessel } from "../../api/kitchen";
import { type CoolingWanted, useChooseCooling, usePlanCooling } from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { plain } from "../../kit/habits";
import { Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedCelsius, typedGrams, typedMinutes, typedNumber } from "../../kit/typed";
import { massInField, massText } from "../../kit/units";
import { isRound, VESSEL_KINDS, type VesselKind } from "../../kit/vessels";
import { CoolingVerdict } from "./CoolingVerdict";

interface TypedWay {
  by: string;
  minutes: string;
  stirred: boolean;
  ice: string;
  water: string;
}
type TypedSize = Record<"length" | "width" | "height" | "count", string>;
const FIRST_WAY: TypedWay = { by: "way ice-bath", minutes: "", stirred: true, ice: "", water: "" };
const NEXT_WAY: TypedWay = { by: "way fridge", minutes: "", stirred: false, ice: "", water: "" };

interface Props {
  batch: Batch;
  /** What it begins from: as it was chosen for this batch, or as this kitchen usually cools. */
  like: CoolingWanted | undefined;
  onChosen: () => void;
}

/** In what and by what ways it is cooled, asked in full: judged before it is done. */
export function CoolingForm({ batch, like, onChosen }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const hearth = useHearth(here.slug);
  const larder = useLarder();
  const plan = usePlanCooling(here.slug, batch.id);
  const choose = useChooseCooling(here.slug, batch.id);
  const [kind, setKind] = useState<VesselKind>(like?.vessel.kind ?? "bowl");
  const [size, setSize] = useState<TypedSize>({
    length: String(like?.vessel.length_cm ?? 24),
    width: String(like?.vessel.width_cm || 18),
    height: String(like?.vessel.height_cm ?? 12),
    count: String(like?.vessel.count ?? 1),
  });
  const [mass, setMass] = useState(() =>
    like?.mass_g == null || Math.abs(like.mass_g - batch.plan.yield_g) < 1
      ? ""
      : massInField(like.mass_g, system),
  );
  const [from, setFrom] = useState("");
  const [ways, setWays] = useState<readonly TypedWay[]>(like ? like.ways.map(typedWay) : [FIRST_WAY]);
  const round = isRound(kind);
  const wanted = (): CoolingWanted => ({
    mass_g: mass.trim() ? (typedGrams(mass, system) ?? Number.NaN) : null,
    from_c: typedCelsius(from, system),
    vessel: {
      kind,
      length_cm: typedNumber(size.length),
      width_cm: round ? 0 : typedNumber(size.width),
      height_cm: typedNumber(size.height),
      count: Math.round(typedNumber(size.count)),
    },
    ways: ways.map((way, i) => {
      const [what, name] = way.by.split(" ") as ["way" | "own", string];
      const iced = isIced(way);
      const cooler = what === "own" ? hearth.data?.coolers.find((one) => one.id === Number(name)) : undefined;
      return {
        by: (cooler?.by ?? (what === "way" ? name : "fridge")) as CoolingWanted["ways"][number]["by"] &
          string,
        cooler_id: cooler?.id ?? null,
        minutes: i < ways.length - 1 && way.minutes.trim() ? typedMinutes(way.minutes) : null,
        stirred: way.stirred,
        ice_g: iced && way.ice.trim() ? (typedGrams(way.ice, "metric") ?? Number.NaN) : null,
        water_g:
          iced && way.ice.trim() && way.water.trim() ? (typedGrams(way.water, "metric") ?? Number.NaN) : null,
      };
    }),
  });
  const isIced = (way: TypedWay): boolean => {
    const [what, name] = way.by.split(" ");
    const by = what === "own" ? hearth.data?.coolers.find((one) => one.id === Number(name))?.by : name;
    return larder.data?.coolings.find((one) => one.by === by)?.iced ?? false;
  };
  const coolers = [
    ...(hearth.data?.coolers.map((one) => ({ value: `own ${one.id}`, shown: one.name })) ?? []),
    ...(larder.data?.coolings.map((one) => ({ value: `way ${one.by}`, shown: one.name })) ?? []),
  ];
  const error = plan.error ?? choose.error;
  const problem = error instanceof Problem ? error : null;
  const change = (index: number, more: Partial<TypedWay>) =>
    setWays(ways.map((way, i) => (i === index ? { ...way, ...more } : way)));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    plan.mutate(wanted());
  };
  return (
    <section aria-label="How it is cooled" className="grid gap-4 border border-hair bg-paper p-4">
      <form onSubmit={submit} noValidate aria-label="Cooling" className="grid gap-4">
        <div className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
          <VesselFields
            kind={kind}
            size={size}
            ours={hearth.data?.vessels ?? []}
            wrong={(field) => problem?.at(field)}
            onKind={setKind}
            onSize={setSize}
          />
          <TextBox
            label={`how much, ${system === "metric" ? "g" : "oz"}`}
            hint={`planned ${massText(batch.plan.yield_g, system)}`}
            error={problem?.at("mass_g")}
            numeric
            value={mass}
            onChange={setMass}
          />
          <TextBox
            label={`it is now, ${system === "metric" ? "°C" : "°F"}`}
            hint="else as planned"
            error={problem?.at("from_c")}
            numeric
            value={from}
            onChange={setFrom}
          />
        </div>
        {ways.map((way, i) => (
          <WayFields
            // biome-ignore lint/suspicious/noArrayIndexKey: ways are told apart by their place
            key={i}
            way={way}
            place={i}
            last={i === ways.length - 1}
            iced={isIced(way)}
            coolers={coolers}
            wrong={(field) => problem?.at(`ways[${i}].${field}`)}
            onChange={(more) => change(i, more)}
          />
        ))}
        <div className="flex flex-wrap gap-3">
          <Button
            disabled={ways.length >= 4}
            onClick={() =>
              setWays([
                ...ways.map((way) => ({ ...way, minutes: way.minutes || "20" })),
                {
                  ...NEXT_WAY,
                  by: hearth.data?.coolers[0] ? `own ${hearth.data.coolers[0].id}` : NEXT_WAY.by,
                },
              ])
            }
          >
            Then somewhere else
          </Button>
          {ways.length > 1 ? <Button onClick={() => setWays(ways.slice(0, -1))}>Not that</Button> : null}
          <Button look="iron" type="submit" disabled={plan.isPending}>
            Is it in time?
          </Button>
        </div>
        {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
      </form>
      {plan.data ? (
        <CoolingVerdict plan={plan.data}>
          <Button
            look="solid"
            disabled={choose.isPending}
            onClick={() => choose.mutate(wanted(), { onSuccess: onChosen })}
          >
            Cool it so
          </Button>
        </CoolingVerdict>
      ) : batch.cooling ? (
        <p className="font-bold text-herb">✓ Chosen; it is followed from “into the ice” on.</p>
      ) : null}
    </section>
  );
}

function typedWay(way: CoolingWanted["ways"][number]): TypedWay {
  return {
    by: way.cooler_id == null ? `way ${way.by}` : `own ${way.cooler_id}`,
    minutes: way.minutes == null ? "" : plain(way.minutes),
    stirred: way.stirred ?? false,
    ice: way.ice_g == null ? "" : plain(way.ice_g),
    water: way.water_g == null ? "" : plain(way.water_g),
  };
}

interface VesselProps {
  kind: VesselKind;
  size: TypedSize;
  /** What this kitchen has measured. */
  ours: readonly Vessel[];
  wrong: (field: string) => string | undefined;
  onKind: (kind: VesselKind) => void;
  onSize: (size: TypedSize) => void;
}

/** What it lies in: one that the kitchen has, or its kind and measures. */
function VesselFields({ kind, size, ours, wrong, onKind, onSize }: VesselProps) {
  const round = isRound(kind);
  const pick = (id: string) => {
    const one = ours.find((vessel) => vessel.id === Number(id));
    if (!one) return;
    onKind(one.kind);
    onSize({
      ...size,
      length: plain(one.length_cm),
      width: one.width_cm ? plain(one.width_cm) : size.width,
      height: plain(one.height_cm),
    });
  };
  const sized = (name: keyof TypedSize, label: string, field: string) => (
    <TextBox
      label={label}
      error={wrong(field)}
      numeric
      value={size[name]}
      onChange={(text) => onSize({ ...size, [name]: text })}
    />
  );
  return (
    <>
      {ours.length ? (
        <SelectBox
          label="one of ours"
          none="choose …"
          options={ours.map((one) => ({ value: String(one.id), shown: one.name }))}
          value=""
          onChange={pick}
        />
      ) : null}
      <SelectBox label="in" error={wrong("kind")} options={VESSEL_KINDS} value={kind} onChange={onKind} />
      {sized("count", "how many", "count")}
      {sized("length", round ? "across, cm" : "length, cm", "length_cm")}
      {round ? null : sized("width", "width, cm", "width_cm")}
      {sized("height", "height, cm", "height_cm")}
    </>
  );
}

interface WayProps {
  way: TypedWay;
  place: number;
  last: boolean;
  iced: boolean;
  coolers: readonly { value: string; shown: string }[];
  wrong: (field: string) => string | undefined;
  onChange: (more: Partial<TypedWay>) => void;
}

/** One way of cooling: by what, how long, whether stirred, with how much ice. */
function WayFields({ way, place, last, iced, coolers, wrong, onChange }: WayProps) {
  return (
    <div className="grid gap-3 border-l-4 border-slate pl-3 sm:grid-cols-2">
      <SelectBox
        label={place ? "then" : "cooled"}
        error={wrong("by") ?? wrong("cooler_id")}
        options={coolers}
        value={way.by}
        onChange={(by) => onChange({ by })}
      />
      {last ? (
        <p className="self-end pb-3 text-soft">to the end</p>
      ) : (
        <TextBox
          label="for, minutes"
          error={wrong("minutes")}
          numeric
          value={way.minutes}
          onChange={(minutes) => onChange({ minutes })}
        />
      )}
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-6 min-h-0"
          checked={way.stirred}
          onChange={(event) => onChange({ stirred: event.target.checked })}
        />
        stirred now and then
      </label>
      {iced ? (
        <div className="grid grid-cols-2 gap-3">
          <TextBox
            label="ice there, g"
            hint="empty: plenty"
            error={wrong("ice_g")}
            numeric
            value={way.ice}
            onChange={(ice) => onChange({ ice })}
          />
          <TextBox
            label="and water, g"
            hint="empty: as much"
            error={wrong("water_g")}
            numeric
            value={way.water}
            onChange={(water) => onChange({ water })}
          />
        </div>
      ) : null}
    </div>
  );
}
