import { type InputHTMLAttributes, useState } from "react";
import { plain } from "./habits";

interface Props extends Omit<InputHTMLAttributes<HTMLInputElement>, "value" | "onChange"> {
  value: number | null;
  /** What was typed as a number; not a number where it is none. */
  read: (text: string) => number;
  /** Told null where nothing is typed, or nothing that can be read. */
  onValue: (value: number | null) => void;
}

/** A number within a line, typed as cooks type it: "½", "1 h 20", "0,5". Half typed it is none yet, and stays as it is. */
export function TypedInput({ value, read, onValue, ...rest }: Props) {
  const [typed, setTyped] = useState(value === null ? "" : plain(value));
  // Nothing, and what is none yet, are told as none; whoever keeps nought for none is told so, too.
  const same = (read(typed) || 0) === (value ?? 0);
  const shown = same ? typed : value === null ? "" : plain(value);
  return (
    <input
      {...rest}
      value={shown}
      aria-invalid={Boolean(shown.trim()) && Number.isNaN(read(shown))}
      onChange={(event) => {
        setTyped(event.target.value);
        const next = read(event.target.value);
        onValue(event.target.value.trim() && Number.isFinite(next) ? next : null);
      }}
    />
  );
}
