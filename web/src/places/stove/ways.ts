import type { Batch } from "../../api/queries";
import type { WayName } from "../../contract/words";

/** How it is tested; every table here has a word for each way in which a sauce is done. */
export const TESTED: Record<WayName, string> = {
  coats: "Spoon tested",
  boils: "Spoon tested",
  mounds: "Ribbon tested",
  sets: "Cup nudged",
};
/** What puts it back on the heat. */
export const BACK_ON: Record<WayName, string> = {
  coats: "Back on the heat",
  boils: "Back on the heat",
  mounds: "Bowl back on the steam",
  sets: "Back in the oven",
};
/** What ends the heat. */
export const OFF: Record<WayName, string> = {
  coats: "Off the heat",
  boils: "Off the heat",
  mounds: "Bowl off the steam",
  sets: "Out of the oven",
};
/** What is written at the notch of the rule. */
export const NOTCH: Record<WayName, string> = {
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
export const COLD: Record<WayName, string> = {
  coats: "Into the ice",
  boils: "Into the ice",
  mounds: "Into the fridge",
  sets: "Into the fridge",
};
