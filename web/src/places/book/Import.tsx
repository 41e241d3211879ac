import { type ChangeEvent, type FormEvent, useState } from "react";
import { useImport } from "../../api/bench";
import { useHere } from "../../api/here";
import type { ReadPicture } from "../../api/pictures";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { Photograph } from "../../shared/Photograph";
import { PictureOf } from "../../shared/PictureOf";
import { ManyFiles } from "./ManyFiles";
import { Settle } from "./Settle";

/** Files that may hold many recipes. */
const MANY = /\.(zip|csv|tsv)$/i;

/** Importing a recipe: pasted or from a file, read at once, then settled line by line. */
export function Import() {
  const here = useHere();
  const read = useImport(here.slug);
  const [text, setText] = useState("");
  const [picture, setPicture] = useState<ReadPicture | null>(null);
  const [files, setFiles] = useState<readonly File[]>([]);
  const problem = read.error instanceof Problem ? read.error : null;
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = [...(event.target.files ?? [])];
    const file = chosen[0];
    if (!file) return;
    if (chosen.length > 1 || MANY.test(file.name)) {
      setFiles(chosen);
      return;
    }
    const held = await file.text();
    setText(held);
    setPicture(null);
    read.mutate({ text: held });
  };
  const photographed = (taken: ReadPicture) => {
    setText(taken.text);
    setPicture(taken);
    read.mutate({ text: taken.text, doubtful: [...taken.doubtful] });
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    read.mutate({ text, doubtful: picture ? [...picture.doubtful] : null });
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
      {files.length ? (
        <div className="mt-4">
          <ManyFiles
            key={files.map((file) => file.name).join()}
            files={files}
            onOthers={() => setFiles([])}
          />
        </div>
      ) : read.data ? (
        <div className="mt-4">
          <Settle
            key={JSON.stringify(read.data)}
            found={read.data}
            picture={picture?.id}
            onChangeText={() => read.reset()}
          />
        </div>
      ) : (
        <>
          <p className="my-2 max-w-3xl text-soft">
            Paste or photograph it as you have it: a card, a page, a table, a sentence; in English, French,
            German, Italian, Spanish or Portuguese. Each line is read and weighed, what had to be assumed is
            shown next to it, and you are asked only what cannot be known.
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
              <Field label="Or from files, a zip or a table">
                {(given) => (
                  <input
                    {...given}
                    type="file"
                    multiple
                    className="w-full max-w-md"
                    accept=".json,.html,.htm,.txt,.md,.csv,.tsv,.zip,application/json,text/html,text/plain,text/csv"
                    onChange={choose}
                  />
                )}
              </Field>
            </div>
            <Photograph label="Or photograph a card or a page" onRead={photographed} />
            {picture ? (
              <PictureOf id={picture.id}>
                <Button onClick={() => setPicture(null)}>Without the photograph</Button>
              </PictureOf>
            ) : null}
            {problem?.beside("text") ? <Notice tone="wrong">{problem.message}</Notice> : null}
          </form>
        </>
      )}
    </>
  );
}
