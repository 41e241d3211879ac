import { useState } from "react";
import { WHENS, type When } from "../../contract/words";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { whenShown } from "../../kit/joins";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { mass } from "../../kit/units";
import { IngredientBox } from "../../shared/IngredientBox";
import { changed, type Settling, stateOf } from "./settling";

interface Props {
  at: number;
  line: Settling;
  name: string;
  grams: number | null;
  /** It is the one that is being settled. */
  active: boolean;
  error: string | undefined;
  onActive: () => void;
  onChange: (line: Settling) => void;
}

const MARKS = { sure: "✓", assumed: "?", open: "!", note: "–", "left out": "–" } as const;
const TONES = {
  sure: "text-herb",
  assumed: "text-yolk-ink",
  open: "text-brick",
  note: "text-soft",
  "left out": "text-soft",
} as const;

/** One line of a recipe: what it was read as; touched, what else it may be. */
export function SettlingLine(props: Props) {
  const { at, line, name, grams, active, onActive } = props;
  const { system } = useUnits();
  const state = stateOf(line);
  const weight = grams === null || !["sure", "assumed"].includes(state) ? null : mass(grams, system);
  return (
    <li
      className={`border-b border-hair ${active ? "bg-paper outline-2 outline-slate" : ""} ${state === "left out" ? "opacity-60" : ""}`}
    >
      <button
        type="button"
        id={`line-${at}`}
        aria-expanded={active}
        className="grid min-h-14 w-full grid-cols-[5rem_minmax(0,1fr)_auto] items-center gap-3 px-2 py-2 text-left sm:grid-cols-[6rem_minmax(0,1fr)_9rem_1.5rem]"
        onClick={onActive}
      >
        <span className="figure text-right text-xl">
          {weight ? weight.number : "–"} <span className="text-sm text-soft">{weight?.unit}</span>
        </span>
        <span className="min-w-0 break-words">
          <span className={state === "open" ? "font-bold text-brick" : ""}>{name || line.text}</span>
          <span className={`block text-sm ${TONES[state]}`}>{said(line, state)}</span>
        </span>
        <Facts
          className="hidden text-sm text-soft sm:block"
          of={[line.when !== null && whenShown(line.when), line.minutes !== null && `${line.minutes} min`]}
        />
        <span aria-hidden="true" className={`text-center font-bold ${TONES[state]}`}>
          {MARKS[state]}
        </span>
        <span className="sr-only">{state}</span>
      </button>
      {active ? <Touched key={at} {...props} /> : null}
    </li>
  );
}

/** What a touch takes: another amount of the same, or another thing and as much of it as is offered. */
function optionText(one: Settling["options"][number], line: Settling): string {
  if (one.ingredient === line.ingredient && one.amount) return one.amount;
  return one.amount && !line.amount ? `${one.name}, ${one.amount}` : one.name;
}

function said(line: Settling, state: string): string {
  if (state === "left out") return `“${line.text}” is left out`;
  if (state === "note") return `“${line.text}” stays as a note, without a weight`;
  if (state === "open") return line.why || `“${line.text}”`;
  const parts = state === "assumed" ? line.assumed : [line.amount];
  const more = [line.optional ? "optional" : "", line.unmodelled ? `not computed: ${line.unmodelled}` : ""];
  return [...parts, ...more.filter(Boolean)].join(" · ");
}

/** What a touched line may be instead, and its fields. */
function Touched({ at, line, error, onChange }: Props) {
  const [typing, setTyping] = useState(stateOf(line) === "open" && line.options.length === 0);
  const put = (more: Partial<Settling>) => onChange(changed(line, more));
  // Another ingredient joins when it usually does.
  const take = (ingredient: string, amount: string) =>
    put({ ingredient, amount, ...(ingredient === line.ingredient ? {} : { when: null, minutes: null }) });
  return (
    <div className="grid gap-3 px-2 pb-3 sm:pl-28">
      <p className="break-words text-sm text-soft">“{line.text}”</p>
      {line.options.length ? (
        <fieldset className="flex flex-wrap gap-2">
          <legend className="sr-only">What line {at + 1} may be instead</legend>
          {line.options.map((one) => (
            <Button
              key={`${one.ingredient} ${one.amount}`}
              onClick={() => {
                take(one.ingredient, one.amount || line.amount);
                setTyping(!one.amount && !line.amount);
              }}
            >
              {optionText(one, line)}
            </Button>
          ))}
        </fieldset>
      ) : null}
      {typing ? (
        <div className="grid gap-3 sm:grid-cols-[8rem_minmax(0,1fr)]">
          <TextBox
            label={`Amount of line ${at + 1}`}
            error={error}
            value={line.amount}
            onChange={(amount) => put({ amount })}
          />
          <IngredientBox
            label={`Ingredient of line ${at + 1}`}
            placeholder="which ingredient?"
            value={line.ingredient}
            onChoose={(ingredient) => take(ingredient, line.amount)}
          />
        </div>
      ) : null}
      <div className="flex flex-wrap items-end gap-2">
        {typing ? null : <Button onClick={() => setTyping(true)}>Something else</Button>}
        <label className="text-soft">
          <span className="sr-only">When line {at + 1} joins</span>
          <select value={line.when ?? ""} onChange={(event) => put({ when: event.target.value as When })}>
            {line.when ? null : <option value="">joins as is usual</option>}
            {WHENS.map((one) => (
              <option key={one} value={one}>
                {whenShown(one)}
              </option>
            ))}
          </select>
        </label>
        <Button onClick={() => onChange({ ...line, keep: !line.keep })}>
          {line.keep ? "Leave out" : "Put back"}
        </Button>
      </div>
    </div>
  );
}
