import { Children, type ReactNode } from "react";

interface Props {
  of: readonly ReactNode[];
  className?: string;
  /** Within a line, or a button: not a line of its own. */
  inline?: boolean;
}

/** Short facts beside each other, each whole by itself; what is not there takes no place. */
export function Facts({ of, className = "", inline = false }: Props) {
  const there = Children.toArray(of).filter((one) => one !== "");
  return (
    <span className={inline ? className : `block ${className}`}>
      {Children.map(there, (one, at) => (
        <>
          {at === 0 ? null : " · "}
          {one}
        </>
      ))}
    </span>
  );
}
