import type { Batch, NewMark } from "../../api/queries";
import { Slip } from "../../kit/Slip";
import { useUnits } from "../../kit/system";
import type { Say } from "./stages";

interface Props {
  batch: Batch;
  waiting: readonly NewMark[];
  mayMark: boolean;
  say: Say;
}

/** The Slip with its ticks; what is still on its way counts as ticked. */
export function Weigh({ batch, waiting, mayMark, say }: Props) {
  const { system } = useUnits();
  const onTheWay = waiting.flatMap((mark) => (mark.kind === "tick" && mark.line != null ? [mark.line] : []));
  const ticked = [...new Set([...batch.ticked, ...onTheWay])];
  const tare = ticked.reduce((sum, line) => sum + (batch.plan.slip[line]?.mass_g ?? 0), 0);
  return (
    <Slip
      lines={batch.plan.slip}
      system={system}
      ticked={ticked}
      tare_g={tare}
      onTick={
        mayMark
          ? (line) => {
              if (!ticked.includes(line)) say({ stage: "weigh", kind: "tick", line, note: "" });
            }
          : null
      }
    />
  );
}
