import { type FormEvent, useState } from "react";
import type { Schemas } from "../../api/client";
import { useHere } from "../../api/here";
import { useCompareLabels } from "../../api/kitchen";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { fixed } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { Photograph } from "../../shared/Photograph";

type Compared = Schemas["LabelsCompared"];

/** Two packets of one thing: their labels typed, pasted or photographed, and what they differ in. */
export function CompareLabels() {
  const here = useHere();
  const compare = useCompareLabels(here.slug);
  const [a, setA] = useState("");
  const [b, setB] = useState("");
  const problem = compare.error instanceof Problem ? compare.error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    compare.mutate({ a, b });
  };
  return (
    <details className="mt-3">
      <summary className="min-h-11 py-2">Compare two labels</summary>
      <form onSubmit={submit} noValidate aria-label="Compare two labels" className="grid gap-3">
        <OneLabel name="One packet’s label" error={problem?.at("a")} text={a} onText={setA} />
        <OneLabel name="The other packet’s label" error={problem?.at("b")} text={b} onText={setB} />
        <Button
          look="iron"
          type="submit"
          className="justify-self-start"
          disabled={!a.trim() || !b.trim() || compare.isPending}
        >
          {compare.isPending ? "Comparing …" : "Compare"}
        </Button>
        {problem?.beside("a", "b") ? <Notice tone="wrong">{problem.message}</Notice> : null}
      </form>
      {compare.data ? <Differences compared={compare.data} /> : null}
    </details>
  );
}

interface OneLabelProps {
  name: string;
  error: string | undefined;
  text: string;
  onText: (text: string) => void;
}

function OneLabel({ name, error, text, onText }: OneLabelProps) {
  return (
    <div className="grid gap-2">
      <Field label={name} error={error}>
        {(given) => (
          <textarea
            {...given}
            className="h-24 w-full"
            spellCheck={false}
            value={text}
            onChange={(event) => onText(event.target.value)}
          />
        )}
      </Field>
      <Photograph label="Or photograph it" onRead={(picture) => onText(picture.text)} />
    </div>
  );
}

function Differences({ compared }: { compared: Compared }) {
  const { differences, only_a, only_b } = compared;
  return (
    <section aria-label="What they differ in" className="mt-4">
      {differences.length === 0 ? <p>Both hold the same in 100 g.</p> : null}
      {differences.length ? (
        <table className="tabular w-full text-left">
          <caption className="text-left text-soft">In 100 g, grams; the largest difference first</caption>
          <thead>
            <tr className="border-b border-line">
              <th scope="col">holds</th>
              <th scope="col" className="text-right">
                one
              </th>
              <th scope="col" className="text-right">
                the other
              </th>
              <th scope="col" className="text-right">
                more or less
              </th>
            </tr>
          </thead>
          <tbody>
            {differences.map((one) => (
              <tr key={one.component} className="border-b border-hair">
                <th scope="row" className="font-normal">
                  {one.component.replaceAll("_", " ")}
                </th>
                <td className="text-right">{fixed(one.a_g, 1)}</td>
                <td className="text-right">{fixed(one.b_g, 1)}</td>
                <td className="text-right font-bold">
                  {one.more_g > 0 ? "+" : "−"}
                  {fixed(Math.abs(one.more_g), 1)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {only_a.length ? <p>Only the one holds {listed(only_a)}.</p> : null}
      {only_b.length ? <p>Only the other holds {listed(only_b)}.</p> : null}
    </section>
  );
}
