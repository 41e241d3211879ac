import { Tabs as Radix } from "radix-ui";
import type { ReactNode } from "react";

export interface Tab<T extends string> {
  value: T;
  shown: string;
  body: ReactNode;
}

interface Props<T extends string> {
  label: string;
  tabs: readonly Tab<T>[];
  value: T;
  onChange: (value: T) => void;
}

/** One of several things in one place. What was typed in the others stays, as they are only out of sight. */
export function Tabs<T extends string>({ label, tabs, value, onChange }: Props<T>) {
  return (
    <Radix.Root value={value} onValueChange={(next) => onChange(next as T)}>
      <Radix.List aria-label={label} className="mb-4 flex flex-wrap gap-x-1 border-b border-hair">
        {tabs.map((tab, i) => (
          <Radix.Trigger
            key={tab.value}
            value={tab.value}
            className="min-h-11 border-b-4 border-transparent px-3 text-soft data-[state=active]:border-yolk data-[state=active]:font-bold data-[state=active]:text-iron"
          >
            {tab.shown}
            <span aria-hidden="true" className="ml-1.5 text-xs text-soft max-lg:hidden">
              {i + 1}
            </span>
          </Radix.Trigger>
        ))}
      </Radix.List>
      {tabs.map((tab) => (
        <Radix.Content key={tab.value} value={tab.value} forceMount className="data-[state=inactive]:hidden">
          {tab.body}
        </Radix.Content>
      ))}
    </Radix.Root>
  );
}
