import type { ImportOut } from "../../api/bench";
import { asFormulaHasIt, ownValue } from "../../api/ingredients";
import type { OwnIngredient } from "../../api/kitchen";
import type { Draft } from "../../api/queries";
import type { When } from "../../contract/words";

type ReadLine = ImportOut["lines"][number];

/** A line of a recipe while it is settled. */
export interface Settling extends ReadLine {
  /** It goes into the formula. */
  keep: boolean;
  /** What was assumed is agreed to. */
  accepted: boolean;
}

export type State = "sure" | "assumed" | "open" | "note" | "left out";

/** How far a line is settled. */
export function stateOf(line: Settling): State {
  if (!line.keep) return "left out";
  if (line.as_note) return "note";
  if (!line.ingredient || !line.amount.trim()) return "open";
  return line.assumed.length && !line.accepted ? "assumed" : "sure";
}

/** The lines of a recipe as they are first shown. */
export const settling = (found: ImportOut): readonly Settling[] =>
  found.lines.map((line) => ({ ...line, keep: true, accepted: false }));

/** A line changed by a hand is agreed to. */
export const changed = (line: Settling, more: Partial<Settling>): Settling => ({
  ...line,
  ...more,
  as_note: false,
  accepted: true,
});

const weighed = (line: Settling) => ["sure", "assumed"].includes(stateOf(line));

/** Which lines go into the formula: their places among all. */
export const placesOf = (lines: readonly Settling[]): number[] =>
  lines.flatMap((line, at) => (weighed(line) ? [at] : []));

/** The ingredient of a line as a formula has it: one of the kitchen's own by its composition. */
function ingredientOf({ ingredient }: Settling, own: readonly OwnIngredient[]) {
  const mine = own.find((one) => ownValue(one) === ingredient);
  return mine ? asFormulaHasIt(mine) : ingredient;
}

/** What a person chose of a recipe; `card` is what it says in figures, without those that were left out. */
interface Chosen {
  name: string;
  family: string;
  own: readonly OwnIngredient[];
  card?: ImportOut["card"];
}

/** The formula that the settled lines make so far. */
export function draftOf(
  found: ImportOut,
  lines: readonly Settling[],
  { name, family, own, card = found.card }: Chosen,
): Draft {
  if (found.draft) return { ...found.draft, name };
  return {
    name,
    family: family as Draft["family"],
    eggs: found.eggs as NonNullable<Draft["eggs"]>,
    measures: found.measures as NonNullable<Draft["measures"]>,
    card,
    lines: lines.filter(weighed).map((line) => ({
      ingredient: ingredientOf(line, own),
      amount: line.amount,
      note: line.note,
      ...(line.when ? { when: line.when as When } : {}),
      ...(line.when === "infused" && line.minutes ? { minutes: line.minutes } : {}),
    })),
  };
}

/** The place of the next line after one that is not settled; null where all are. */
export function nextUnsettled(lines: readonly Settling[], after: number): number | null {
  const order = lines.map((_, step) => (after + 1 + step) % lines.length);
  return order.find((at) => ["open", "assumed"].includes(stateOf(lines[at] as Settling))) ?? null;
}
