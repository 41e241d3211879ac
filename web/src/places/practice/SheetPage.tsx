import { useState } from "react";
import { Link, useParams } from "react-router";
import { useHere } from "../../api/here";
import { type AssessmentSheet, useMarking, useSheet } from "../../api/practice";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { day } from "../../kit/when";

const MARKS = [
  { value: "not yet", shown: "not yet" },
  { value: "with help", shown: "with help" },
  { value: "well", shown: "well" },
  { value: "very well", shown: "very well" },
] as const;
type Mark = (typeof MARKS)[number]["value"];

/** An assessment sheet, filled in by touch. */
export function SheetPage() {
  const here = useHere();
  const id = Number(useParams().sheet);
  const sheet = useSheet(here.slug, id);
  if (sheet.isPending) return <Loading title="A sheet" what="the sheet" />;
  if (sheet.isError)
    return <Failed title="A sheet" sentence={sheet.error.message} again={() => void sheet.refetch()} />;
  return <Filled key={sheet.data.id} sheet={sheet.data} />;
}

function Filled({ sheet }: { sheet: AssessmentSheet }) {
  const here = useHere();
  const marking = useMarking(here.slug, sheet.id);
  const [note, setNote] = useState(sheet.note);
  const may = here.role === "chef";
  const marks = Object.fromEntries(
    sheet.criteria.flatMap((one) => (one.mark ? [[one.key, one.mark] as const] : [])),
  );
  const write = (changed: Record<string, Mark>, words = note) =>
    marking.mutate({ marks: { ...marks, ...changed }, note: words.trim(), revision: sheet.revision });
  const left = sheet.criteria.filter((one) => !one.mark).length;
  return (
    <div className="max-w-4xl">
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-hair pb-3">
        <div className="min-w-0">
          <h1>{sheet.person.name}</h1>
          <p className="text-soft">
            {sheet.batch_id === null ? (
              sheet.over
            ) : (
              <Link to={`../stove/${sheet.batch_id}`}>{sheet.over}</Link>
            )}{" "}
            · {day(sheet.at)} · looked at by {sheet.by}
          </p>
        </div>
        <a
          className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
          href={`/api/k/${here.slug}/practice/sheets/${sheet.id}/sheet.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Print it
        </a>
      </div>
      {marking.isError ? <Notice tone="wrong">{marking.error.message}</Notice> : null}
      <ul className="mt-2">
        {sheet.criteria.map((one) => (
          <li
            key={one.key}
            className="grid gap-x-6 gap-y-2 border-b border-hair py-3 md:grid-cols-[minmax(0,1fr)_auto] md:items-center"
          >
            <div className="min-w-0">
              <h2>{one.name}</h2>
              <p className="text-soft">{one.look}</p>
            </div>
            {may ? (
              <Choice
                label={one.name}
                options={MARKS}
                value={one.mark ?? null}
                onChange={(mark: Mark) => write({ [one.key]: mark })}
              />
            ) : (
              <p className="font-bold">{one.mark ?? "not marked"}</p>
            )}
          </li>
        ))}
      </ul>
      {may ? (
        <form
          className="mt-4 flex flex-wrap items-end gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            write({});
          }}
        >
          <div className="min-w-0 grow">
            <TextBox label="Note" value={note} maxLength={500} onChange={setNote} />
          </div>
          <Button type="submit" disabled={note.trim() === sheet.note || marking.isPending}>
            Write it down
          </Button>
        </form>
      ) : (
        <p className="mt-4">{sheet.note}</p>
      )}
      <p className="mt-3 text-soft" role="status">
        {marking.isPending ? "writing…" : left === 0 ? "All is marked." : `${left} to mark.`}
      </p>
    </div>
  );
}
