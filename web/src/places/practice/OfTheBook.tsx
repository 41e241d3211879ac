import { useState } from "react";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { type Attempt, type Hidden, USUAL, useAttemptActions, useChefActions } from "../../api/practice";
import { Problem } from "../../api/problem";
import { useBook } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { SelectBox } from "../../kit/SelectBox";
import { TextBox } from "../../kit/TextBox";

const DIFFICULTIES = [
  { value: "gentle", shown: "nearly as usual" },
  { value: "usual", shown: "a quarter off" },
  { value: "hard", shown: "far off" },
] as const;
const PANS = [
  { value: "clad", shown: "a clad pan" },
  { value: "thin", shown: "a thin pan" },
  { value: "cast-iron", shown: "cast iron" },
] as const;
const SURPRISES = [
  { value: "none", shown: "nothing happens" },
  { value: "turned-up", shown: "somebody turns it up" },
  { value: "called-away", shown: "called away for 20 s" },
] as const;
const PROBES = [
  { value: "hidden", shown: "eyes only" },
  { value: "given", shown: "with a probe" },
] as const;

interface Props {
  chef: boolean;
  onBegun: (made: Attempt) => void;
}

/** Any formula of the Book on a hob nobody knows; a chef may keep it as an exercise. */
export function OfTheBook({ chef, onBegun }: Props) {
  const here = useHere();
  const book = useBook(here.slug);
  const { begin } = useAttemptActions(here.slug);
  const { make } = useChefActions(here.slug);
  const [formula, setFormula] = useState("");
  const [how, setHow] = useState<Hidden>(USUAL);
  const [name, setName] = useState("");
  const [tell, setTell] = useState("");
  const formulas = (book.data?.pages ?? []).flatMap((page) => page.lines);
  const options = formulas.map((one) => ({ value: String(one.id), shown: one.name }));
  const wrong = begin.error ?? make.error;
  const at = (field: string) => (wrong instanceof Problem ? wrong.at(field) : undefined);
  return (
    <section aria-label="Any formula of the Book" className="mt-6 border-t border-hair pt-3">
      <h2>Any formula of the Book</h2>
      <div className="mt-2 grid gap-3">
        <SelectBox
          label="Formula"
          options={options}
          none={book.isPending ? "one moment" : "which one?"}
          value={formula}
          error={at("formula")}
          onChange={setFormula}
        />
        <div className="grid grid-cols-2 gap-3">
          <SelectBox
            label="The hob is"
            options={DIFFICULTIES}
            value={how.difficulty}
            onChange={(difficulty) => setHow({ ...how, difficulty })}
          />
          <SelectBox label="In" options={PANS} value={how.pan} onChange={(pan) => setHow({ ...how, pan })} />
          <SelectBox
            label="Meanwhile"
            options={SURPRISES}
            value={how.surprise || "none"}
            onChange={(now) => setHow({ ...how, surprise: now === "none" ? "" : now })}
          />
          <SelectBox
            label="Looked at"
            options={PROBES}
            value={how.probe}
            onChange={(probe) => setHow({ ...how, probe })}
          />
        </div>
        {wrong && !at("formula") && !at("name") ? <Wrong>{wrong.message}</Wrong> : null}
        <Button
          look="solid"
          disabled={!formula || begin.isPending}
          onClick={() =>
            begin.mutate({ id: newId(), formula_id: Number(formula), ...how }, { onSuccess: onBegun })
          }
        >
          Practise it
        </Button>
        {chef ? (
          <details>
            <summary className="min-h-11 py-2">Keep it as an exercise of this kitchen</summary>
            <form
              className="grid gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                make.mutate(
                  { formula_id: Number(formula), name: name.trim(), tell: tell.trim(), ...how },
                  {
                    onSuccess: () => {
                      setName("");
                      setTell("");
                    },
                  },
                );
              }}
            >
              <TextBox label="Its name" value={name} error={at("name")} maxLength={80} onChange={setName} />
              <TextBox
                label="What to do, and by which sign"
                hint="Empty for the usual words."
                value={tell}
                maxLength={500}
                onChange={setTell}
              />
              <Button type="submit" disabled={!formula || !name.trim() || make.isPending}>
                Keep it
              </Button>
            </form>
          </details>
        ) : null}
      </div>
    </section>
  );
}
