/** The pages of the kitchen, in their order. */
export const KITCHEN_PAGES = [
  { to: "house", shown: "House" },
  { to: "people", shown: "People" },
  { to: "hobs", shown: "Hobs and pans" },
  { to: "learned", shown: "What was learned" },
  { to: "cooling", shown: "Cooling" },
  { to: "vessels", shown: "Vessels" },
  { to: "probes", shown: "Probes, scales, screens" },
  { to: "prices", shown: "Prices" },
  { to: "own", shown: "Our own ingredients" },
  { to: "rules", shown: "Rules" },
  { to: "audit", shown: "Who did what" },
  { to: "archive", shown: "Archive" },
  { to: "you", shown: "You" },
] as const;

export type KitchenPageName = (typeof KITCHEN_PAGES)[number]["to"];

/** Pages that only a chef sees. */
const CHEFS: readonly KitchenPageName[] = ["audit", "archive"];

/** Those that somebody of a role sees. */
export const kitchenPages = (role: string) =>
  KITCHEN_PAGES.filter((one) => role === "chef" || !CHEFS.includes(one.to));
