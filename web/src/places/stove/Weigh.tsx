import { type Batch, type NewMark, useBatchActions } from "../../api/queries";
import { useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { Slip } from "../../kit/Slip";
import { useUnits } from "../../kit/system";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

/** The Slip with its ticks; what is still on its way counts as ticked. A second touch takes a tick back. */
export function Weigh({ batch, waiting, mayMark, say }: Props) {
  const { system } = useUnits();
  const here = useHere();
  const { withdraw } = useBatchActions(here.slug, batch.id);
  const onTheWay = waiting.flatMap((mark) => (mark.kind === "tick" && mark.line != null ? [mark.line] : []));
  const ticked = [...new Set([...batch.ticked, ...onTheWay])];
  const tare = ticked.reduce((sum, line) => sum + (batch.plan.slip[line]?.mass_g ?? 0), 0);
  const touch = (line: number) => {
    if (!ticked.includes(line)) say({ stage: "weigh", kind: "tick", line, note: "" });
    else
      for (const mark of batch.marks)
        if (mark.kind === "tick" && mark.line === line) withdraw.mutate(mark.id);
  };
  return (
    <>
      <Slip
        lines={batch.plan.slip}
        system={system}
        ticked={ticked}
        tare_g={tare}
        onTick={mayMark ? touch : null}
      />
      {withdraw.isError ? <Notice tone="wrong">{withdraw.error.message}</Notice> : null}
    </>
  );
}
