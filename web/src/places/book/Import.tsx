import { type ChangeEvent, type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { type ImportOut, useImport } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Draft, useLarder, useSave } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Combobox } from "../../kit/Combobox";
import { FamilyField } from "../../kit/FamilyField";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";

/** Bringing a formula in: from a file or pasted, whole when it is ours, settled line by line when it is not. */
export function Import() {
  const here = useHere();
  const read = useImport(here.slug);
  const [text, setText] = useState("");
  const problem = read.error instanceof Problem ? read.error : null;
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    if (!file) return;
    const held = await file.text();
    setText(held);
    read.mutate(held);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    read.mutate(text);
  };
  return (
    <>
      <h1>Import a recipe</h1>
      <p className="mb-4 text-soft">
        Paste a recipe as you have it: one thing a line or in a sentence, the method below. A web page saved
        as a file will do too, and an Old Spoon file comes in whole. What is not clear is asked, not guessed.
      </p>
      {here.role === "chef" ? null : (
        <Notice>
          It stands in the Book as your proposal until a chef of this kitchen takes it in; you can cook it
          meanwhile.
        </Notice>
      )}
      <form onSubmit={submit} noValidate className="grid max-w-3xl gap-4">
        <Field label="A file">
          {(given) => (
            <input
              {...given}
              type="file"
              className="w-full max-w-md"
              accept=".json,.html,.htm,.txt,.md,application/json,text/html,text/plain"
              onChange={choose}
            />
          )}
        </Field>
        <Field label="Or the text itself" error={problem?.at("text")}>
          {(given) => (
            <textarea
              {...given}
              className="h-40 w-full font-mono text-sm"
              spellCheck={false}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          )}
        </Field>
        <Button
          look="iron"
          type="submit"
          className="justify-self-start"
          disabled={!text.trim() || read.isPending}
        >
          Read it
        </Button>
        {problem?.beside("text") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      </form>
      {read.data ? <Settle key={JSON.stringify(read.data)} found={read.data} /> : null}
    </>
  );
}

interface Settled {
  text: string;
  amount: string;
  ingredient: string;
  note: string;
  why: string;
  keep: boolean;
}

function Settle({ found }: { found: ImportOut }) {
  const here = useHere();
  const larder = useLarder();
  const navigate = useNavigate();
  const save = useSave(here.slug, null);
  const [name, setName] = useState(found.name);
  const [family, setFamily] = useState(found.draft?.family ?? "");
  const [lines, setLines] = useState<readonly Settled[]>(
    found.lines.map((line) => ({ ...line, keep: true })),
  );
  const problem = save.error instanceof Problem ? save.error : null;
  const beside = problem?.beside("name", "family", ...(found.draft ? [] : ["lines["]));
  const choices = (larder.data?.ingredients ?? []).map(({ id, name, also }) => ({
    value: id,
    shown: name,
    also,
  }));
  const kept = lines.filter((line) => line.keep);
  const open = kept.filter((line) => !line.ingredient || !line.amount.trim()).length;
  const change = (index: number, more: Partial<Settled>) =>
    setLines(lines.map((line, i) => (i === index ? { ...line, ...more } : line)));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const draft: Draft = found.draft
      ? { ...found.draft, name }
      : {
          name,
          family: family as Draft["family"],
          eggs: here.eggs as NonNullable<Draft["eggs"]>,
          measures: here.measures as NonNullable<Draft["measures"]>,
          lines: kept.map((line) => ({
            ingredient: line.ingredient,
            amount: line.amount,
            note: line.note,
          })),
        };
    save.mutate(
      { draft, base: 0, note: "" },
      { onSuccess: (made) => navigate(`/k/${here.slug}/book/${made.id}`) },
    );
  };
  return (
    <form onSubmit={submit} noValidate className="mt-8 grid gap-4" aria-label="Settle">
      <h2>
        {found.draft
          ? "All of it read"
          : open
            ? open === 1
              ? "One line to settle"
              : `${open} lines to settle`
            : "All read. What kind of custard?"}
      </h2>
      <div className="grid max-w-3xl gap-4 sm:grid-cols-2">
        <TextBox label="Name" error={problem?.at("name")} maxLength={200} value={name} onChange={setName} />
        <FamilyField
          families={larder.data?.families ?? []}
          error={problem?.at("family")}
          disabled={found.draft !== null}
          value={family}
          onChange={setFamily}
        />
      </div>
      {found.draft ? null : (
        <ul className="border-t border-hair">
          {lines.map((line, i) => (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
              key={i}
              className="grid items-start gap-3 border-b border-hair py-3 md:grid-cols-[minmax(0,1fr)_9rem_16rem_auto]"
            >
              <span className={`min-w-0 break-words ${line.keep ? "" : "text-soft line-through"}`}>
                {line.text}
                {line.why && line.keep && (!line.ingredient || !line.amount.trim()) ? (
                  <span className="block text-sm text-brick">{line.why}</span>
                ) : null}
              </span>
              <TextBox
                label={`Amount of line ${i + 1}`}
                hideLabel
                error={problem?.below(`lines[${kept.indexOf(line)}]`)}
                disabled={!line.keep}
                value={line.amount}
                onChange={(typed) => change(i, { amount: typed })}
              />
              <Combobox
                label={`Ingredient of line ${i + 1}`}
                hideLabel
                placeholder="which ingredient?"
                items={ordered(choices, found.lines[i]?.candidates ?? [])}
                disabled={!line.keep}
                value={line.ingredient}
                onChoose={(ingredient) => change(i, { ingredient })}
              />
              <Button onClick={() => change(i, { keep: !line.keep })}>
                {line.keep ? "Leave out" : "Put back"}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {beside ? <Notice tone="wrong">{beside}</Notice> : null}
      <Button
        look="solid"
        type="submit"
        className="justify-self-start"
        disabled={save.isPending || open > 0 || !family || (kept.length === 0 && !found.draft)}
      >
        {here.role === "chef" ? "Into the book" : "Propose it"}
      </Button>
      {found.method.length ? (
        <details className="max-w-3xl">
          <summary className="min-h-11 py-2">What the recipe says to do</summary>
          <ol className="list-decimal pl-6">
            {found.method.map((step) => (
              <li key={step} className="py-1">
                {step}
              </li>
            ))}
          </ol>
        </details>
      ) : null}
    </form>
  );
}

/** The likely ones first. */
function ordered<T extends { value: string }>(all: readonly T[], first: readonly string[]): T[] {
  const place = (thing: T) => {
    const at = first.indexOf(thing.value);
    return at === -1 ? first.length : at;
  };
  return [...all].sort((a, b) => place(a) - place(b));
}
