import { type ReactNode, useId } from "react";

interface Given {
  id: string;
  "aria-invalid": boolean;
  "aria-describedby": string | undefined;
}

interface Props {
  label: string;
  error?: string | undefined;
  hint?: string;
  hideLabel?: boolean;
  children: (given: Given) => ReactNode;
}

/** A label, a control and, by the control, what is wrong with it. */
export function Field({ label, error, hint, hideLabel = false, children }: Props) {
  const id = useId();
  const described = error ? `${id}-error` : hint ? `${id}-hint` : undefined;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={hideLabel ? "sr-only" : "mb-1 block text-soft"}>
        {label}
      </label>
      {children({ id, "aria-invalid": Boolean(error), "aria-describedby": described })}
      {error ? <Wrong id={`${id}-error`}>{error}</Wrong> : null}
      {!error && hint ? (
        <p id={`${id}-hint`} className="mt-1 text-sm text-soft">
          {hint}
        </p>
      ) : null}
    </div>
  );
}

/** A sentence by a field. */
export function Wrong({ id, children }: { id?: string; children: ReactNode }) {
  return (
    <p id={id} role="alert" className="mt-1 text-brick first-letter:uppercase">
      {children}
    </p>
  );
}
