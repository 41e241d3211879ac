import { Link } from "react-router";
import { useHere } from "../../api/here";
import { type HobMonth, type MonthOut, useMonths } from "../../api/log";
import { HEIGHT, MonthCurve, PAD, type PointOfMonth, placeOf, WIDTH } from "../../drawings/MonthCurve";
import { fixed, signed } from "../../kit/habits";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference, massText } from "../../kit/units";
import { monthName } from "../../kit/when";

/** The last twelve months at a glance: how batches ended, how they were lifted, what hobs gave. */
export function Months() {
  const here = useHere();
  const { system } = useUnits();
  const found = useMonths(here.slug);
  const back = <Link to={`/k/${here.slug}/log`}>Back to the log</Link>;
  if (found.isError)
    return <Failed title="The log" sentence={found.error.message} again={() => void found.refetch()} />;
  if (!found.data) return <Loading title="The log" what="the months" />;
  const { months, hobs, stages, costs, currency, thrown, checks } = found.data;
  if (!months.length)
    return (
      <Empty title="No month yet">
        <p>Once a batch is closed, its month stands here. {back}</p>
      </Empty>
    );
  const probes = [...new Set(checks.map(({ name }) => name))];
  const names = [...new Set(hobs.map(({ hob }) => hob))];
  return (
    <>
      <p className="mb-1">{back}</p>
      <h1>Twelve months at a glance</h1>
      <p className="mt-1 mb-5 text-soft">Rehearsals do not count. Nothing here ranks people.</p>
      <div className="grid items-start gap-x-10 gap-y-8 lg:grid-cols-2">
        <Ended months={months} />
        <MonthCurve
          title="Lifted over plan"
          points={months.map(({ month, over_k, over_spread_k }) => ({
            month,
            value: over_k,
            spread: over_spread_k ?? 0,
          }))}
          shown={(value) => signed(value, difference(Math.abs(value), system))}
          zero
        />
        <MonthCurve
          title="From taking it to the stove to closing it"
          points={months.map(({ month, minutes }) => ({ month, value: minutes, spread: 0 }))}
          shown={(value) => `${fixed(value, 0)} min`}
        />
        {months.some(({ yield_share }) => yield_share !== null) ? (
          <MonthCurve
            title="What it came to, of what was weighed"
            points={months.map(({ month, yield_share }) => ({ month, value: yield_share, spread: 0 }))}
            shown={(value) => `${fixed(100 * value, 0)} %`}
          />
        ) : null}
        {[...new Set(stages.map(({ stage }) => stage))].map((stage) => (
          <MonthCurve
            key={stage}
            title={`Minutes at ${stage}`}
            points={stages
              .filter((one) => one.stage === stage)
              .map(({ month, minutes }) => ({ month, value: minutes, spread: 0 }))}
            shown={(value) => `${fixed(value, value < 10 ? 1 : 0)} min`}
          />
        ))}
        <MonthCurve
          title="What 100 g cost, at today’s prices"
          points={costs.map(({ month, per_100_g }) => ({ month, value: per_100_g, spread: 0 }))}
          shown={(value) => `${currency} ${fixed(value, 2)}`}
        />
        {[...new Set(thrown.map(({ what }) => what))].map((what) => (
          <MonthCurve
            key={what}
            title={`Thrown away: ${what}`}
            points={thrown
              .filter((one) => one.what === what)
              .map(({ month, grams }) => ({ month, value: grams, spread: 0 }))}
            shown={(value) => massText(value, system)}
            zero
          />
        ))}
        {probes.map((probe) => (
          <MonthCurve
            key={probe}
            title={`How far ${probe} reads too high`}
            points={checks
              .filter(({ name }) => name === probe)
              .map(({ at, reads_high_k, error_k }) => ({
                month: at.slice(0, 7),
                value: reads_high_k,
                spread: error_k,
              }))
              .reverse()}
            shown={(value) => signed(value, difference(Math.abs(value), system))}
            zero
          />
        ))}
        {names.map((name) => (
          <MonthCurve
            key={name}
            title={`What ${name} gave`}
            points={ofHob(hobs, name)}
            shown={(value) => `${fixed(value, 0)} W`}
          />
        ))}
      </div>
      <Table months={months} system={system} />
      <Reasons reasons={found.data.reasons} system={system} />
    </>
  );
}

/** Why things were thrown away, the most grams first. */
function Reasons({
  reasons,
  system,
}: {
  reasons: readonly { why: string; grams: number; times: number }[];
  system: UnitSystem;
}) {
  if (!reasons.length) return null;
  return (
    <section aria-label="Why it was thrown away" className="mt-6 max-w-2xl">
      <h2>Why it was thrown away</h2>
      <ul>
        {reasons.map(({ why, grams, times }) => (
          <li key={why} className="flex justify-between gap-4 border-b border-hair py-1">
            <span className="min-w-0 break-words">{why || "no reason written"}</span>
            <span className="tabular shrink-0 text-soft">
              {massText(grams, system)}, {times === 1 ? "once" : `${times} times`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const ofHob = (hobs: readonly HobMonth[], name: string): PointOfMonth[] =>
  hobs
    .filter(({ hob }) => hob === name)
    .map(({ month, watts, spread_w }) => ({ month, value: watts, spread: spread_w }));

const VERDICT_FILLS = [
  ["good", "var(--color-herb)"],
  ["usable", "var(--color-yolk)"],
  ["discarded", "var(--color-brick)"],
] as const;

/** How the batches of each month ended, as bars. */
function Ended({ months }: { months: readonly MonthOut[] }) {
  const most = Math.max(...months.map(({ batches }) => batches));
  const high = HEIGHT - PAD.top - PAD.bottom;
  const wide = Math.min(30, (WIDTH - PAD.left - PAD.right) / months.length - 4);
  const said = months.map(
    ({ month, batches, discarded }) => `${monthName(month)} ${batches}, ${discarded} discarded`,
  );
  return (
    <figure>
      <figcaption className="font-bold">How batches ended: good, usable, discarded</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Batches: ${said.join("; ")}`}
      >
        <text x={PAD.left - 8} y={PAD.top + 10} textAnchor="end" fontSize="12" fill="var(--color-soft)">
          {most}
        </text>
        {months.map((month, i) => {
          let top = HEIGHT - PAD.bottom;
          return (
            <g key={month.month}>
              {VERDICT_FILLS.map(([verdict, fill]) => {
                const tall = (high * month[verdict]) / most;
                top -= tall;
                return (
                  <rect
                    key={verdict}
                    x={placeOf(i, months.length) - wide / 2}
                    y={top}
                    width={wide}
                    height={tall}
                    fill={fill}
                  />
                );
              })}
              <text
                x={placeOf(i, months.length)}
                y={HEIGHT - 6}
                textAnchor="middle"
                fontSize="12"
                fill="var(--color-soft)"
              >
                {monthName(month.month)}
              </text>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}

/** The same in figures, for whoever reads or listens. */
function Table({ months, system }: { months: readonly MonthOut[]; system: UnitSystem }) {
  return (
    <details className="mt-8">
      <summary className="inline-flex min-h-11 items-center">The same in figures</summary>
      <div className="overflow-x-auto">
        <table className="w-full text-left">
          <thead className="text-soft">
            <tr className="border-b border-iron">
              {["month", "batches", "good", "usable", "discarded", "over plan", "minutes"].map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="tabular">
            {months.map((one) => (
              <tr key={one.month} className="border-b border-hair">
                <th scope="row" className="py-1 pr-4 font-normal">
                  {one.month}
                </th>
                <td className="pr-4">{one.batches}</td>
                <td className="pr-4">{one.good}</td>
                <td className="pr-4">{one.usable}</td>
                <td className="pr-4">{one.discarded}</td>
                <td className="pr-4">
                  {one.over_k === null ? "–" : signed(one.over_k, difference(Math.abs(one.over_k), system))}
                </td>
                <td>{one.minutes === null ? "–" : fixed(one.minutes, 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
