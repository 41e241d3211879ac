import { useState } from "react";
import { type Batch, useBatchActions } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { massText, typedGrams } from "../../kit/units";

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
  const { system } = useUnits();
  const [note, setNote] = useState("");
  const [weighed, setWeighed] = useState("");
  const grams = weighed.trim() === "" ? null : typedGrams(weighed, system);
  const unread = weighed.trim() !== "" && !grams;
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
      <TextBox
        label={`What it came to, in ${system === "us" ? "oz" : "g"}`}
        hint={`Planned ${massText(batch.plan.yield_g, system)}; leave it empty if nobody weighed it.`}
        error={unread ? "What it came to is a weight above nothing, such as 720." : undefined}
        numeric
        className="w-40"
        value={weighed}
        onChange={setWeighed}
      />
      <TextBox label="A word for next time" maxLength={500} value={note} onChange={setNote} />
      <Button
        look="iron"
        large
        className="justify-self-start"
        disabled={verdict === null || unread || close.isPending}
        onClick={() => verdict && close.mutate({ verdict, note, yield_g: grams })}
      >
        Close the batch
      </Button>
      {error ? <Notice tone="wrong">{error.message}</Notice> : null}
    </div>
  );
}
