import { type ChangeEvent, type FormEvent, useState } from "react";
import { useImport } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { Settle } from "./Settle";

/** Importing a recipe: pasted or from a file, read at once, then settled line by line. */
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
      {here.role === "chef" ? null : (
        <Notice>
          It stands in the Book as your proposal until a chef of this kitchen takes it in; you can cook it
          meanwhile.
        </Notice>
      )}
      {read.data ? (
        <div className="mt-4">
          <Settle
            key={JSON.stringify(read.data)}
            found={read.data}
            text={text}
            onChangeText={() => read.reset()}
          />
        </div>
      ) : (
        <>
          <p className="my-2 max-w-3xl text-soft">
            Paste it as you have it: a card, a page, a table, a sentence; in English, French, German, Italian,
            Spanish or Portuguese. Each line is read and weighed, what had to be assumed is said beside it,
            and you are asked only what cannot be known.
          </p>
          <form onSubmit={submit} noValidate className="grid max-w-3xl gap-4">
            <Field label="The recipe" error={problem?.at("text")}>
              {(given) => (
                <textarea
                  {...given}
                  className="h-56 w-full"
                  spellCheck={false}
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                />
              )}
            </Field>
            <div className="flex flex-wrap items-end gap-4">
              <Button look="solid" type="submit" disabled={!text.trim() || read.isPending}>
                {read.isPending ? "Reading …" : "Read it"}
              </Button>
              <Field label="Or from a file">
                {(given) => (
                  <input
                    {...given}
                    type="file"
                    className="w-full max-w-md"
                    accept=".json,.html,.htm,.txt,.md,.csv,application/json,text/html,text/plain,text/csv"
                    onChange={choose}
                  />
                )}
              </Field>
            </div>
            {problem?.beside("text") ? <Notice tone="wrong">{problem.message}</Notice> : null}
          </form>
        </>
      )}
    </>
  );
}
