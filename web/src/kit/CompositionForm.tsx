import { type FormEvent, type ReactNode, useState } from "react";
import { Button } from "./Button";
import { Field, Wrong } from "./Field";
import { fixed, plain } from "./habits";
import { typedWords } from "./listed";
import { Notice } from "./Notice";
import { TextBox } from "./TextBox";
import { typedNumber } from "./typed";

const FIRST = ["water", "fat", "sucrose", "other_sugars", "starch", "rest"];

export interface Composed {
  name: string;
  composition: Record<string, number>;
  allergens: string[];
  density_g_per_ml: null;
}

interface Refused {
  message: string;
  fields: readonly { field: string; message: string }[];
  at: (field: string) => string | undefined;
  beside: (...shown: string[]) => string | undefined;
}

interface Read {
  composition: Record<string, number>;
  allergens: readonly string[];
  may_contain: readonly string[];
  assumed: readonly string[];
}

/** Reads the text of a label, and says what is wrong with it. */
export interface LabelReading {
  mutate: (text: string, then: { onSuccess: (read: Read) => void }) => void;
  isPending: boolean;
  error: Error | null;
  data: Read | undefined;
}

/** Draws how a label is photographed; its text goes to `onText`. */
export type PhotographOf = (onText: (text: string) => void) => ReactNode;

interface Props {
  label: LabelReading;
  photograph: PhotographOf;
  /** What a composition may name, as the larder has it. */
  components: readonly string[];
  name?: string;
  problem: Refused | null;
  pending: boolean;
  onAdd: (made: Composed, done: () => void) => void;
}

/** An ingredient of one's own, written by what 100 g of it hold. */
export function CompositionForm({
  components,
  name: first = "",
  problem,
  pending,
  label,
  photograph,
  onAdd,
}: Props) {
  const [name, setName] = useState(first);
  const [allergens, setAllergens] = useState("");
  const [parts, setParts] = useState<Record<string, string>>({});
  const value = (part: string) => (parts[part]?.trim() ? typedNumber(parts[part]) : 0);
  const order = [...FIRST, ...components.filter((part) => !FIRST.includes(part))];
  const total = order.reduce((sum, part) => sum + (value(part) || 0), 0);
  const bad = order.find((part) => Number.isNaN(value(part)));
  const off = Math.abs(total - 100) > 0.5;
  const fill = (read: Read) => {
    setParts(
      Object.fromEntries(Object.entries(read.composition).map(([part, share]) => [part, plain(share)])),
    );
    setAllergens(read.allergens.join(", "));
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (bad) return;
    const composition = Object.fromEntries(
      order.map((part) => [part, value(part)]).filter(([, share]) => share),
    );
    onAdd({ name, composition, allergens: typedWords(allergens), density_g_per_ml: null }, () => {
      setName("");
      setParts({});
      setAllergens("");
    });
  };
  return (
    <form onSubmit={submit} noValidate className="grid gap-3">
      <TextBox label="Name" error={problem?.at("name")} maxLength={80} value={name} onChange={setName} />
      <FromLabel label={label} photograph={photograph} onRead={fill} />
      <fieldset>
        <legend className="mb-1 text-soft">In 100 g, grams</legend>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
          {order.map((part) => (
            <TextBox
              key={part}
              label={part.replaceAll("_", " ")}
              error={Number.isNaN(value(part)) ? "Write a number." : problem?.at(`composition.${part}`)}
              numeric
              value={parts[part] ?? ""}
              onChange={(typed) => setParts({ ...parts, [part]: typed })}
            />
          ))}
        </div>
        <p role="status" className={`tabular mt-2 ${off ? "text-brick" : "text-herb"}`}>
          {off
            ? `${fixed(total, 1)} of 100 g; ${fixed(100 - total, 1)} to go`
            : `${fixed(total, 1)} of 100 g, adds up`}
        </p>
        {problem?.at("composition") ? <Wrong>{problem.at("composition")}</Wrong> : null}
      </fieldset>
      <TextBox
        label="Allergens, with commas"
        hint="With the nut and the cereal, as labels must say them: nuts (hazelnuts), gluten (rye)."
        error={problem?.fields.find((one) => one.field.startsWith("allergens"))?.message}
        value={allergens}
        onChange={setAllergens}
      />
      <Button
        look="iron"
        type="submit"
        className="justify-self-start"
        disabled={off || !name.trim() || pending}
      >
        Add it
      </Button>
      {problem?.beside("name", "composition", "allergens") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </form>
  );
}

interface FromLabelProps {
  label: LabelReading;
  photograph: PhotographOf;
  onRead: (read: Read) => void;
}

/** The label of a packet, typed, pasted or photographed: it fills the composition, and says what it assumed. */
function FromLabel({ label, photograph, onRead }: FromLabelProps) {
  const [text, setText] = useState("");
  const notes = label.data ? label.data.assumed : [];
  const traces = label.data?.may_contain ?? [];
  return (
    <div className="grid gap-2">
      <Field
        label="From its label"
        hint="Its table per 100 g or 100 ml, its ingredients and what it contains, as printed. Below stands what this makes; correct it there."
        error={label.error?.message}
      >
        {(given) => (
          <textarea
            {...given}
            className="h-28 w-full"
            spellCheck={false}
            placeholder="fat 35 g, carbohydrate 3.2 g, of which sugars 3.2 g, protein 2.2 g. Ingredients: cream."
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        )}
      </Field>
      <Button
        className="justify-self-start"
        disabled={!text.trim() || label.isPending}
        onClick={() => label.mutate(text, { onSuccess: onRead })}
      >
        Read the label
      </Button>
      {photograph((read) => {
        setText(read);
        label.mutate(read, { onSuccess: onRead });
      })}
      {notes.length || traces.length ? (
        <ul className="list-disc pl-5 text-sm text-yolk-ink">
          {notes.map((note) => (
            <li key={note}>{note}</li>
          ))}
          {traces.length ? (
            <li>it may hold traces of {traces.join(", ")}; they are not on our labels</li>
          ) : null}
        </ul>
      ) : null}
    </div>
  );
}
