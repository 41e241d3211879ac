import { useHere } from "../../api/here";
import { type BatchRecord, useBatchRecord } from "../../api/log";
import type { Batch } from "../../api/queries";
import { CoolingCurve } from "../../drawings/CoolingCurve";
import { Facts } from "../../kit/Facts";
import { Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, temperature } from "../../kit/units";
import { when } from "../../kit/when";

const POINTS = 120;
const WORDS: Record<BatchRecord["limits"][number]["state"], string> = {
  kept: "kept",
  "will be kept": "would be kept",
  "in danger": "only just, or too late",
  "will be missed": "would be missed",
  missed: "missed",
};

/** How a closed batch was cooled, to be read: limits, when each was kept, by whom, and the curve. */
export function CooledRecord({ batch }: { batch: Batch }) {
  const here = useHere();
  const { system } = useUnits();
  const record = useBatchRecord(here.slug, batch.id);
  if (record.isPending) return <Loading what="how it was cooled" />;
  if (record.isError) return <Failed sentence={record.error.message} again={() => void record.refetch()} />;
  const found = record.data;
  const began = batch.marks.find((mark) => mark.kind === "into-ice");
  const from = Date.parse(began?.at ?? found.started_at);
  const seconds = (at: string) => ((Date.parse(at) - from) / 1000) * batch.pace;
  const read = found.temperatures.flatMap((one) =>
    seconds(one.at) >= 0 ? [[seconds(one.at), one.celsius] as const] : [],
  );
  const shown = read.filter((_, i) => i % Math.max(1, Math.ceil(read.length / POINTS)) === 0);
  const typed = found.temperatures.filter((one) => one.read_by !== "probe" && seconds(one.at) >= 0);
  return (
    <section aria-label="How it was cooled" className="grid gap-4 border border-hair bg-paper p-4">
      <h3 className="text-[1.2rem]">How it was cooled</h3>
      <p>{inUnits(found.rule, system)}</p>
      {found.limits.length ? (
        <ul aria-label="Limits">
          {found.limits.map((one) => (
            <li
              key={one.limit_c}
              className="flex flex-wrap justify-between gap-x-4 border-b border-hair py-1.5"
            >
              <Facts
                of={[
                  `below ${temperature(one.limit_c, system, 0)}`,
                  one.due_at !== null && `by ${when(one.due_at)}`,
                ]}
              />
              <Facts
                className={`font-bold ${one.state === "kept" ? "text-herb" : "text-brick"}`}
                of={[WORDS[one.state], one.reached_at !== null && when(one.reached_at)]}
              />
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-brick">No cooling was followed.</p>
      )}
      {shown.length > 1 ? (
        <CoolingCurve
          label="Cooling, as it was read"
          t_s={shown.map(([t]) => t)}
          core_c={shown.map(([, c]) => c)}
          slow_c={shown.map(([, c]) => c)}
          limits={found.limits.map((one) => ({
            limit_c: one.limit_c,
            at_s: one.due_at === null ? null : seconds(one.due_at),
            kept: one.state === "kept",
          }))}
          system={system}
        />
      ) : null}
      <ul aria-label="Who read it">
        {began ? (
          <li>
            <Facts of={["put away", when(began.at), began.by]} />
          </li>
        ) : null}
        {typed.map((one) => (
          <li key={one.at}>
            <Facts of={[temperature(one.celsius, system), when(one.at), one.read_by]} />
          </li>
        ))}
        {read.length > typed.length ? (
          <li>
            <Facts of={["probe", `${read.length - typed.length} readings, in the record`]} />
          </li>
        ) : null}
        {found.decided.map((one) => (
          <li key={one} className="font-bold text-brick">
            <Facts of={["decided", one]} />
          </li>
        ))}
      </ul>
    </section>
  );
}
