import { Field } from "./Field";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  error?: string | undefined;
  hint?: string;
  hideLabel?: boolean;
  /** A number is typed: a tablet shows its figures. */
  numeric?: boolean;
  /** Not shown as it is typed; what a password manager is told of it. */
  secret?: "current-password" | "new-password" | "off";
  /** What a password manager fills in here. */
  known?: "username";
  maxLength?: number;
  disabled?: boolean;
  className?: string;
}

/** One line of text with its label and, by it, what is wrong with it. */
export function TextBox({
  label,
  value,
  onChange,
  error,
  hint = "",
  hideLabel = false,
  numeric = false,
  secret,
  known,
  maxLength,
  disabled,
  className = "w-full",
}: Props) {
  return (
    <Field label={label} error={error} hint={hint} hideLabel={hideLabel}>
      {(given) => (
        <input
          {...given}
          className={className}
          inputMode={numeric ? "decimal" : undefined}
          type={secret ? "password" : undefined}
          autoComplete={known ?? secret ?? "off"}
          autoCapitalize={known ? "none" : undefined}
          maxLength={maxLength}
          disabled={disabled}
          value={value}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  );
}
