export type VesselKind = "bowl" | "tray" | "tub" | "cups" | "bags";

/** What sauces lie in; what is round is measured across and needs no width. */
export const VESSEL_KINDS: readonly { value: VesselKind; shown: string; round: boolean }[] = [
  { value: "bowl", shown: "bowl", round: true },
  { value: "tray", shown: "tray", round: false },
  { value: "tub", shown: "tub", round: false },
  { value: "cups", shown: "cup", round: true },
  { value: "bags", shown: "piping bag, lying", round: false },
];

export const isRound = (kind: VesselKind): boolean =>
  VESSEL_KINDS.find((one) => one.value === kind)?.round ?? true;
