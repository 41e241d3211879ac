import { useEffect } from "react";
import { Button } from "../../kit/Button";

const A_MINUTE_MS = 60_000;

export interface TookBack {
  say: string;
  back: () => void;
}

/** What was just done, to be taken back within a minute. */
export function Took({ took, onGone }: { took: TookBack; onGone: () => void }) {
  useEffect(() => {
    const timer = setTimeout(onGone, A_MINUTE_MS);
    return () => clearTimeout(timer);
  }, [onGone]);
  return (
    <div
      role="status"
      className="fixed right-4 bottom-4 z-30 flex max-w-[92vw] items-center gap-4 border border-iron bg-paper px-4 py-2 print:hidden"
    >
      <span className="min-w-0 break-words">{took.say}</span>
      <Button onClick={took.back}>Undo</Button>
      <Button onClick={onGone} aria-label="Close this message">
        ✕
      </Button>
    </div>
  );
}
