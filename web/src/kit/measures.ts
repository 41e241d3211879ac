import type { Measures } from "../contract/words";

/** Whose cups and pints, in words. */
export const MEASURE_WORDS: Record<Measures, string> = {
  metric: "metric cups (250 ml)",
  us: "US cups",
  imperial: "imperial pints",
  au: "Australian spoons",
};
