import { useState } from "react";
import { useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Draft, type FormulaOut, useSave } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

interface Props {
  found: FormulaOut | null;
  draft: Draft;
  changed: boolean;
  base: number;
  onSaved: (now: FormulaOut) => void;
  onTheirs: (latest: number) => void;
}

/** Saving: always as a new version; when someone was faster, theirs stays and this draft does too. */
export function SaveBar({ found, draft, changed, base, onSaved, onTheirs }: Props) {
  const here = useHere();
  const navigate = useNavigate();
  const save = useSave(here.slug, found?.id ?? null);
  const [note, setNote] = useState("");
  const problem = save.error instanceof Problem ? save.error : null;
  const newer = /^newer-version:(\d+)$/.exec(problem?.kind ?? "")?.[1];
  if (here.role === "viewer" || (here.role === "cook" && found !== null))
    return (
      <p className="text-soft">
        {changed
          ? "Changed for this batch only: a chef of this kitchen saves versions to the book."
          : "A chef of this kitchen saves versions to the book."}
      </p>
    );
  const send = (on: number) =>
    save.mutate(
      { draft, base: on, note },
      {
        onSuccess: (now) => {
          setNote("");
          onSaved(now);
          navigate(found ? "?" : `/k/${here.slug}/book/${now.id}`, { replace: true });
        },
      },
    );
  const older = found !== null && found.version !== found.latest;
  return (
    <div className="grid gap-3">
      {found ? (
        <TextBox
          label="What changed, for whoever reads it later"
          error={problem?.at("note")}
          maxLength={500}
          value={note}
          onChange={setNote}
        />
      ) : null}
      <div className="flex flex-wrap items-center gap-3">
        <Button
          look="iron"
          disabled={save.isPending || (!changed && !older && found !== null)}
          onClick={() => send(base)}
        >
          {found ? `Save as version ${base + 1}` : here.role === "chef" ? "Save to the book" : "Propose it"}
        </Button>
        <span role="status" className="text-soft">
          {save.isPending ? "Saving …" : changed ? "changed, not saved" : save.isSuccess ? "saved" : ""}
        </span>
      </div>
      {newer ? (
        <Notice tone="wrong">
          {problem?.message}
          <span className="mt-2 flex flex-wrap gap-2">
            <Button
              onClick={() => {
                onTheirs(Number(newer));
                send(Number(newer));
              }}
            >
              Save mine on top
            </Button>
            <Button onClick={() => window.open(`?v=${newer}`, "_blank", "noopener")}>Look at theirs</Button>
          </span>
        </Notice>
      ) : problem ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </div>
  );
}
