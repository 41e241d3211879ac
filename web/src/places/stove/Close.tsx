import { useState } from "react";
import { type Batch, useBatchActions } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

type Verdict = NonNullable<Batch["verdict"]>;
const VERDICTS: readonly { value: Verdict; shown: string }[] = [
  { value: "good", shown: "good" },
  { value: "usable", shown: "usable" },
  { value: "discarded", shown: "discarded" },
];

/** The end of a batch: a verdict, and a word for whoever makes it next. */
export function Close({ batch, may }: { batch: Batch; may: boolean }) {
  const here = useHere();
  const { close, reopen } = useBatchActions(here.slug, batch.id);
  const [verdict, setVerdict] = useState<Verdict | null>(null);
  const [note, setNote] = useState("");
  const error = close.error ?? reopen.error;
  if (!may) return null;
  if (batch.closed_at)
    return (
      <div>
        <Button onClick={() => reopen.mutate()} disabled={reopen.isPending}>
          Open this batch again
        </Button>
        {error ? <Notice tone="wrong">{error.message}</Notice> : null}
      </div>
    );
  return (
    <div className="grid gap-4 border-t border-hair pt-5">
      <h3 className="text-[1.2rem]">How was it?</h3>
      <Choice label="Verdict" options={VERDICTS} value={verdict} onChange={setVerdict} large />
      <TextBox label="A word for next time" maxLength={500} value={note} onChange={setNote} />
      <Button
        look="iron"
        large
        className="justify-self-start"
        disabled={verdict === null || close.isPending}
        onClick={() => verdict && close.mutate({ verdict, note })}
      >
        Close the batch
      </Button>
      {error ? <Notice tone="wrong">{error.message}</Notice> : null}
    </div>
  );
}
