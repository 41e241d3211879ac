import type { Live } from "../../../api/live";

export type Way = Live["way"];

/** What the touches are called, for each way in which a sauce is done. */
export const TESTED: Record<Way, string> = {
  coats: "Spoon tested",
  boils: "Spoon tested",
  mounds: "Ribbon tested",
  sets: "Cup nudged",
};
export const OFF: Record<Way, string> = {
  coats: "Off the heat",
  boils: "Off the heat",
  mounds: "Bowl off the steam",
  sets: "Out of the oven",
};
export const COLD: Record<Way, string> = {
  coats: "Into the ice",
  boils: "Into the ice",
  mounds: "Over the ice",
  sets: "Into the fridge",
};
