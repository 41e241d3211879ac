import { ToggleGroup } from "radix-ui";

interface Props<T extends string> {
  label: string;
  options: readonly { value: T; shown: string }[];
  value: T | null;
  onChange: (value: T) => void;
  large?: boolean;
}

/** One of a few words, each a touch target; arrows move between them. */
export function Choice<T extends string>({ label, options, value, onChange, large = false }: Props<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value ?? ""}
      onValueChange={(next) => next && onChange(next as T)}
      className="flex flex-wrap gap-2"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          className={`rounded-solid border border-line px-4 data-[state=on]:border-iron data-[state=on]:bg-iron data-[state=on]:text-paper ${large ? "min-h-[72px] text-lg" : "min-h-11"}`}
        >
          {option.shown}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
