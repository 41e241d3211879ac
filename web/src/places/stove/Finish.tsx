import { Check } from "lucide-react";
import { useState } from "react";
import { useCrust } from "../../api/bench";
import { useHere } from "../../api/here";
import { NOW_AND_THEN_MS, useLive } from "../../api/live";
import { type Batch, type NewMark, useBatchActions } from "../../api/queries";
import type { When } from "../../contract/words";
import { Facts } from "../../kit/Facts";
import { Field } from "../../kit/Field";
import { fixed } from "../../kit/habits";
import { whenShown } from "../../kit/joins";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { typedNumber } from "../../kit/typed";
import { inUnits, massText, temperature } from "../../kit/units";
import { minutes } from "../../shared/ticking";
import type { Say } from "./stages";

type Addition = NonNullable<Batch["plan"]["finish"]>["additions"][number];

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

const FRESH_S = 60;

/** What joins after the heat, one row an addition: grams, what to wait for, a tick, and the reason. */
export function Finish({ batch, waiting, mayMark, say }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const live = useLive(here.slug, batch.id, batch.closed_at === null, true, NOW_AND_THEN_MS);
  const { withdraw } = useBatchActions(here.slug, batch.id);
  const plan = batch.plan.finish;
  if (!plan) return null;
  const onTheWay = (kind: NewMark["kind"]) =>
    waiting.flatMap((mark) =>
      mark.stage === "finish" && mark.kind === kind && mark.line != null ? [mark.line] : [],
    );
  const joined = new Set([...batch.joined, ...onTheWay("tick")]);
  const poured = new Set([...batch.poured, ...onTheWay("pour")]);
  const fresh = live.data?.probe_ago_s != null && live.data.probe_ago_s <= FRESH_S;
  const probe_c = batch.probe_id !== null && fresh ? (live.data?.probe_c ?? null) : null;
  const next = plan.additions.findIndex((_, row) => !joined.has(row));
  const takeBack = (row: number) => {
    for (const mark of batch.marks)
      if (mark.stage === "finish" && mark.kind === "tick" && mark.line === row) withdraw.mutate(mark.id);
  };
  const cold = batch.done.includes("chill");
  const touch = (row: number) =>
    joined.has(row)
      ? takeBack(row)
      : say({ stage: "finish", kind: "tick", line: row, temperature_c: probe_c, note: "" });
  return (
    <section aria-label="Finish tray" className="grid gap-4">
      <p className="text-lg">
        {cold ? (
          "It is cold: nothing is waited for."
        ) : probe_c === null ? (
          <>
            It is about <b className="tabular">{temperature(plan.from_c, system, 0)}</b>.
          </>
        ) : (
          <>
            The probe reads <b className="figure text-[2rem]">{temperature(probe_c, system)}</b>
          </>
        )}
      </p>
      <ol className="grid gap-3">
        {plan.additions.map((one, row) => (
          <Row
            key={`${one.kind} ${one.lines.join(" ")}`}
            one={one}
            now={row === next}
            done={joined.has(row)}
            poured={poured}
            probe_c={row === next ? probe_c : null}
            cold={cold}
            mayMark={mayMark}
            onTick={() => touch(row)}
            onPour={(ladle) => say({ stage: "finish", kind: "pour", line: ladle, note: "" })}
          />
        ))}
      </ol>
      {withdraw.isError ? <Notice tone="wrong">{withdraw.error.message}</Notice> : null}
      <Outcome plan={plan} />
    </section>
  );
}

interface RowProps {
  one: Addition;
  now: boolean;
  done: boolean;
  poured: ReadonlySet<number>;
  probe_c: number | null;
  /** Whether it is cold already, so that nothing is waited for. */
  cold: boolean;
  mayMark: boolean;
  onTick: () => void;
  onPour: (ladle: number) => void;
}

function Row({ one, now, done, poured, probe_c, cold, mayMark, onTick, onPour }: RowProps) {
  const { system } = useUnits();
  return (
    <li
      className={`border-l-4 bg-paper px-4 py-3 ${done ? "border-herb" : now ? "border-yolk" : "border-hair"}`}
    >
      <div className="flex items-start gap-4">
        <button
          type="button"
          aria-pressed={done}
          aria-label={done ? `Take back: ${one.name}` : `${one.name} is in`}
          disabled={!mayMark}
          onClick={onTick}
          className={`grid size-[72px] shrink-0 place-items-center border-2 ${done ? "border-herb bg-herb text-paper" : "border-iron"}`}
        >
          {done ? <Check size={36} aria-hidden="true" /> : null}
        </button>
        <div className="min-w-0 flex-1">
          <p className="flex flex-wrap items-baseline justify-between gap-x-4">
            <span className="text-sm text-soft first-letter:uppercase">{whenShown(one.when as When)}</span>
            <span className="figure text-[2rem] leading-none">{massText(one.grams, system)}</span>
          </p>
          <p className={`mt-2 text-xl leading-snug break-words ${done ? "text-soft" : ""}`}>
            {inUnits(one.say, system)}
          </p>
          <Wait one={one} probe_c={probe_c} done={done || cold} />
          {one.when === "on top" ? null : (
            <p className="text-sm text-soft">
              then about {temperature(one.at_c, system, 0)}, {massText(one.mass_g, system)} in the bowl
            </p>
          )}
          {now && !done ? (
            <>
              {one.see.length ? <p className="mt-1">Look for: {listed(one.see)}.</p> : null}
              <p className="mt-1 text-soft">{inUnits(one.why, system)}</p>
              {one.kind === "crust" ? <CrustOf grams={one.grams} /> : null}
              {one.cautions.map((caution) => (
                <p key={caution} className="mt-2 border-l-4 border-brick pl-3">
                  {inUnits(caution, system)}
                </p>
              ))}
            </>
          ) : null}
        </div>
      </div>
      {one.ladles?.length && !done ? (
        <Ladles one={one} poured={poured} mayMark={mayMark} onPour={onPour} />
      ) : null}
    </li>
  );
}

/** What to wait for, and how far off that is by the probe. */
function Wait({ one, probe_c, done }: { one: Addition; probe_c: number | null; done: boolean }) {
  const { system } = useUnits();
  if (one.wait_c === null || done) return null;
  const goal = temperature(one.wait_c, system, 0);
  if (probe_c !== null && probe_c <= one.wait_c)
    return <p className="mt-1 font-bold text-herb">✓ below {goal}: now</p>;
  if (one.wait_s === null) return <p className="mt-1 text-herb">It is below {goal} by then.</p>;
  return (
    <Facts
      className="mt-1 font-bold text-slate"
      of={[
        `Wait for ${goal}: about ${minutes(one.wait_s)} over ice, stirred`,
        probe_c !== null && `it reads ${temperature(probe_c, system)} now`,
      ]}
    />
  );
}

/** Onto chocolate ladle by ladle: how much, and what it looks like once that is stirred in. */
function Ladles({ one, poured, mayMark, onPour }: Pick<RowProps, "one" | "poured" | "mayMark" | "onPour">) {
  const { system } = useUnits();
  const next = one.ladles?.findIndex((_, ladle) => !poured.has(ladle)) ?? -1;
  return (
    <ol className="mt-3 flex flex-wrap gap-2" aria-label="Pours onto the chocolate">
      {one.ladles?.map((ladle, place) => {
        const done = poured.has(place);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: pours are told apart by their place
          <li key={place}>
            <button
              type="button"
              aria-pressed={done}
              disabled={!mayMark || done || place !== next}
              onClick={() => onPour(place)}
              className={`grid min-h-[72px] min-w-28 place-items-center border-2 px-3 py-1 ${done ? "border-herb text-herb" : place === next ? "border-iron" : "border-line text-soft"}`}
            >
              <span className="figure text-xl">
                {done ? "✓ " : ""}
                {massText(ladle.grams, system)}
              </span>
              <span className="text-sm">
                {ladle.look}, {temperature(ladle.at_c, system, 0)}
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** The crust by the dish that is there. */
function CrustOf({ grams }: { grams: number }) {
  const here = useHere();
  const { system } = useUnits();
  const [across, setAcross] = useState("10");
  const wanted = typedNumber(across);
  const crust = useCrust(here.slug, wanted);
  return (
    <div className="mt-3 flex flex-wrap items-end gap-4">
      <div className="w-32">
        <Field
          label="dish across, cm"
          error={
            crust.isError ? crust.error.message : across && !(wanted > 0) ? "Write a number." : undefined
          }
        >
          {(given) => (
            <input
              {...given}
              className="w-full"
              inputMode="decimal"
              value={across}
              onChange={(event) => setAcross(event.target.value)}
            />
          )}
        </Field>
      </div>
      {crust.data ? (
        <p role="status" className="pb-2 text-lg">
          <b className="tabular">{massText(crust.data.grams, system)}</b> a dish, enough for{" "}
          <b className="tabular">{Math.floor(grams / crust.data.grams + 1e-6)}</b>; {crust.data.flame_s} s of
          flame or {minutes(crust.data.grill_s)} under the grill; crisp for about {crust.data.crisp_min} min
        </p>
      ) : null}
    </div>
  );
}

/** What it comes to once everything has joined. */
function Outcome({ plan }: { plan: NonNullable<Batch["plan"]["finish"]> }) {
  const { system } = useUnits();
  const { folded, drinks, alcohol } = plan;
  if (!folded && !drinks.length && !alcohol) return null;
  return (
    <dl className="grid gap-x-6 gap-y-1 border-t border-hair pt-3 sm:grid-cols-[auto_minmax(0,1fr)]">
      {folded ? (
        <>
          <dt className="text-soft">folded</dt>
          <dd>
            <Facts
              of={[
                folded.word,
                `${fixed(folded.volume_ml / 1000, 2)} l`,
                `${fixed(folded.volume_ratio, 1)} times its liquid`,
                temperature(folded.at_c, system, 0),
                ...(folded.cold_word ? [`${folded.cold_word} after a night in the cold`] : []),
              ]}
            />
          </dd>
        </>
      ) : null}
      {drinks.map((drink) => (
        <Later key={drink.hours} hours={drink.hours}>
          <Facts of={[drink.word, `${massText(drink.taken_g, system)} of its water taken up`]} />
        </Later>
      ))}
      {alcohol ? (
        <>
          <dt className="text-soft">alcohol</dt>
          <dd>
            {massText(alcohol.kept_g, system)} of {massText(alcohol.given_g, system)} stay
          </dd>
        </>
      ) : null}
    </dl>
  );
}

function Later({ hours, children }: { hours: number; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-soft">{hours < 2 ? "after an hour" : "after a night"}</dt>
      <dd>{children}</dd>
    </>
  );
}
