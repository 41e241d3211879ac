import { VESSEL_KINDS as KINDS, type VesselKind } from "../contract/words";

export type { VesselKind };

/** What sauces lie in; what is round is measured across and needs no width. */
const ABOUT: Record<VesselKind, { shown: string; round: boolean }> = {
  bowl: { shown: "bowl", round: true },
  tray: { shown: "tray", round: false },
  tub: { shown: "tub", round: false },
  cups: { shown: "cup", round: true },
  bags: { shown: "piping bag, lying", round: false },
};

export const VESSEL_KINDS = KINDS.map((value) => ({ value, ...ABOUT[value] }));

export const isRound = (kind: VesselKind): boolean => ABOUT[kind].round;
