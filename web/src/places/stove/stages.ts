import type { Batch } from "../../api/queries";

export type StageName = Batch["stage"];

export const STAGES: readonly StageName[] = ["weigh", "warm", "temper", "cook", "test", "chill", "keep"];
