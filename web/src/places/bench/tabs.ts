import { useState } from "react";
import type { Tab } from "../../kit/Tabs";
import { useWide } from "../../kit/wide";

export type TabName = "slip" | "mix" | "scale" | "method" | "schools" | "figures";
export const TABS: readonly Tab<TabName>[] = [
  { value: "slip", shown: "Slip", press: "0", className: "xl:hidden" },
  { value: "mix", shown: "Map", press: "1" },
  { value: "scale", shown: "How much", press: "2" },
  { value: "method", shown: "Method", press: "3" },
  { value: "schools", shown: "Schools", press: "4" },
  { value: "figures", shown: "Figures", press: "5" },
];
const TAB_KEY = "old-spoon:bench-tab";
/** From here on the slip stands beside what is open, not among it [px]. */
const BESIDE_PX = 1280;

/** Which of the things about a mix is open; it stays so from formula to formula, on this device. */
export function useTab(): [TabName, (tab: TabName) => void] {
  const beside = useWide(BESIDE_PX);
  const [tab, setTab] = useState<TabName>(
    () => TABS.find((one) => one.value === sessionStorage.getItem(TAB_KEY))?.value ?? "slip",
  );
  return [
    beside && tab === "slip" ? "mix" : tab,
    (next) => {
      sessionStorage.setItem(TAB_KEY, next);
      setTab(next);
    },
  ];
}
