import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface Tab<T extends string> {
  value: T;
  shown: string;
  /** The key that opens it, shown by its name. */
  press?: string;
  /** Where it has a place of its own beside the tabs, it is none of them there. */
  className?: string;
}

interface Props<T extends string> {
  value: T;
  onChange: (value: T) => void;
  className?: string;
  children: ReactNode;
}

/** Several things of which one is in sight; tabs and what they open may stand anywhere within. */
export function Tabbed<T extends string>({ value, onChange, className = "", children }: Props<T>) {
  return (
    <Radix.Root value={value} onValueChange={(next) => onChange(next as T)} className={className}>
      {children}
    </Radix.Root>
  );
}

export function TabList<T extends string>({
  label,
  tabs,
  className = "",
}: {
  label: string;
  tabs: readonly Tab<T>[];
  className?: string;
}) {
  return (
    <Radix.List aria-label={label} className={`flex gap-x-1 border-b border-hair ${className}`}>
      {tabs.map((tab) => (
        <Radix.Trigger
          key={tab.value}
          value={tab.value}
          className={`min-h-11 shrink-0 border-b-4 border-transparent px-3 text-soft data-[state=active]:border-yolk data-[state=active]:font-bold data-[state=active]:text-iron ${tab.className ?? ""}`}
        >
          {tab.shown}
          {tab.press ? (
            <span aria-hidden="true" className="ml-1.5 text-xs text-soft max-lg:hidden">
              {tab.press}
            </span>
          ) : null}
        </Radix.Trigger>
      ))}
    </Radix.List>
  );
}

/** What a tab opens. What was typed in it stays while another is open, as it is only out of sight. */
export function TabBody({
  value,
  className = "data-[state=inactive]:hidden",
  children,
}: {
  value: string;
  className?: string;
  children: ReactNode;
}) {
  return (
    <Radix.Content value={value} forceMount className={className}>
      {children}
    </Radix.Content>
  );
}
