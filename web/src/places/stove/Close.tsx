import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Batch, useBatchActions } from "../../api/queries";
import { useLife, useTrace } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams, type UnitSystem } from "../../kit/typed";
import { inUnits, massText } from "../../kit/units";
import { LabelList } from "../../shared/LabelList";

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
  const life = useLife(here.slug, batch.id);
  const { system } = useUnits();
  const [note, setNote] = useState("");
  const [weighed, setWeighed] = useState("");
  const [shelved, setShelved] = useState("");
  const [whites, setWhites] = useState("");
  const grams = weighed.trim() === "" ? null : typedGrams(weighed, system);
  const kept = typedKept(shelved, system);
  const white = typedKept(whites, system);
  const unread = (weighed.trim() !== "" && !grams) || kept === undefined || white === undefined;
  const rehearsed = batch.pace !== 1;
  const error = close.error ?? reopen.error;
  const problem = close.error instanceof Problem ? close.error : null;
  const unit = system === "us" ? "oz" : "g";
  if (!may) return null;
  if (batch.closed_at)
    return (
      <div className="grid gap-4">
        {batch.verdict === "discarded" ? null : <ItsLabels batch={batch} />}
        <Button className="justify-self-start" onClick={() => reopen.mutate()} disabled={reopen.isPending}>
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
        error={
          weighed.trim() !== "" && !grams
            ? "What it came to is a weight above nothing, such as 720."
            : undefined
        }
        numeric
        className="w-40"
        value={weighed}
        onChange={setWeighed}
      />
      {rehearsed ? (
        <p className="text-soft">A rehearsal: none of it goes on the shelf.</p>
      ) : verdict === "discarded" ? null : (
        <TextBox
          label={`What of it goes on the shelf, in ${unit}`}
          hint={
            life.data === undefined || life.data.days > 0 || life.data.missing?.length
              ? "Empty: all of it. 0: none of it, it is served."
              : "Empty: none of it, it does not keep."
          }
          error={kept === undefined ? WEIGHT : problem?.at("kept_g") && inUnits(problem.message, system)}
          numeric
          className="w-40"
          value={shelved}
          onChange={setShelved}
        />
      )}
      {rehearsed || batch.plan.whites_left_g < 1 ? null : (
        <TextBox
          label={`Egg whites that are kept, in ${unit}`}
          hint={`Empty: the ${massText(batch.plan.whites_left_g, system)} that separating left. 0: none.`}
          error={white === undefined ? WEIGHT : problem?.at("whites_g")}
          numeric
          className="w-40"
          value={whites}
          onChange={setWhites}
        />
      )}
      <TextBox label="A word for next time" maxLength={500} value={note} onChange={setNote} />
      <Button
        look="iron"
        large
        className="justify-self-start"
        disabled={verdict === null || unread || close.isPending}
        onClick={() =>
          verdict &&
          close.mutate({
            verdict,
            note,
            yield_g: grams,
            ...(rehearsed ? {} : { kept_g: kept ?? null, whites_g: white ?? null }),
          })
        }
      >
        Close the batch
      </Button>
      {error && !problem?.at("kept_g") && !problem?.at("whites_g") ? (
        <Notice tone="wrong">{inUnits(error.message, system)}</Notice>
      ) : null}
    </div>
  );
}

/** The labels of what was put on the shelf, ready to be printed. */
function ItsLabels({ batch }: { batch: Batch }) {
  const here = useHere();
  const trace = useTrace(here.slug, batch.id, true);
  const tubs = trace.data?.left.filter((tub) => tub.batch_id === batch.id).map((tub) => tub.id) ?? [];
  if (!tubs.length) return null;
  const query = tubs.map((id) => `tub=${id}`).join("&");
  return (
    <section aria-label="Labels" className="border-t border-hair pt-4">
      <LabelList ids={tubs} size="roll-62" />
      <Link
        to={`/k/${here.slug}/shelf/labels?${query}`}
        className="mt-3 inline-flex min-h-[72px] items-center rounded-solid border border-yolk bg-yolk px-6 text-xl font-bold text-iron no-underline"
      >
        Print
      </Link>
    </section>
  );
}

const WEIGHT = "Write a weight as a number, such as 250, or 0 for none.";

/** Grams; null where nothing was typed, undefined where it is no weight. */
function typedKept(text: string, system: UnitSystem): number | null | undefined {
  if (text.trim() === "") return null;
  return typedGrams(text, system) ?? undefined;
}
