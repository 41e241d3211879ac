import type { Batch, NewMark } from "../../api/queries";

export type StageName = Batch["stage"];

export const STAGES: readonly StageName[] = ["weigh", "warm", "temper", "cook", "test", "chill", "keep"];

/** A new mark of this moment. */
export type Say = (mark: Omit<NewMark, "id" | "at">) => void;
