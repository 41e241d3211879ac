import { createContext, type ReactNode, useContext, useMemo } from "react";
import { type Habits, setHabits } from "./habits";
import type { UnitSystem } from "./typed";

const Context = createContext<{ system: UnitSystem; toggle: () => void }>({
  system: "metric",
  toggle: () => {},
});

interface Props {
  habits: Habits;
  onChange: (habits: Habits) => void;
  children: ReactNode;
}

/** How the person at this screen reads figures: °C and grams or °F and ounces, their decimal sign, their clock. */
export function HabitsProvider({ habits, onChange, children }: Props) {
  // Before anything below is drawn: its figures are written so.
  setHabits(habits);
  const value = useMemo(
    () => ({
      system: habits.units,
      toggle: () => onChange({ ...habits, units: habits.units === "metric" ? "us" : "metric" }),
    }),
    [habits, onChange],
  );
  return <Context value={value}>{children}</Context>;
}

export const useUnits = () => useContext(Context);
