import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react";
import { Button } from "./Button";

const A_MINUTE_MS = 60_000;
/** A tap that was already on its way was meant for what stood there before [ms]. */
const ON_ITS_WAY_MS = 500;

interface Props {
  say: string;
  onGone: () => void;
  /** What can be done about it, as to take it back. */
  children: ReactNode;
}

/**
 * What was just done, for a minute in which it can be taken back. It stands in a strip of its own at the bottom:
 * the page ends above it, so that it covers nothing, and it takes no tap that was meant for the page.
 */
export function Toast({ say, onGone, children }: Props) {
  const strip = useRef<HTMLDivElement>(null);
  const [takes, setTakes] = useState(false);
  useEffect(() => {
    const gone = setTimeout(onGone, A_MINUTE_MS);
    const taking = setTimeout(() => setTakes(true), ON_ITS_WAY_MS);
    return () => {
      clearTimeout(gone);
      clearTimeout(taking);
    };
  }, [onGone]);
  useLayoutEffect(() => {
    const root = document.documentElement;
    const height = strip.current?.offsetHeight ?? 0;
    root.style.setProperty("--strip", `${height}px`);
    return () => {
      root.style.removeProperty("--strip");
    };
  }, []);
  return (
    <div
      ref={strip}
      role="status"
      className={`fixed inset-x-0 bottom-(--places) z-50 flex items-center justify-end gap-4 border-t border-iron bg-paper px-4 py-1.5 print:hidden ${takes ? "pointer-events-auto" : "pointer-events-none"}`}
    >
      <span className="min-w-0 break-words">{say}</span>
      {children}
      <Button onClick={onGone} aria-label="Close this message">
        ✕
      </Button>
    </div>
  );
}
