import type { Batch } from "../../api/queries";

type Planned = Batch["plan"]["stages"][number];

/** What a stage waits for: where it is lifted by hob and pan, at the cook; else as planned. */
export function waitsFor(batch: Batch, plan: Planned): number | null {
  return plan.stage === "cook" && batch.lift ? batch.lift.at_c : plan.at_c;
}
