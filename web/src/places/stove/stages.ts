import type { NewMark } from "../../api/queries";

/** A new mark of this moment. */
export type Say = (mark: Omit<NewMark, "id" | "at">) => void;

/** A mark of this moment; with an id of its own it is the same mark from whichever screen it comes. */
export type SayAs = (mark: Omit<NewMark, "id" | "at">, id?: string) => void;
