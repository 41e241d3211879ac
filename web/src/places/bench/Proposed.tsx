import { useNavigate } from "react-router";
import { useFormulaActions } from "../../api/bench";
import { useHere } from "../../api/here";
import type { FormulaOut } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";

/** A cook's proposal: a chef takes it into the Book, or out of it. */
export function Proposed({ found }: { found: FormulaOut }) {
  const here = useHere();
  const navigate = useNavigate();
  const { takeIn, archive } = useFormulaActions(here.slug, found.id);
  const failed = takeIn.error ?? archive.error;
  if (!found.proposed_by || found.archived) return null;
  return (
    <Notice>
      {`Proposed by ${found.proposed_by}.`}
      {here.role === "chef" ? (
        <span className="mt-2 flex flex-wrap gap-2">
          <Button look="iron" disabled={takeIn.isPending} onClick={() => takeIn.mutate()}>
            Take it into the Book
          </Button>
          <Button
            disabled={archive.isPending}
            onClick={() => archive.mutate(undefined, { onSuccess: () => navigate(`/k/${here.slug}/book`) })}
          >
            Not this one
          </Button>
        </span>
      ) : null}
      {failed ? <span className="block text-brick">{failed.message}</span> : null}
    </Notice>
  );
}
