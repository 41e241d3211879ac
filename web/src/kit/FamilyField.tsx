import { Field } from "./Field";

interface Props {
  families: readonly { family: string; name: string }[];
  value: string;
  onChange: (family: string) => void;
  error?: string | undefined;
  disabled?: boolean;
}

/** Which family a formula is of; open until one is said. */
export function FamilyField({ families, value, onChange, error, disabled }: Props) {
  return (
    <Field label="Family" error={error}>
      {(given) => (
        <select
          {...given}
          className="w-full"
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        >
          {value ? null : <option value="">say which …</option>}
          {families.map((one) => (
            <option key={one.family} value={one.family}>
              {one.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}
