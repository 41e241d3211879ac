const AND = new Intl.ListFormat("en-GB", { type: "conjunction" });

/** "milk, egg and almond" */
export function listed(words: readonly string[]): string {
  return AND.format(words);
}

/** Words typed with commas; one within brackets sets no two apart: "milk, nuts (hazelnuts, walnuts)". */
export const typedWords = (text: string) =>
  text
    .split(/,(?![^(]*\))/)
    .map((word) => word.trim())
    .filter(Boolean);

/** Short facts beside each other where only text can stand: an option, a label. */
export function beside(facts: readonly (string | number | null | undefined | false)[]): string {
  return facts.filter(Boolean).join(" · ");
}
