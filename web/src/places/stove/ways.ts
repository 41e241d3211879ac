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
/** What putting a batch away is called: by what it is cooled by first, where that is known. */
export function intoTheCold(way: WayName, by: string | undefined): string {
  if (by === undefined) return COLD[way];
  if (by.startsWith("ice")) return "Into the ice";
  return by.includes("fridge") ? "Into the fridge" : "Away to cool";
}

/** Where it goes to grow cold. */
export const COLD: Record<WayName, string> = {
  coats: "Into the ice",
  boils: "Into the ice",
  mounds: "Into the fridge",
  sets: "Into the fridge",
};
