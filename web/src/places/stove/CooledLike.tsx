import { useHere } from "../../api/here";
import { useHearth } from "../../api/kitchen";
import type { CoolingWanted } from "../../api/live";
import type { Batch } from "../../api/queries";
import { useLarder } from "../../api/queries";
import { Facts } from "../../kit/Facts";
import { fixed, plain } from "../../kit/habits";
import { useUnits } from "../../kit/system";
import { typedCelsius, typedGrams, typedMinutes, typedNumber } from "../../kit/typed";
import { massText, temperature } from "../../kit/units";
import { isRound, VESSEL_KINDS } from "../../kit/vessels";
import { OneOfWord, TypedWord } from "../../kit/Word";

type Way = CoolingWanted["ways"][number];

interface Props {
  batch: Batch;
  wanted: CoolingWanted;
  from_c: number | undefined;
  onChange: (wanted: CoolingWanted) => void;
}

/** How it is cooled, as a sentence of which every word can be touched and changed. */
export function CooledLike({ batch, wanted, from_c, onChange }: Props) {
  const { system } = useUnits();
  const { vessel, ways } = wanted;
  const change = (more: Partial<CoolingWanted>) => onChange({ ...wanted, ...more });
  const degrees = system === "metric" ? "°C" : "°F";
  return (
    <Facts
      className="text-xl leading-[2]"
      of={[
        <TypedWord
          key="mass"
          label={`How much, ${system === "metric" ? "g" : "oz"}`}
          hint={`empty: as planned, ${massText(batch.plan.yield_g, system)}`}
          shown={massText(wanted.mass_g ?? batch.plan.yield_g, system)}
          read={(text) => typedGrams(text, system) ?? Number.NaN}
          onValue={(mass_g) => change({ mass_g })}
        />,
        <span key="from">
          {"now "}
          <TypedWord
            label={`It is now, ${degrees}`}
            hint="empty: as it was read last"
            shown={from_c === undefined ? "…" : temperature(from_c, system, 0)}
            read={(text) => typedCelsius(text, system) ?? Number.NaN}
            onValue={(c) => change({ from_c: c })}
          />
        </span>,
        <span key="vessel">
          {"in "}
          <TypedWord
            label="How many of them"
            shown={`${vessel.count ?? 1} ×`}
            read={(text) => whole(typedNumber(text))}
            wrong="Write a whole number."
            onValue={(count) => change({ vessel: { ...vessel, count: count ?? 1 } })}
          />{" "}
          <VesselWord vessel={vessel} onChange={(one) => change({ vessel: one })} />
        </span>,
        ...ways.map((way, at) => (
          <WayWords
            // biome-ignore lint/suspicious/noArrayIndexKey: ways are known by their place
            key={at}
            way={way}
            first={at === 0}
            last={at === ways.length - 1}
            onChange={(one) => change({ ways: ways.map((old, i) => (i === at ? one : old)) })}
          />
        )),
      ]}
    />
  );
}

interface VesselProps {
  vessel: CoolingWanted["vessel"];
  onChange: (vessel: CoolingWanted["vessel"]) => void;
}

/** What it lies in: one of the kitchen's own, or as it stands. */
function VesselWord({ vessel, onChange }: VesselProps) {
  const here = useHere();
  const ours = useHearth(here.slug).data?.vessels ?? [];
  const own = ours.find(
    (one) =>
      one.kind === vessel.kind &&
      one.length_cm === vessel.length_cm &&
      (isRound(one.kind) || one.width_cm === vessel.width_cm) &&
      one.height_cm === vessel.height_cm,
  );
  const kind = VESSEL_KINDS.find((one) => one.value === vessel.kind)?.shown ?? vessel.kind;
  const shown = own?.name ?? `${fixed(vessel.length_cm, 0)} cm ${kind}`;
  const pick = (id: string) => {
    const one = ours.find((known) => String(known.id) === id);
    if (!one) return;
    const { length_cm, width_cm, height_cm } = one;
    onChange({ ...vessel, kind: one.kind, length_cm, width_cm, height_cm });
  };
  const options = ours.map((one) => ({ value: String(one.id), shown: one.name }));
  return (
    <OneOfWord
      label="In what"
      shown={shown}
      options={own ? options : [{ value: "as it is", shown }, ...options]}
      value={own ? String(own.id) : "as it is"}
      onChange={pick}
    />
  );
}

interface WayProps {
  way: Way;
  first: boolean;
  last: boolean;
  onChange: (way: Way) => void;
}

/** One way of cooling: by what, stirred or not, how long, with how much ice. */
function WayWords({ way, first, last, onChange }: WayProps) {
  const here = useHere();
  const { system } = useUnits();
  const coolers = useHearth(here.slug).data?.coolers ?? [];
  const ways = useLarder().data?.coolings ?? [];
  const value = way.cooler_id == null ? `way ${way.by}` : `own ${way.cooler_id}`;
  const options = [
    ...coolers.map((one) => ({ value: `own ${one.id}`, shown: one.name })),
    ...ways.map((one) => ({ value: `way ${one.by}`, shown: one.name })),
  ];
  const pick = (picked: string) => {
    const own = coolers.find((one) => `own ${one.id}` === picked);
    const by = own?.by ?? ways.find((one) => `way ${one.by}` === picked)?.by ?? way.by;
    onChange({ ...way, by, cooler_id: own?.id ?? null, ice_g: null, water_g: null });
  };
  const iced = ways.find((one) => one.by === way.by)?.iced ?? false;
  return (
    <Facts
      inline
      of={[
        <span key="by">
          {first ? null : "then "}
          <OneOfWord
            label={first ? "Cooled by" : "Then by"}
            shown={options.find((one) => one.value === value)?.shown ?? way.by}
            options={options}
            value={value}
            onChange={pick}
          />
        </span>,
        <OneOfWord
          key="stirred"
          label="Stirred or not"
          shown={way.stirred ? STIRRED : LEFT}
          options={[STIRRED, LEFT].map((shown) => ({ value: shown, shown }))}
          value={way.stirred ? STIRRED : LEFT}
          onChange={(shown) => onChange({ ...way, stirred: shown === STIRRED })}
        />,
        last ? null : (
          <TypedWord
            key="minutes"
            label="For how long, minutes"
            shown={way.minutes == null ? "how long?" : `${plain(way.minutes)} min`}
            read={typedMinutes}
            onValue={(minutes) => onChange({ ...way, minutes })}
          />
        ),
        iced ? (
          <TypedWord
            key="ice"
            label={`Ice that is there, ${system === "metric" ? "g" : "oz"}`}
            hint="empty: plenty"
            shown={way.ice_g == null ? "plenty of ice" : `${massText(way.ice_g, system)} of ice`}
            read={(text) => typedGrams(text, system) ?? Number.NaN}
            onValue={(ice_g) => onChange({ ...way, ice_g, water_g: null })}
          />
        ) : null,
      ]}
    />
  );
}

const STIRRED = "stirred now and then";
const LEFT = "left alone";

const whole = (value: number) => (Number.isInteger(value) ? value : Number.NaN);
