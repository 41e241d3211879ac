import { Fragment, useEffect, useState } from "react";
import { useHere } from "../../api/here";
import { usePours } from "../../api/live";
import type { Batch } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Field } from "../../kit/Field";
import { fixed } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { difference, massText, temperature } from "../../kit/units";
import { minutes } from "../../shared/ticking";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  waiting: readonly number[];
  mayMark: boolean;
  say: Say;
}

const LADLES_G = [50, 80, 120, 180] as const;
const SHOWN_AT_MOST = 12;
/** From this share of the egg curdling where a pour falls, a cook would find threads. */
const THREADS = 0.01;

/** The tempering pour by pour: what each leaves the bowl at, to be ticked as it goes in. */
export function Pours({ batch, waiting, mayMark, say }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const [ladle, setLadle] = useState(80);
  const found = usePours(here.slug, batch.id, ladle);
  if (found.isError) return <Failed sentence={found.error.message} again={() => void found.refetch()} />;
  if (found.isPending) return <Loading what="the pours" />;
  if (!found.data) return null;
  const pours = found.data;
  const done = new Set([
    ...batch.marks.flatMap((mark) =>
      mark.kind === "pour" && mark.stage === "temper" && mark.line !== null ? [mark.line] : [],
    ),
    ...waiting,
  ]);
  const every = Math.max(1, Math.ceil(pours.pours.length / SHOWN_AT_MOST));
  const shown = pours.pours
    .map((pour, line) => ({ ...pour, line }))
    .filter(({ line }) => line % every === every - 1 || line === pours.pours.length - 1);
  const poured = (line: number) => pours.pours.slice(0, line + 1).reduce((sum, one) => sum + one.poured_g, 0);
  return (
    <section aria-label="Pours" className="grid gap-3">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <Facts
          className="text-lg"
          of={[
            pours.g_per_s === null
              ? `${pours.pours.length} ladles`
              : `A thin stream, ${massText(pours.g_per_s, system)} a second`,
            `hot ${temperature(pours.hot_c, system, 0)}`,
            <Fragment key="landing">
              it lands at <b className="tabular">{temperature(pours.landing_c, system)}</b>
            </Fragment>,
          ]}
        />
        {pours.school === "ladle" ? (
          <Field label="Your ladle holds">
            {(given) => (
              <select {...given} value={ladle} onChange={(event) => setLadle(Number(event.target.value))}>
                {LADLES_G.map((grams) => (
                  <option key={grams} value={grams}>
                    {massText(grams, system)}
                  </option>
                ))}
              </select>
            )}
          </Field>
        ) : null}
      </div>
      <ol className="flex flex-wrap gap-2">
        {shown.map((pour) => (
          <li key={pour.line}>
            <button
              type="button"
              aria-pressed={done.has(pour.line)}
              disabled={!mayMark || done.has(pour.line)}
              onClick={() => say({ stage: "temper", kind: "pour", line: pour.line, note: "" })}
              className={`grid min-h-[72px] min-w-24 place-items-center border-2 px-2 py-1 ${done.has(pour.line) ? "border-herb text-herb" : pour.local_curdling > THREADS ? "border-brick" : "border-line"}`}
            >
              <span className="tabular text-sm">
                {done.has(pour.line) ? "✓ " : ""}
                {massText(poured(pour.line), system)} in
              </span>
              <span className="figure text-xl">{temperature(pour.bowl_c, system)}</span>
            </button>
          </li>
        ))}
      </ol>
      <p className="text-soft">
        {pours.worst_local_curdling > THREADS
          ? `Where a pour falls, up to ${fixed(100 * pours.worst_local_curdling, 0)} % of the egg curdles before the whisk has spread it: pour more slowly.`
          : "Nothing scrambles where the pours fall, whisked as fast as most people whisk."}
      </p>
      <p className="text-soft">
        {pours.to_heat_s === null
          ? `${difference(pours.to_go_k, system)} more on the heat.`
          : `About ${inMinutes(pours.to_heat_s)} more on the heat.`}
      </p>
      <SugarOnYolks batch={batch} mayMark={mayMark} say={say} waits_s={pours.sugar_waits_s} />
    </section>
  );
}

/** Sugar draws water out of yolks: how long it has lain there, and when that is too long. */
function SugarOnYolks({ batch, mayMark, say, waits_s }: Omit<Props, "waiting"> & { waits_s: number }) {
  const since = batch.marks.findLast((mark) => mark.kind === "sugar-on")?.at ?? null;
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (since === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [since]);
  const tempered = batch.done.includes("temper") || batch.marks.some((mark) => mark.kind === "pour");
  if (tempered) return null;
  if (since === null)
    return mayMark ? (
      <Button
        className="justify-self-start"
        onClick={() => say({ stage: "temper", kind: "sugar-on", note: "" })}
      >
        Sugar is on the yolks: start the clock
      </Button>
    ) : null;
  const lain = Math.max(0, ((now - Date.parse(since)) / 1000) * batch.pace);
  return (
    <Notice tone={lain > waits_s ? "wrong" : "calm"}>
      Sugar has lain on the yolks for <b className="tabular">{minutes(lain)}</b>.{" "}
      {lain > waits_s ? "Whisk now; look for hard grains." : "Whisk before it draws their water out."}
    </Notice>
  );
}

/** A time as a cook says it: to the minute, and a short one to ten seconds. */
function inMinutes(seconds: number): string {
  if (seconds < 90) return `${Math.max(10, Math.round(seconds / 10) * 10)} seconds`;
  return `${Math.round(seconds / 60)} minutes`;
}
