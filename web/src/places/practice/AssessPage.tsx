import { Link, useNavigate, useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { useChefActions, usePractice } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Failed, Loading, Notice } from "../../kit/Notice";

/** Whose work over a batch is looked at: a touch on a name begins the sheet. */
export function AssessPage() {
  const here = useHere();
  const navigate = useNavigate();
  const [words] = useSearchParams();
  const practice = usePractice(here.slug);
  const { beginSheet } = useChefActions(here.slug);
  if (practice.isPending) return <Loading title="Whose work is it?" what="who works here" />;
  if (practice.isError)
    return (
      <Failed
        title="Whose work is it?"
        sentence={practice.error.message}
        again={() => void practice.refetch()}
      />
    );
  if (here.role !== "chef") return <Notice tone="wrong">Only a chef of this kitchen assesses.</Notice>;
  const batch = Number(words.get("batch")) || null;
  return (
    <div className="max-w-2xl">
      <h1>Whose work is it?</h1>
      <p className="my-2 text-soft">A touch begins a sheet; it is filled in while they cook.</p>
      {beginSheet.isError ? <Notice tone="wrong">{beginSheet.error.message}</Notice> : null}
      <div className="mt-3 flex flex-wrap gap-3">
        {practice.data.people.map((one) => (
          <Button
            key={one.id}
            large
            disabled={beginSheet.isPending}
            onClick={() =>
              beginSheet.mutate(
                { person_id: one.id, batch_id: batch, attempt_id: null, over: "" },
                { onSuccess: (made) => navigate(`../practice/sheets/${made.id}`, { replace: true }) },
              )
            }
          >
            {one.name}
          </Button>
        ))}
      </div>
      <p className="mt-4">
        <Link to={batch === null ? "../practice" : `../stove/${batch}`}>Leave it</Link>
      </p>
    </div>
  );
}
