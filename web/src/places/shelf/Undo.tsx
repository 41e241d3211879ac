import { useEffect } from "react";
import { newId } from "../../api/newId";
import { useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { useHere } from "../../kit/here";

const A_MINUTE_MS = 60_000;

export interface Undone {
  /** The movement that would be taken back. */
  id: string;
  tub_id: number;
  say: string;
}

/** What was just done, to be taken back within a minute; both then stand in the record. */
export function Undo({ undone, onGone }: { undone: Undone; onGone: () => void }) {
  const here = useHere();
  const { move } = useTubActions(here.slug);
  useEffect(() => {
    const timer = setTimeout(onGone, A_MINUTE_MS);
    return () => clearTimeout(timer);
  }, [onGone]);
  return (
    <div
      role="status"
      className="fixed right-4 bottom-4 z-30 flex max-w-[92vw] items-center gap-4 border border-iron bg-paper px-4 py-2 print:hidden"
    >
      <span className="min-w-0 break-words">{move.error?.message ?? undone.say}</span>
      <Button
        disabled={move.isPending}
        onClick={() =>
          move.mutate(
            {
              tub_id: undone.tub_id,
              id: newId(),
              kind: "undone",
              corrects: undone.id,
              to: "",
              note: "",
              anyway: false,
            },
            { onSuccess: onGone },
          )
        }
      >
        Undo
      </Button>
      <Button onClick={onGone} aria-label="Close this message">
        ✕
      </Button>
    </div>
  );
}
