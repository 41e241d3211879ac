import { useState } from "react";
import { Link } from "react-router";
import type { ImportOut } from "../../api/bench";
import { useHere } from "../../api/here";
import { readRecipe, textsOf, useManyFormulas } from "../../api/importing";
import { useOwnIngredients } from "../../api/kitchen";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { Settle } from "./Settle";
import { draftOf, type State, settling, stateOf } from "./settling";

interface Text {
  name: string;
  text: string;
  why: string;
}

/** One recipe of many: not read yet, read, in the book, or left out with the reason. */
interface Entry extends Text {
  found: ImportOut | null;
  formula: number | null;
}

const ready = (entry: Entry) =>
  entry.found !== null &&
  entry.formula === null &&
  (entry.found.draft !== null || settling(entry.found).every((line) => stateOf(line) !== "open"));

interface Props {
  files: readonly File[];
  onOthers: () => void;
}

/** Many recipes at once: read one after another, those that need a look listed, all of it undone by one touch. */
export function ManyFiles({ files, onOthers }: Props) {
  const here = useHere();
  const own = useOwnIngredients(here.slug).data ?? [];
  const { add, undo } = useManyFormulas(here.slug);
  const [entries, setEntries] = useState<readonly Entry[]>([]);
  const [looking, setLooking] = useState<number | null>(null);
  const [busy, setBusy] = useState("");
  const [failed, setFailed] = useState("");
  const put = (at: number, more: Partial<Entry>) =>
    setEntries((now) => now.map((entry, i) => (i === at ? { ...entry, ...more } : entry)));
  const read = async () => {
    setFailed("");
    setBusy("Opening the files …");
    try {
      const texts = await textsOf(here.slug, files);
      setEntries(texts.map((one) => ({ ...one, found: null, formula: null })));
      for (const [at, one] of texts.entries()) {
        setBusy(`${at + 1} of ${texts.length} read`);
        if (one.why) continue;
        await readRecipe(here.slug, one.text).then(
          (found) => put(at, { found }),
          (error: Error) => put(at, { why: error.message }),
        );
      }
    } catch (error) {
      setFailed((error as Error).message);
    }
    setBusy("");
  };
  const keep = async () => {
    for (const [at, entry] of entries.entries()) {
      if (!ready(entry) || !entry.found) continue;
      setBusy(`${entry.name} goes into the book …`);
      const draft = draftOf(entry.found, settling(entry.found), { ...entry.found, own });
      await add
        .mutateAsync({
          draft,
          recipe: entry.found.draft ? "" : entry.found.text,
          schools: entry.found.schools,
        })
        .then(
          (made) => put(at, { formula: made.id }),
          (error: Error) => put(at, { why: error.message }),
        );
    }
    setBusy("");
  };
  const kept = entries.flatMap((entry) => (entry.formula === null ? [] : [entry.formula]));
  const looked = looking === null ? undefined : entries[looking];
  if (looked?.found && looking !== null)
    return (
      <Settle
        found={looked.found}
        onChangeText={() => setLooking(null)}
        onSaved={(formula) => {
          put(looking, { formula });
          setLooking(null);
        }}
      />
    );
  return (
    <section aria-label="Many recipes" className="grid max-w-3xl gap-4">
      {entries.length === 0 ? (
        <p>
          {files.length === 1 ? files[0]?.name : `${files.length} files`}{" "}
          <Button look="solid" className="ml-2" disabled={busy !== ""} onClick={() => void read()}>
            Read {files.length === 1 ? "it" : "them"}
          </Button>
        </p>
      ) : null}
      {failed ? <Notice tone="wrong">{failed}</Notice> : null}
      <p role="status" className="text-soft">
        {busy || (entries.length ? said(entries, kept.length) : "")}
      </p>
      <ul className="border-t border-hair">
        {entries.map((entry, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: files are told apart by their place
          <Row key={at} entry={entry} onLook={() => setLooking(at)} />
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {entries.some(ready) ? (
          <Button look="solid" disabled={busy !== ""} onClick={() => void keep()}>
            {here.role === "chef" ? "Into the book" : "Propose"}: {entries.filter(ready).length}
          </Button>
        ) : null}
        {kept.length ? (
          <Button
            disabled={busy !== "" || undo.isPending}
            onClick={() =>
              undo.mutate(kept, {
                onSuccess: () => setEntries(entries.map((entry) => ({ ...entry, formula: null }))),
              })
            }
          >
            Undo all {kept.length}
          </Button>
        ) : null}
        <Button onClick={onOthers}>Other files</Button>
      </div>
    </section>
  );
}

function said(entries: readonly Entry[], kept: number): string {
  const wrong = entries.filter((entry) => entry.why).length;
  const look = entries.filter((entry) => entry.found && !ready(entry) && entry.formula === null).length;
  return `${entries.filter(ready).length} ready · ${look} to look at · ${wrong} left out · ${kept} in the book`;
}

function Row({ entry, onLook }: { entry: Entry; onLook: () => void }) {
  const here = useHere();
  const lines = entry.found ? settling(entry.found).map(stateOf) : [];
  return (
    <li className="flex flex-wrap items-center justify-between gap-3 border-b border-hair py-2">
      <span className="min-w-0 break-words">
        <b>{entry.found?.name ?? entry.name}</b>
        <span className={`block text-sm ${entry.why ? "text-brick" : "text-soft"}`}>
          {entry.why || state(entry, lines)}
        </span>
      </span>
      {entry.formula !== null ? (
        <Link to={`/k/${here.slug}/book/${entry.formula}`}>Open it</Link>
      ) : entry.found ? (
        <Button aria-label={`Look at ${entry.found.name}`} onClick={onLook}>
          Look
        </Button>
      ) : null}
    </li>
  );
}

function state(entry: Entry, lines: readonly State[]): string {
  const count = (state: State) => lines.filter((one) => one === state).length;
  const open = count("open");
  if (entry.formula !== null) return "in the book";
  if (entry.found === null) return "waits to be read";
  if (open > 0) return open === 1 ? "one line is open" : `${open} lines are open`;
  return `${lines.length} lines read, ${count("assumed")} of them assumed`;
}
