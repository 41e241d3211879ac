import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import type { UnitSystem } from "./units";

const KEY = "old-spoon:units";
const Context = createContext<{ system: UnitSystem; toggle: () => void }>({
  system: "metric",
  toggle: () => {},
});

/** °C and grams, or °F and ounces, for the whole application and remembered on this device. */
export function UnitsProvider({ children }: { children: ReactNode }) {
  const [system, setSystem] = useState<UnitSystem>(() =>
    localStorage.getItem(KEY) === "us" ? "us" : "metric",
  );
  const toggle = useCallback(() => {
    setSystem((before) => {
      const now = before === "metric" ? "us" : "metric";
      localStorage.setItem(KEY, now);
      return now;
    });
  }, []);
  const value = useMemo(() => ({ system, toggle }), [system, toggle]);
  return <Context value={value}>{children}</Context>;
}

export const useUnits = () => useContext(Context);
