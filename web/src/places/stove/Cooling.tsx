import { type FormEvent, useState } from "react";
import { useHearth } from "../../api/kitchen";
import {
  type CoolingPlan,
  type CoolingWanted,
  NOW_AND_THEN_MS,
  useChooseCooling,
  useLive,
  usePlanCooling,
} from "../../api/live";
import { Problem } from "../../api/problem";
import type { Batch } from "../../api/queries";
import { useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { CoolingCurve } from "../../kit/CoolingCurve";
import { Field } from "../../kit/Field";
import { useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { inUnits, massText, typedCelsius } from "../../kit/units";
import { LiveCooling } from "./LiveCooling";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  mayMark: boolean;
  say: Say;
}

type Kind = CoolingWanted["vessel"]["kind"];
const KINDS: readonly { value: Kind; shown: string; round: boolean }[] = [
  { value: "bowl", shown: "bowl", round: true },
  { value: "tray", shown: "tray", round: false },
  { value: "tub", shown: "tub", round: false },
  { value: "cups", shown: "cups", round: true },
  { value: "bags", shown: "piping bags, lying", round: false },
];

interface TypedWay {
  by: string;
  minutes: string;
  stirred: boolean;
  ice: string;
  water: string;
}
const number = (text: string) => Number(text.trim().replace(",", "."));
const FIRST_WAY: TypedWay = { by: "way ice-bath", minutes: "", stirred: true, ice: "", water: "" };

/** In what and by what ways it is cooled: judged before it is done, then followed until it is cold. */
export function Cooling({ batch, mayMark, say }: Props) {
  const here = useHere();
  const began = batch.marks.find((mark) => mark.kind === "into-ice");
  const live = useLive(
    here.slug,
    batch.id,
    batch.closed_at === null && began !== undefined,
    true,
    NOW_AND_THEN_MS,
  );
  const [again, setAgain] = useState(false);
  if (began && batch.cooling && !again)
    return (
      <LiveCooling
        batch={batch}
        live={live.data}
        mayMark={mayMark}
        say={say}
        onOther={mayMark ? () => setAgain(true) : null}
      />
    );
  if (batch.closed_at || !mayMark) return null;
  return <Plan key={JSON.stringify(batch.cooling)} batch={batch} onChosen={() => setAgain(false)} />;
}

function Plan({ batch, onChosen }: { batch: Batch; onChosen: () => void }) {
  const here = useHere();
  const { system } = useUnits();
  const hearth = useHearth(here.slug);
  const larder = useLarder();
  const plan = usePlanCooling(here.slug, batch.id);
  const choose = useChooseCooling(here.slug, batch.id);
  const kept = batch.cooling;
  const [kind, setKind] = useState<Kind>((kept?.vessel.kind as Kind | undefined) ?? "bowl");
  const [size, setSize] = useState({
    length: String(kept?.vessel.length_cm ?? 24),
    width: String(kept?.vessel.width_cm || 18),
    height: String(kept?.vessel.height_cm ?? 12),
    count: String(kept?.vessel.count ?? 1),
  });
  const [mass, setMass] = useState("");
  const [from, setFrom] = useState("");
  const [ways, setWays] = useState<readonly TypedWay[]>([FIRST_WAY]);
  const round = KINDS.find((one) => one.value === kind)?.round ?? true;
  const wanted = (): CoolingWanted => ({
    mass_g: mass.trim() ? number(mass) * (system === "metric" ? 1 : 28.3495) : null,
    from_c: typedCelsius(from, system),
    vessel: {
      kind,
      length_cm: number(size.length),
      width_cm: round ? 0 : number(size.width),
      height_cm: number(size.height),
      count: Math.round(number(size.count)),
    },
    ways: ways.map((way, i) => {
      const [what, name] = way.by.split(" ") as ["way" | "own", string];
      const iced = isIced(way);
      const cooler = what === "own" ? hearth.data?.coolers.find((one) => one.id === Number(name)) : undefined;
      return {
        by: (cooler?.by ?? (what === "way" ? name : "fridge")) as CoolingWanted["ways"][number]["by"] &
          string,
        cooler_id: cooler?.id ?? null,
        minutes: i < ways.length - 1 && way.minutes.trim() ? number(way.minutes) : null,
        stirred: way.stirred,
        ice_g: iced && way.ice.trim() ? number(way.ice) : null,
        water_g: iced && way.ice.trim() && way.water.trim() ? number(way.water) : null,
      };
    }),
  });
  const isIced = (way: TypedWay): boolean => {
    const [what, name] = way.by.split(" ");
    const by = what === "own" ? hearth.data?.coolers.find((one) => one.id === Number(name))?.by : name;
    return larder.data?.coolings.find((one) => one.by === by)?.iced ?? false;
  };
  const error = plan.error ?? choose.error;
  const problem = error instanceof Problem ? error : null;
  const change = (index: number, more: Partial<TypedWay>) =>
    setWays(ways.map((way, i) => (i === index ? { ...way, ...more } : way)));
  const pickVessel = (id: string) => {
    const one = hearth.data?.vessels.find((vessel) => vessel.id === Number(id));
    if (!one) return;
    setKind(one.kind);
    setSize({
      ...size,
      length: String(one.length_cm),
      width: String(one.width_cm || size.width),
      height: String(one.height_cm),
    });
  };
  const sized = (name: keyof typeof size, label: string, field: string) => (
    <TextBox
      label={label}
      error={problem?.at(field)}
      numeric
      value={size[name]}
      onChange={(text) => setSize({ ...size, [name]: text })}
    />
  );
  const submit = (event: FormEvent) => {
    event.preventDefault();
    plan.mutate(wanted());
  };
  return (
    <section aria-label="How it is cooled" className="grid gap-4 border border-hair bg-paper p-4">
      <form onSubmit={submit} noValidate aria-label="Cooling" className="grid gap-4">
        <div className="grid grid-cols-2 items-start gap-3 sm:grid-cols-4">
          {hearth.data?.vessels.length ? (
            <Field label="one of ours">
              {(given) => (
                <select
                  {...given}
                  className="w-full"
                  value=""
                  onChange={(event) => pickVessel(event.target.value)}
                >
                  <option value="">choose …</option>
                  {hearth.data?.vessels.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
          ) : null}
          <Field label="in" error={problem?.at("kind")}>
            {(given) => (
              <select
                {...given}
                className="w-full"
                value={kind}
                onChange={(event) => setKind(event.target.value as Kind)}
              >
                {KINDS.map((one) => (
                  <option key={one.value} value={one.value}>
                    {one.shown}
                  </option>
                ))}
              </select>
            )}
          </Field>
          {sized("count", "how many", "count")}
          {sized("length", round ? "across, cm" : "length, cm", "length_cm")}
          {round ? null : sized("width", "width, cm", "width_cm")}
          {sized("height", "height, cm", "height_cm")}
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
          <div
            // biome-ignore lint/suspicious/noArrayIndexKey: ways are told apart by their place
            key={i}
            className="grid gap-3 border-l-4 border-slate pl-3 sm:grid-cols-2"
          >
            <Field
              label={i ? "then" : "cooled"}
              error={problem?.at(`ways[${i}].by`) ?? problem?.at(`ways[${i}].cooler_id`)}
            >
              {(given) => (
                <select
                  {...given}
                  className="w-full"
                  value={way.by}
                  onChange={(event) => change(i, { by: event.target.value })}
                >
                  {hearth.data?.coolers.map((one) => (
                    <option key={one.id} value={`own ${one.id}`}>
                      {one.name}
                    </option>
                  ))}
                  {larder.data?.coolings.map((one) => (
                    <option key={one.by} value={`way ${one.by}`}>
                      {one.name}
                    </option>
                  ))}
                </select>
              )}
            </Field>
            {i < ways.length - 1 ? (
              <TextBox
                label="for, minutes"
                error={problem?.at(`ways[${i}].minutes`)}
                numeric
                value={way.minutes}
                onChange={(minutes) => change(i, { minutes })}
              />
            ) : (
              <p className="self-end pb-3 text-soft">to the end</p>
            )}
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-6 min-h-0"
                checked={way.stirred}
                onChange={(event) => change(i, { stirred: event.target.checked })}
              />
              stirred now and then
            </label>
            {isIced(way) ? (
              <div className="grid grid-cols-2 gap-3">
                <TextBox
                  label="ice there, g"
                  hint="empty: plenty"
                  error={problem?.at(`ways[${i}].ice_g`)}
                  numeric
                  value={way.ice}
                  onChange={(ice) => change(i, { ice })}
                />
                <TextBox
                  label="and water, g"
                  hint="empty: as much"
                  error={problem?.at(`ways[${i}].water_g`)}
                  numeric
                  value={way.water}
                  onChange={(water) => change(i, { water })}
                />
              </div>
            ) : null}
          </div>
        ))}
        <div className="flex flex-wrap gap-3">
          <Button
            disabled={ways.length >= 4}
            onClick={() =>
              setWays([
                ...ways.map((way) => ({ ...way, minutes: way.minutes || "20" })),
                {
                  by: hearth.data?.coolers[0] ? `own ${hearth.data.coolers[0].id}` : "way fridge",
                  minutes: "",
                  stirred: false,
                  ice: "",
                  water: "",
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
        <Judged plan={plan.data}>
          <Button
            look="solid"
            disabled={choose.isPending}
            onClick={() => choose.mutate(wanted(), { onSuccess: onChosen })}
          >
            Cool it so
          </Button>
        </Judged>
      ) : batch.cooling ? (
        <p className="font-bold text-herb">✓ Chosen; it is followed from “into the ice” on.</p>
      ) : null}
    </section>
  );
}

function Judged({ plan, children }: { plan: CoolingPlan; children: React.ReactNode }) {
  const { system } = useUnits();
  const { rule } = plan;
  const begins = plan.t_s[plan.core_c.findIndex((c) => c <= rule.from_c)] ?? 0;
  return (
    <div className="grid gap-3" role="status">
      <p
        className={`text-xl font-bold ${plan.sure ? "text-herb" : plan.passes ? "text-copper" : "text-brick"}`}
      >
        {plan.sure ? "✓ In time." : plan.passes ? "In time, but only just." : "Too slow."}{" "}
        <span className="font-normal text-iron">It {inUnits(plan.why, system)}.</span>
      </p>
      <CoolingCurve
        label={`Cooling: ${plan.passes ? "in time" : "too slow"}${plan.cold_s === null ? "" : `, cold after ${Math.round(plan.cold_s / 60)} minutes`}`}
        t_s={plan.t_s}
        core_c={plan.core_c}
        slow_c={plan.slow_c}
        quick_c={plan.quick_c}
        limits={[
          { limit_c: rule.first_c, at_s: begins + 3600 * rule.first_h, kept: plan.passes },
          ...(rule.second_c < rule.first_c
            ? [
                {
                  limit_c: rule.second_c,
                  at_s: begins + 3600 * (rule.second_h + (rule.second_from === "first" ? rule.first_h : 0)),
                  kept: plan.passes,
                },
              ]
            : []),
        ]}
        system={system}
      />
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-6 gap-y-1">
        <dt className="text-soft">in each</dt>
        <dd>
          {massText(plan.each_g, system)}, {plan.depth_mm.toFixed(0)} mm deep
        </dd>
        <dt className="text-soft">at most</dt>
        <dd>
          {plan.greatest_depth_mm === null
            ? "no depth passes like this"
            : `${plan.greatest_depth_mm.toFixed(0)} mm, ${massText(plan.greatest_g ?? 0, system)} in all`}
        </dd>
        {plan.ice_g === null ? null : (
          <>
            <dt className="text-soft">ice</dt>
            <dd>
              {massText(plan.ice_g, system)} to have at hand
              {plan.ice_gone_s === null
                ? ""
                : `; what is there is gone after ${Math.round(plan.ice_gone_s / 60)} min`}
            </dd>
          </>
        )}
      </dl>
      <Helps helps={plan.helps} />
      <p className="border-l-4 border-brick pl-3 text-sm">{rule.caution}</p>
      <div>{children}</div>
    </div>
  );
}

/** What would help, each with whether it is then in time. */
export function Helps({ helps }: { helps: CoolingPlan["helps"] }) {
  if (!helps.length) return null;
  return (
    <div>
      <h3 className="text-[1.1rem]">What helps</h3>
      <ul>
        {helps.map((one) => (
          <li key={one.say} className="flex justify-between gap-4 border-b border-dotted border-line py-1">
            <span className={one.passes ? "font-bold" : "text-soft"}>{one.say}</span>
            <span className={`shrink-0 ${one.passes ? "text-herb" : "text-brick"}`}>
              {one.passes ? "✓ in time" : "still too slow"}
              {one.cold_s === null ? "" : `, cold after ${hours(one.cold_s)}`}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** "40 min" or "3 h 20" */
export function hours(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 100) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, "0")}`;
}
