import { line } from "d3-shape";
import { Link, useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { type Attempt, type Debrief, useAttemptActions, useChefActions } from "../../api/practice";
import { CurveFrame, degreesAround, PLOT, type Point } from "../../drawings/CurveFrame";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import { clockText } from "./clock";
import { PanDrawing } from "./PanDrawing";

interface Props {
  attempt: Attempt;
  debrief: Debrief;
}

/** Afterwards: points, what mattered most, the whole curve, what it looked like, and again from where it went wrong. */
export function Debriefing({ attempt, debrief }: Props) {
  const { system } = useUnits();
  return (
    <div className="grid gap-x-10 gap-y-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,30rem)]">
      <div className="min-w-0">
        <Facts className="text-soft" of={[!attempt.mine && attempt.who, attempt.name, attempt.formula]} />
        <h1 className="flex flex-wrap items-baseline gap-x-4">
          <span className="text-[3.2rem]">{debrief.points}</span>
          <span className="text-[1.5rem]">
            {debrief.passed ? "of a hundred, passed" : "of a hundred, not passed yet"}
          </span>
        </h1>
        <p className="mt-2 max-w-2xl text-xl">{inUnits(debrief.most, system)}</p>
        {attempt.again_s !== null && debrief.passed ? (
          <p className="mt-2">
            From {clockText(attempt.again_s)} on. A run from the beginning is what counts in your book.
          </p>
        ) : null}
        <p className="mt-2 text-soft">{inUnits(debrief.hidden, system)}</p>
        {debrief.best && !debrief.saved ? (
          <p>
            <b>The best here:</b> {inUnits(debrief.best, system)}
          </p>
        ) : null}
        {debrief.real ? <p>{inUnits(debrief.real, system)}</p> : null}
        {debrief.saved ? (
          <p>
            <b>What saves it:</b> {inUnits(debrief.saved, system)}
          </p>
        ) : null}
        <Next attempt={attempt} debrief={debrief} />
        <Points debrief={debrief} />
      </div>
      <div className="min-w-0">
        <Curves debrief={debrief} />
        <DoneList debrief={debrief} />
      </div>
      <Moments attempt={attempt} debrief={debrief} />
    </div>
  );
}

function Next({ attempt, debrief }: Props) {
  const here = useHere();
  const navigate = useNavigate();
  const { begin, again } = useAttemptActions(here.slug);
  const to = { onSuccess: (made: Attempt) => navigate(`../practice/${made.id}`) };
  const wrong = begin.error ?? again.error;
  return (
    <div className="my-4">
      <div className="flex flex-wrap items-center gap-3">
        {attempt.mine && debrief.again_s !== null && debrief.again_s !== undefined ? (
          <Button
            look="solid"
            disabled={again.isPending}
            onClick={() =>
              again.mutate({ attempt_id: attempt.id, id: newId(), from_s: debrief.again_s ?? 0 }, to)
            }
          >
            Again from {clockText(debrief.again_s)}
          </Button>
        ) : null}
        {attempt.mine ? (
          <Button
            look={debrief.again_s ? "quiet" : "solid"}
            disabled={begin.isPending}
            onClick={() => begin.mutate({ id: newId(), like: attempt.id }, to)}
          >
            {attempt.that_day ? "Once more from there" : "Again, on another hob"}
          </Button>
        ) : null}
        {here.role === "chef" && !attempt.mine ? <Assess attempt={attempt} /> : null}
        <Link to="../practice" className="flex min-h-11 items-center">
          Practice
        </Link>
        {attempt.that_day ? (
          <Link to={`../stove/${attempt.that_day.batch_id}`} className="flex min-h-11 items-center">
            The batch
          </Link>
        ) : null}
      </div>
      {wrong ? <Notice tone="wrong">{wrong.message}</Notice> : null}
    </div>
  );
}

function Assess({ attempt }: { attempt: Attempt }) {
  const here = useHere();
  const navigate = useNavigate();
  const { beginSheet } = useChefActions(here.slug);
  const first = attempt.sheets[0];
  if (first !== undefined) return <Link to={`../practice/sheets/${first}`}>Its sheet</Link>;
  return (
    <>
      <Button
        disabled={beginSheet.isPending}
        onClick={() =>
          beginSheet.mutate(
            { person_id: attempt.person_id, attempt_id: attempt.id, batch_id: null, over: "" },
            { onSuccess: (made) => navigate(`../practice/sheets/${made.id}`) },
          )
        }
      >
        Assess it
      </Button>
      {beginSheet.isError ? <Notice tone="wrong">{beginSheet.error.message}</Notice> : null}
    </>
  );
}

function Points({ debrief }: { debrief: Debrief }) {
  const { system } = useUnits();
  return (
    <table className="w-full max-w-2xl">
      <caption className="sr-only">What was lost where</caption>
      <thead>
        <tr className="border-b border-iron text-left text-soft">
          <th className="py-1 font-normal">what</th>
          <th className="py-1 font-normal">yours</th>
          <th className="py-1 font-normal">the best run</th>
          <th className="py-1 text-right font-normal">lost</th>
        </tr>
      </thead>
      <tbody>
        {debrief.items.map((item) => (
          <tr key={item.key} className="border-b border-hair align-top">
            <td className="py-1.5 pr-3">{inUnits(item.name, system)}</td>
            <td className="py-1.5 pr-3">{inUnits(item.yours, system)}</td>
            <td className="py-1.5 pr-3 text-soft">{inUnits(item.best, system)}</td>
            <td
              className={`tabular py-1.5 text-right ${item.lost >= 1 ? "font-bold text-brick" : "text-soft"}`}
            >
              {item.lost >= 0.05 ? `−${fixed(item.lost, item.lost < 10 ? 1 : 0)}` : "0"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Curves({ debrief }: { debrief: Debrief }) {
  const { system } = useUnits();
  const points = (curve: Debrief["curve"], c: readonly number[]): Point[] =>
    curve.t_s.slice(0, c.length).map((t, i) => [t, c[i] ?? 0]);
  const yours = points(debrief.curve, debrief.curve.sauce_c);
  const best = points(debrief.best_curve, debrief.best_curve.sauce_c);
  const real = debrief.real_curve ? points(debrief.real_curve, debrief.real_curve.sauce_c) : [];
  if (yours.length < 2 || !debrief.window) return null;
  const base = points(debrief.curve, debrief.curve.base_c);
  const probe = points(debrief.curve, debrief.curve.probe_c);
  const ends = Math.max(...yours.map(([t]) => t), ...best.map(([t]) => t), ...real.map(([t]) => t), 60);
  const all = [...yours, ...best, ...real].map(([, c]) => c);
  const [low, high] = degreesAround(all, debrief.window, debrief.boiling_c ?? 100);
  const told = debrief.done.filter((done) => ["off", "out", "back"].includes(done.say));
  // Of two that fall together the later is written.
  const marks = told.filter((mark, i) => ((told[i + 1]?.at_s ?? Infinity) - mark.at_s) / ends > 0.05);
  const long = ends > 3 * 3600;
  return (
    <figure>
      <CurveFrame
        label={`Curve of ${yours.length} points, beside the best run; ${marks.map((mark) => `${mark.say} at ${clockText(mark.at_s)}`).join(", ")}`}
        times={[0, ends]}
        degrees={[low, high]}
        window={debrief.window}
        system={system}
        tick={(minute) => (long ? `${Math.round(minute / 60)} h` : `${minute} min`)}
        over={(x) =>
          marks.map((mark) => (
            <g key={`${mark.at_s} ${mark.say}`}>
              <line
                x1={x(mark.at_s)}
                x2={x(mark.at_s)}
                y1={PLOT.top}
                y2={PLOT.bottom}
                stroke="var(--color-copper)"
                strokeDasharray="2 4"
              />
              <text
                transform={`translate(${x(mark.at_s) - 4} ${PLOT.bottom - 8}) rotate(-90)`}
                fontSize="14"
                fill="var(--color-copper)"
              >
                {mark.say}
              </text>
            </g>
          ))
        }
      >
        {(x, y) => {
          const path = line<Point>(
            ([t]) => x(t),
            ([, c]) => y(c),
          );
          return (
            <>
              <path
                d={path(base) ?? ""}
                stroke="var(--color-copper)"
                strokeWidth="1.5"
                strokeDasharray="1 4"
              />
              <path
                d={path(best) ?? ""}
                stroke="var(--color-slate)"
                strokeWidth="2.5"
                strokeDasharray="7 5"
              />
              <path
                d={path(real) ?? ""}
                stroke="var(--color-brick)"
                strokeWidth="2.5"
                strokeDasharray="2 5"
              />
              <path d={path(probe) ?? ""} stroke="var(--color-soft)" strokeWidth="1.5" />
              <path d={path(yours) ?? ""} stroke="var(--color-iron)" strokeWidth="3" />
            </>
          );
        }}
      </CurveFrame>
      <figcaption>
        <Facts
          className="text-sm text-soft"
          of={[
            "black: your sauce",
            "dashed: the best run on this hob",
            "dotted: the base of the pan",
            real.length > 0 && "red dots: that day",
            probe.length > 0 && "thin: what the probe read",
          ]}
        />
      </figcaption>
    </figure>
  );
}

function DoneList({ debrief }: { debrief: Debrief }) {
  if (debrief.done.length === 0) return null;
  return (
    <div className="mt-2 text-sm">
      <b>What you did</b>
      <Facts of={debrief.done.map((done) => `${clockText(done.at_s)} ${done.say}`)} />
    </div>
  );
}

function Moments({ attempt, debrief }: Props) {
  const seen = debrief.moments.filter((moment) => moment.picture.pan);
  if (seen.length === 0) return null;
  return (
    <section aria-label="What it looked like" className="lg:col-span-2">
      <h2>What it looked like</h2>
      <ol className="mt-2 grid gap-4 sm:grid-cols-3 lg:grid-cols-5">
        {seen.map((moment) => (
          <li key={moment.at_s} className="min-w-0">
            <p>
              <b className="tabular">{clockText(moment.at_s)}</b> {moment.title}
            </p>
            {moment.picture.pan ? (
              <PanDrawing
                pan={moment.picture.pan}
                label={`The pan at ${clockText(moment.at_s)}`}
                over_steam={attempt.over_steam}
                still
              />
            ) : null}
            <Facts className="text-sm" of={moment.picture.tells} />
          </li>
        ))}
      </ol>
    </section>
  );
}
