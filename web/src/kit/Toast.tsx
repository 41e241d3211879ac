import { type ReactNode, useEffect } from "react";
import { Button } from "./Button";

const A_MINUTE_MS = 60_000;

interface Props {
  say: string;
  onGone: () => void;
  /** What can be done about it, as to take it back. */
  children: ReactNode;
}

/** What was just done, told for a minute in which it can be taken back. */
export function Toast({ say, onGone, children }: Props) {
  useEffect(() => {
    const timer = setTimeout(onGone, A_MINUTE_MS);
    return () => clearTimeout(timer);
  }, [onGone]);
  return (
    <div
      role="status"
      className="pointer-events-auto fixed right-4 bottom-4 z-50 flex max-w-[92vw] items-center gap-4 border border-iron bg-paper px-4 py-2 print:hidden"
    >
      <span className="min-w-0 break-words">{say}</span>
      {children}
      <Button onClick={onGone} aria-label="Close this message">
        ✕
      </Button>
    </div>
  );
}
