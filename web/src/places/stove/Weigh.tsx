import { useState } from "react";
import { useHere } from "../../api/here";
import { type Batch, type NewMark, useBatchActions } from "../../api/queries";
import { PrintedSlip, steps } from "../../drawings/PrintedSlip";
import { laidOut, Slip } from "../../drawings/Slip";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits } from "../../kit/units";
import { versionOf } from "./facts";
import { ScaleBar } from "./ScaleBar";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

/**
 * The Slip with its ticks; what is still on its way counts as ticked. A second touch takes a tick back, or,
 * when everything is checked twice, is the second pair of eyes.
 */
export function Weigh({ batch, waiting, mayMark, say }: Props) {
  const { system } = useUnits();
  const here = useHere();
  const { withdraw } = useBatchActions(here.slug, batch.id);
  const [wanted, setTwice] = useState<boolean | null>(null);
  const [reading, setReading] = useState<number | null>(null);
  const onTheWay = (kind: NewMark["kind"]) =>
    waiting.flatMap((mark) =>
      mark.stage === "weigh" && mark.kind === kind && mark.line != null ? [mark.line] : [],
    );
  const ticked = [...new Set([...batch.ticked, ...onTheWay("tick")])];
  const checked = [...new Set([...batch.checked, ...onTheWay("check")])];
  const twice = wanted ?? checked.length > 0;
  const slip = batch.plan.slip;
  const next = slip.findIndex((_, i) => !ticked.includes(i));
  // Each bowl has a tare of its own: only what stands in the same one counts.
  const tareOf = (laid: string | undefined) =>
    ticked.reduce((sum, line) => sum + (slip[line]?.laid === laid ? (slip[line]?.mass_g ?? 0) : 0), 0);
  const bowl = slip[next] ?? slip.at(-1);
  const tare = tareOf(bowl?.laid);
  const takeBack = (kind: "tick" | "check", line: number) => {
    for (const mark of batch.marks)
      if (mark.stage === "weigh" && mark.kind === kind && mark.line === line) withdraw.mutate(mark.id);
  };
  const touch = (line: number) => {
    if (!ticked.includes(line)) {
      // A reading no larger than what is on already is an old one, and says nothing of this line.
      const on = reading === null ? 0 : reading - tareOf(slip[line]?.laid);
      say({ stage: "weigh", kind: "tick", line, grams: on > 0 ? Math.round(10 * on) / 10 : null, note: "" });
    } else if (twice && !checked.includes(line)) say({ stage: "weigh", kind: "check", line, note: "" });
    else if (checked.includes(line)) takeBack("check", line);
    else takeBack("tick", line);
  };
  return (
    <>
      {mayMark ? (
        <ScaleBar
          bowl={laidOut(slip).length > 1 ? bowl?.laid : undefined}
          next={slip[next] ?? null}
          tare_g={tare}
          onRead={setReading}
        />
      ) : null}
      <Slip
        lines={slip}
        system={system}
        ticked={ticked}
        checked={twice ? checked : null}
        onTick={mayMark ? touch : null}
      />
      <div className="flex flex-wrap items-center gap-4">
        {mayMark ? (
          <label className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="size-6 min-h-0"
              checked={twice}
              onChange={(event) => setTwice(event.target.checked)}
            />
            check every line twice
          </label>
        ) : null}
        <Button onClick={() => window.print()}>Print the slip</Button>
      </div>
      {twice && ticked.length === slip.length && checked.length < slip.length ? (
        <p role="status" className="text-soft">
          {slip.length - checked.length} still to be looked at by a second pair of eyes.
        </p>
      ) : null}
      {withdraw.isError ? <Notice tone="wrong">{withdraw.error.message}</Notice> : null}
      <PrintedSlip
        title={batch.name}
        about={[`batch ${batch.number}`, versionOf(batch), here.name]}
        lines={slip}
        signs={steps(batch.plan).map((step) => inUnits(step, system))}
        allergens={batch.plan.allergens}
        system={system}
      />
    </>
  );
}
