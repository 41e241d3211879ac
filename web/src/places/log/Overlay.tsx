import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { type LaidBatch, useOverlay } from "../../api/log";
import type { Point } from "../../drawings/CurveFrame";
import { type Aligned, OverlayCurves, StrokeKey } from "../../drawings/OverlayCurves";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference, massText, temperature } from "../../kit/units";
import { day } from "../../kit/when";
import { VerdictWord } from "./VerdictWord";
import { WhyOther } from "./WhyOther";

/** At what moment curves begin together. */
const MOMENTS = [
  { value: "thickens", shown: "where each began to thicken", at: "it thickens" },
  { value: "pan", shown: "from the pan on", at: "in the pan" },
  { value: "lift", shown: "at the lift", at: "the lift" },
] as const;
type Moment = (typeof MOMENTS)[number]["value"];

/** The ids of batches in the address. */
export function idsOf(text: string | null): number[] {
  const found = (text ?? "").split(",").map(Number);
  return [...new Set(found.filter((id) => Number.isInteger(id) && id > 0))].slice(0, 8);
}

/** Batches laid over one another, what differed in them, and why one came out otherwise. */
export function Overlay() {
  const here = useHere();
  const { system } = useUnits();
  const [search] = useSearchParams();
  const [moment, setMoment] = useState<Moment>("thickens");
  const ids = idsOf(search.get("batches"));
  const found = useOverlay(here.slug, ids);
  const back = <Link to={`/k/${here.slug}/log`}>Back to the log</Link>;
  if (!ids.length)
    return (
      <Empty title="Nothing to lay over one another">
        <p>Tick two to eight batches in the log first. {back}</p>
      </Empty>
    );
  if (found.isError)
    return <Failed title="The log" sentence={found.error.message} again={() => void found.refetch()} />;
  if (!found.data) return <Loading title="The log" what="the curves" />;
  const batches = found.data;
  const [first] = batches;
  if (!first) return null;
  const at = MOMENTS.find((one) => one.value === moment) ?? MOMENTS[0];
  return (
    <>
      <p className="mb-1">{back}</p>
      <h1 className="break-words">{titleOf(batches)}</h1>
      <div className="mt-4 grid items-start gap-x-10 gap-y-8 xl:grid-cols-[minmax(0,1fr)_24rem]">
        <div className="grid min-w-0 gap-5">
          <Choice
            label="Begun together"
            options={MOMENTS.map(({ value, shown }) => ({ value, shown }))}
            value={moment}
            onChange={setMoment}
          />
          <OverlayCurves
            curves={batches.map((batch) => alignedAt(batch, moment))}
            window={first.window}
            boiling_c={first.boiling_c}
            moment={at.at}
            planned_c={first.planned_lift_c}
            ghost={ghostAt(first, moment)}
            system={system}
          />
          <p className="text-sm text-soft">
            A dot is the lift, a ring a spoon. The bands are those of batch {first.number}.{" "}
            {first.laid.ghost
              ? "The pale broad line is how it would have gone by its plan, from where it began. "
              : ""}
            {first.planned_lift_c === null
              ? ""
              : `The wedge at the right is where it was planned to be lifted, ${temperature(first.planned_lift_c, system)}.`}
          </p>
          <Differed batches={batches} system={system} />
        </div>
        <WhyOther batches={batches} />
      </div>
    </>
  );
}

function titleOf(batches: readonly LaidBatch[]): string {
  const [first] = batches;
  const one = batches.every(({ name }) => name === first?.name);
  if (batches.length === 1) return `Batch ${first?.number}, ${first?.name}`;
  if (one) return `${batches.length} batches of ${first?.name}, laid over one another`;
  return `${batches.length} batches, laid over one another`;
}

/** A batch's curve with its times counted from a moment of it; one that never came there counts from the pan. */
export function alignedAt(batch: LaidBatch, moment: Moment): Aligned {
  const { laid } = batch;
  const zero = { thickens: laid.thickens_s, pan: 0, lift: laid.lifted_s }[moment] ?? 0;
  const points = laid.t_s.map((t, i) => [t - zero, laid.celsius[i] ?? 0] as const);
  const { lifted_s, figures } = laid;
  return {
    id: batch.id,
    name: `${batch.number}`,
    points,
    lift: lifted_s === null || !figures ? null : [lifted_s - zero, figures.lift_c],
    spoons: (laid.spoons_s ?? []).flatMap((at_s) => {
      const then = points.findLast(([t]) => t <= at_s - zero);
      return then ? [[at_s - zero, then[1]] as const] : [];
    }),
  };
}

/** The plan of a batch with its times counted from the same moment; null where nothing was planned. */
export function ghostAt({ laid }: LaidBatch, moment: Moment): Point[] | null {
  const { ghost } = laid;
  if (!ghost) return null;
  const zero = { thickens: ghost.thickens_s, pan: 0, lift: ghost.lifted_s }[moment] ?? 0;
  return ghost.t_s.map((t, i) => [t - zero, ghost.celsius[i] ?? 0] as const);
}

/** What differed beside what came of it. */
function Differed({ batches, system }: { batches: readonly LaidBatch[]; system: UnitSystem }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left">
        <thead className="text-soft">
          <tr className="border-b border-iron">
            {["batch", "warmed", "lifted", "hottest", "spoon", "sieve", "came to", "verdict"].map((head) => (
              <th key={head} scope="col" className="py-1 pr-4 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {batches.map((batch, place) => (
            <tr key={batch.id} className="border-b border-hair align-top">
              <th scope="row" className="min-w-52 py-2 pr-4 font-normal">
                <span className="flex items-baseline gap-2">
                  <StrokeKey place={place} />
                  <span>
                    <Link to={`../stove/${batch.id}`} relative="path">
                      {batch.number}
                    </Link>
                    <Facts
                      className="text-sm text-soft"
                      of={[
                        day(batch.started_at),
                        batch.started_by,
                        batch.hob,
                        batch.pan,
                        batch.odd && "called odd",
                      ]}
                    />
                  </span>
                </span>
              </th>
              <td className="tabular py-2 pr-4 whitespace-nowrap">
                {batch.laid.figures ? `${difference(batch.laid.figures.rate_k_per_min, system)} a min` : "–"}
              </td>
              <td className="figure py-2 pr-4 text-[1.15rem]">
                {temperature(batch.laid.figures?.lift_c, system)}
              </td>
              <td className="tabular py-2 pr-4">{temperature(batch.laid.figures?.hottest_c, system)}</td>
              <td className="py-2 pr-4">
                {batch.coat ? (
                  <Facts inline of={[batch.coat, batch.finger_line && `line ${batch.finger_line}`]} />
                ) : (
                  "–"
                )}
              </td>
              <td className="py-2 pr-4">{batch.sieve || "–"}</td>
              <td className="tabular py-2 pr-4 whitespace-nowrap">
                {batch.yield_g === null ? "–" : massText(batch.yield_g, system)}
              </td>
              <td className="py-2">
                <VerdictWord verdict={batch.verdict} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
