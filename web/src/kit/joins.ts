import type { When } from "../contract/words";

/** A moment as it is said where the others stand around it. */
export const whenShown = (when: When): string => (when === "under it" ? "poured over it" : when);

/** Moments that go without saying where a slip is laid out bowl by bowl. */
const PLAIN: readonly string[] = ["in the pan", "in the dairy", "with the yolks"];

/** What is said of a moment beside a line of the slip; nothing where its bowl says it. */
export const whenText = (when: string): string => (PLAIN.includes(when) ? "" : when);
