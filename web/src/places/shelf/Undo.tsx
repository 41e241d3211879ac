import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { useTubActions } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Toast } from "../../kit/Toast";

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
  return (
    <Toast say={move.error?.message ?? undone.say} onGone={onGone}>
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
    </Toast>
  );
}
