import { useState } from "react";
import { type DayWant, type Promised, useDayEdits } from "../../api/day";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { useBook, useFormula } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { SelectBox } from "../../kit/SelectBox";
import { Sheet } from "../../kit/Sheet";
import { useSettled } from "../../kit/settled";
import { TextBox } from "../../kit/TextBox";
import { typedNumber } from "../../kit/typed";
import { timeToType, typedTime } from "./times";

interface Props {
  when: string;
  want: DayWant | null;
  /** What the shelf has promised and cannot keep, to be made for the same dish. */
  promised?: Promised;
  onClose: () => void;
}

/** A dish with covers and a time, or a formula as it is with a time. */
export function WantSheet({ when, want, promised, onClose }: Props) {
  const here = useHere();
  const { addWant, changeWant } = useDayEdits(here.slug, when);
  const [words, setWords] = useState("");
  const settled = useSettled(words.trim(), 300);
  const book = useBook(here.slug, settled ? { words: settled } : {});
  const [formula, setFormula] = useState(String(want?.formula_id ?? promised?.formula_id ?? ""));
  const [name, setName] = useState(want?.name ?? promised?.dish ?? "");
  const [at, setAt] = useState(timeToType(want?.at ?? promised?.at ?? 750));
  const [covers, setCovers] = useState(want ? String(want.covers) : "");
  const [each, setEach] = useState(want?.each ?? (promised ? `${Math.ceil(promised.grams)} g` : ""));
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const lines = book.data?.pages.flatMap((page) => page.lines) ?? [];
  const doing = want ? changeWant : addWant;
  const send = () => {
    const minute = typedTime(at);
    const many = covers.trim() === "" ? 1 : typedNumber(covers);
    const found: Record<string, string> = {};
    if (!formula) found.formula = "Choose what is made for it.";
    if (minute === null) found.at = "Write a time like 12:30, or +1 7:15 for the day after.";
    if (!(many > 0)) found.covers = "Write how many, more than none.";
    setWrong(found);
    if (Object.keys(found).length || minute === null) return;
    const body = { name: name.trim(), at: minute, covers: many, each: each.trim() };
    const then = { onSuccess: onClose, onError: (error: Error) => setWrong(fieldsOf(error)) };
    if (want)
      changeWant.mutate({ id: want.id, seen: want.revision, ...body, name: body.name || want.name }, then);
    else addWant.mutate({ formula_id: Number(formula), ...body }, then);
  };
  return (
    <Sheet open onClose={onClose} title={want ? want.name : "Add to the day"}>
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        {want || promised ? (
          <p className="text-soft">{want?.formula ?? promised?.tub}</p>
        ) : (
          <>
            <TextBox label="Find in the Book" value={words} onChange={setWords} />
            <SelectBox
              label="What is made"
              none={book.isPending ? "fetching the Book …" : "choose a formula"}
              options={lines.map((line) => ({ value: String(line.id), shown: line.name }))}
              value={formula}
              error={wrong.formula}
              onChange={setFormula}
            />
            {formula ? (
              <Destinations
                formula={Number(formula)}
                onChoose={(one) => {
                  setName(one.name);
                  setCovers(String(one.count));
                  setEach(one.amount);
                }}
              />
            ) : null}
          </>
        )}
        <TextBox
          label="For which dish"
          hint="Empty for the sauce itself."
          value={name}
          error={wrong.name}
          maxLength={80}
          onChange={setName}
        />
        <div className="grid grid-cols-3 gap-3">
          <TextBox label="At" value={at} error={wrong.at} onChange={setAt} />
          <TextBox label="Covers" numeric value={covers} error={wrong.covers} onChange={setCovers} />
          <TextBox label="Each takes" value={each} error={wrong.each} onChange={setEach} />
        </div>
        <p className="text-sm text-soft">
          Each takes a weight or a volume, as “60 g” or “80 ml”; empty for the whole formula as it is written.
        </p>
        {doing.isError ? <Wrong>{doing.error.message}</Wrong> : null}
        <div className="flex flex-wrap gap-3">
          <Button look="solid" type="submit" disabled={doing.isPending}>
            {want ? "Change it" : "Add it"}
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Sheet>
  );
}

interface Destination {
  name: string;
  count: number;
  amount: string;
}

/** What the formula says it is for, to be taken over with one touch. */
function Destinations({ formula, onChoose }: { formula: number; onChoose: (one: Destination) => void }) {
  const here = useHere();
  const opened = useFormula(here.slug, formula, null);
  const found = opened.data?.draft.destinations ?? [];
  if (!found.length) return null;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">it is for</span>
      {found.map((one) => (
        <Button
          key={one.name}
          onClick={() => onChoose({ name: one.name, count: one.count ?? 1, amount: one.amount })}
        >
          {one.name}, {one.count} of {one.amount}
        </Button>
      ))}
    </div>
  );
}

/** What the server says of each field. */
export function fieldsOf(error: Error): Record<string, string> {
  if (!(error instanceof Problem)) return {};
  return Object.fromEntries(error.fields.map((one) => [one.field, one.message]));
}
