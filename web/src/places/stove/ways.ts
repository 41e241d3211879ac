import type { Batch, NewMark } from "../../api/queries";

export type Way = Batch["way"];

/** How it is tested; every table here has a word for each way in which a sauce is done. */
export const TESTED: Record<Way, string> = {
  coats: "Spoon tested",
  boils: "Spoon tested",
  mounds: "Ribbon tested",
  sets: "Cup nudged",
};
/** What puts it back on the heat. */
export const BACK_ON: Record<Way, string> = {
  coats: "Back on the heat",
  boils: "Back on the heat",
  mounds: "Bowl back on the steam",
  sets: "Back in the oven",
};
/** What the whisk shows, from the liquid on. */
export const RIBBONS = ["liquid", "froth", "ribbons", "mounds"] as const satisfies readonly NewMark["what"][];
/** What a nudged cup does, from the milk on. */
export const WOBBLES = [
  "liquid",
  "wide wobble",
  "wobbles like a coin",
  "springs back",
] as const satisfies readonly NewMark["what"][];
/** What ends the heat. */
export const OFF: Record<Way, string> = {
  coats: "Off the heat",
  boils: "Off the heat",
  mounds: "Bowl off the steam",
  sets: "Out of the oven",
};
/** What is written at the notch of the rule. */
export const NOTCH: Record<Way, string> = {
  coats: "lift here",
  boils: "off here",
  mounds: "off here",
  sets: "out here",
};
/** What putting this batch away is called: by how it is cooled, once that was chosen. */
export function intoTheCold(batch: Batch): string {
  const by = batch.cooling?.ways[0]?.by;
  return by && !by.startsWith("ice") ? "Away to cool" : COLD[batch.way];
}

/** Where it goes to grow cold. */
export const COLD: Record<Way, string> = {
  coats: "Into the ice",
  boils: "Into the ice",
  mounds: "Into the fridge",
  sets: "Into the fridge",
};
