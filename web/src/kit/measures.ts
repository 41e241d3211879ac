/** Whose cups and pints, in words. */
export const MEASURE_WORDS: Record<string, string> = {
  metric: "metric cups (250 ml)",
  us: "US cups",
  imperial: "imperial pints",
  au: "Australian spoons",
};
