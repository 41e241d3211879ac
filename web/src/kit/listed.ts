const AND = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** "milk, egg and almond" */
export function listed(words: readonly string[]): string {
  return AND.format(words);
}
