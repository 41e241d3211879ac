import type { DayRoom, DayStep } from "../../api/day";

export interface Lane {
  key: string;
  shown: string;
  /** The steps that take it up. */
  steps: DayStep[];
}

const NAMES: readonly { need: string; many: keyof DayRoom; shown: string }[] = [
  { need: "ring", many: "rings", shown: "ring" },
  { need: "steam", many: "steam", shown: "steam" },
  { need: "bath", many: "ice_bath", shown: "ice" },
  { need: "oven", many: "ovens", shown: "oven" },
  { need: "churn", many: "churns", shown: "churn" },
];

/** The lanes of a day: every ring, bath and so on that there is and that something takes up. */
export function lanesOf(room: DayRoom, steps: readonly DayStep[]): Lane[] {
  return NAMES.flatMap(({ need, many, shown }) => {
    const uses = steps.filter((step) => step.needs.includes(need));
    const count = Number(room[many] ?? 0);
    if (!uses.length || !count) return [];
    if (need === "oven") return [{ key: need, shown, steps: uses }];
    return Array.from({ length: count }, (_, place) => ({
      key: `${need}-${place}`,
      shown: count > 1 ? `${shown} ${place + 1}` : shown,
      steps: uses.filter((step) => (step.at[need] ?? 0) === place),
    }));
  });
}
