export type Laid = "pan" | "yolk bowl" | "finish tray";

/** The nine moments at which a line joins, in the order in which they come. */
export const WHENS = [
  "infused",
  "in the dairy",
  "with the yolks",
  "in the pan",
  "off the heat",
  "under it",
  "folded when cool",
  "afterwards",
  "on top",
] as const;
export type When = (typeof WHENS)[number];

/** A moment as it is said where the others stand around it. */
export const whenShown = (when: When): string => (when === "under it" ? "poured over it" : when);

/** Moments that go without saying where a slip is laid out bowl by bowl. */
const PLAIN: readonly string[] = ["in the pan", "in the dairy", "with the yolks"];

/** What is said of a moment beside a line of the slip; nothing where its bowl says it. */
export const whenText = (when: string): string => (PLAIN.includes(when) ? "" : when);
