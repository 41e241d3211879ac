import { Field } from "./Field";

interface Props<T extends string> {
  label: string;
  options: readonly { value: T; shown: string }[];
  value: T;
  onChange: (value: T) => void;
  /** What stands first where nothing is chosen yet. */
  none?: string;
  hideLabel?: boolean;
  error?: string | undefined;
  disabled?: boolean;
  className?: string;
}

/** One of a list, with its label and, by it, what is wrong with it. */
export function SelectBox<T extends string>({
  label,
  options,
  value,
  onChange,
  none,
  hideLabel = false,
  error,
  disabled,
  className = "w-full",
}: Props<T>) {
  return (
    <Field label={label} error={error} hideLabel={hideLabel}>
      {(given) => (
        <select
          {...given}
          className={className}
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value as T)}
        >
          {none === undefined ? null : <option value="">{none}</option>}
          {options.map((one) => (
            <option key={one.value} value={one.value}>
              {one.shown}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
