import type { Batch } from "../../api/queries";

type Planned = Batch["plan"]["stages"][number];

/** What a stage waits for: where it is lifted by hob and pan, at the cook; else as planned. */
export function waitsFor(batch: Batch, plan: Planned): number | null {
  return plan.stage === "cook" && batch.lift ? batch.lift.at_c : plan.at_c;
}

/** What is said at a stage, with the number that it waits for. */
export function saysFor(batch: Batch, plan: Planned): string {
  const at_c = waitsFor(batch, plan);
  if (plan.at_c === null || at_c === null) return plan.say;
  return plan.say.replaceAll(`{${plan.at_c.toFixed(1)} C}`, `{${at_c.toFixed(1)} C}`);
}
