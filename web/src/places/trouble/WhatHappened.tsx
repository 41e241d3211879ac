import type { ReactNode } from "react";
import { useHere } from "../../api/here";
import { type Trouble, useTroubleActions } from "../../api/trouble";
import { CurveFrame, degreesAround, PLOT, type Point } from "../../drawings/CurveFrame";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";

const WORTH_SAYING = 0.03;

/** What happened, on its curve; the causes and how sure they are; what to do otherwise next time. */
export function WhatHappened({ told }: { told: Trouble }) {
  const { system } = useUnits();
  const [first, ...rest] = told.causes;
  // What is all but ruled out is not worth a cook's eye.
  const others = rest.filter((cause) => cause.sure >= WORTH_SAYING);
  if (!first) return null;
  return (
    <div className="grid gap-6">
      <section aria-label="What happened">
        <h2 className="mb-2 text-[1.15rem]">What happened</h2>
        {told.curve ? <Happened curve={told.curve} /> : null}
        <p className="mt-2 text-lg">{inUnits(first.say, system)}</p>
        <ul className="mt-3 grid gap-2" aria-label="How sure that is">
          {[first, ...others].map((cause) => (
            <li key={cause.cause} className={cause === first ? "font-bold" : "text-soft"}>
              <span className="flex items-center gap-2">
                <span className="tabular w-11 shrink-0 text-right">{Math.round(100 * cause.sure)} %</span>
                <span aria-hidden="true" className="h-2 grow bg-slate-pale">
                  <span className="block h-2 bg-slate" style={{ width: `${100 * cause.sure}%` }} />
                </span>
              </span>
              {cause === first ? null : (
                <span className="block pl-13 text-sm">{inUnits(cause.say, system)}</span>
              )}
            </li>
          ))}
        </ul>
        {told.unknown ? <p className="mt-3 text-sm text-soft">{inUnits(told.unknown, system)}</p> : null}
      </section>
      <NextTime told={told} />
      {told.now.good_for.length ? (
        <section aria-label="Still good for" className="border-t border-hair pt-4">
          <h2 className="mb-1 text-[1.15rem]">Still good for</h2>
          <ul className="list-disc pl-5">
            {told.now.good_for.map((use) => (
              <li key={use}>{use}</li>
            ))}
          </ul>
        </section>
      ) : null}
      <p className="border-l-4 border-brick pl-3 text-sm">{inUnits(told.caution, system)}</p>
    </div>
  );
}

function Happened({ curve }: { curve: NonNullable<Trouble["curve"]> }) {
  const { system } = useUnits();
  const points = curve.t_s.map((t, i): Point => [t, curve.c[i] ?? 0]);
  const ends = Math.max(60, curve.off_s ?? 0, ...curve.t_s);
  return (
    <figure>
      <CurveFrame
        label={`${curve.read ? "Its curve" : "How such a cook goes"}: to ${Math.round(Math.max(...curve.c))} °C`}
        times={[Math.min(0, ...curve.t_s), ends]}
        degrees={degreesAround(
          points.map(([, c]) => c),
          curve.window,
          curve.boiling_c,
          45,
        )}
        window={curve.window}
        system={system}
        tick={(minute) => `${minute} min`}
        over={(x) =>
          curve.off_s === null ? null : (
            <g>
              <line
                x1={x(curve.off_s)}
                x2={x(curve.off_s)}
                y1={PLOT.top}
                y2={PLOT.bottom}
                stroke="var(--color-copper)"
                strokeDasharray="2 4"
              />
              <text
                x={x(curve.off_s) - 6}
                y={PLOT.bottom - 10}
                textAnchor="end"
                fontSize="15"
                fill="var(--color-copper)"
              >
                off the heat
              </text>
            </g>
          )
        }
      >
        {(x, y) => (
          <path
            d={points.map(([t, c], i) => `${i ? "L" : "M"}${x(t).toFixed(1)} ${y(c).toFixed(1)}`).join("")}
            stroke="var(--color-iron)"
            strokeWidth="3"
            strokeDasharray={curve.read ? undefined : "7 5"}
          />
        )}
      </CurveFrame>
      {curve.read ? null : (
        <figcaption className="text-sm text-soft">
          Nobody read it: so it goes when such a thing happens.
        </figcaption>
      )}
    </figure>
  );
}

const WROTE: Record<string, string> = {
  line: "The formula has a new version with that change; the one before is kept.",
  school: "From now on this kitchen makes it so.",
  reminder: "It stands on the formula, and on the next batch of it.",
};

function NextTime({ told }: { told: Trouble }) {
  const here = useHere();
  const { system } = useUnits();
  const { nextTime } = useTroubleActions(here.slug);
  const cause = told.causes[0];
  if (!cause) return null;
  const { formula_id } = told.sauce;
  // What is known by its family only has no formula to write it to.
  if (formula_id === null) return <NextTimeSaid say={inUnits(cause.next, system)} />;
  const about = { formula_id, say: cause.next, batch: told.sauce.number, of_g: told.sauce.left_g };
  const chef = here.role === "chef";
  const may = here.role !== "viewer";
  return (
    <NextTimeSaid say={inUnits(cause.next, system)}>
      {may ? (
        <div className="mt-3 flex flex-wrap gap-2">
          {told.change && chef ? (
            <Button
              disabled={nextTime.isPending || nextTime.isSuccess}
              onClick={() => nextTime.mutate({ ...about, change: told.change })}
            >
              {inUnits(told.change.say, system)}
            </Button>
          ) : null}
          <Button disabled={nextTime.isPending || nextTime.isSuccess} onClick={() => nextTime.mutate(about)}>
            Say it next time
          </Button>
        </div>
      ) : null}
      {nextTime.isError ? <Notice tone="wrong">{nextTime.error.message}</Notice> : null}
      {nextTime.isSuccess ? (
        <div className="mt-2">
          <Notice>{WROTE[nextTime.data.wrote]}</Notice>
        </div>
      ) : null}
    </NextTimeSaid>
  );
}

function NextTimeSaid({ say, children }: { say: string; children?: ReactNode }) {
  return (
    <section aria-label="Next time" className="border-t border-hair pt-4">
      <h2 className="mb-1 text-[1.15rem]">Next time</h2>
      <p>{say}</p>
      {children}
    </section>
  );
}
