import { type Dispatch, type FormEvent, useState } from "react";
import { type Solution, useSolve, type Wanted } from "../../api/bench";
import { Problem } from "../../api/problem";
import { type Draft, useLarder } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Field } from "../../kit/Field";
import { useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { useUnits } from "../../kit/system";
import { inUnits, typedCelsius } from "../../kit/units";
import type { Change } from "./draft";

type Goal = Wanted["goal"];

const GOALS: readonly { value: Goal; shown: string }[] = [
  { value: "texture", shown: "a consistency" },
  { value: "dairy", shown: "other milk or cream" },
  { value: "yolks", shown: "yolks are missing" },
  { value: "chocolate", shown: "another chocolate" },
];
const TARGETS = ["thin coat", "nappe", "heavy coat", "spoonable", "pipeable"] as const;

interface Props {
  open: boolean;
  onClose: () => void;
  draft: Draft;
  act: Dispatch<Change>;
}

/** Asking backwards: say what is wanted, see line by line what changes, then take it or not. */
export function Solve({ open, onClose, draft, act }: Props) {
  const here = useHere();
  const larder = useLarder();
  const { system } = useUnits();
  const solve = useSolve(here.slug);
  const [goal, setGoal] = useState<Goal>("texture");
  const [typed, setTyped] = useState<Record<string, string>>({ at_c: system === "metric" ? "4" : "39" });
  const [texture, setTexture] = useState<(typeof TARGETS)[number]>("nappe");
  const [thing, setThing] = useState("");
  const [noStarch, setNoStarch] = useState(false);
  const problem = solve.error instanceof Problem ? solve.error : null;
  const group = goal === "chocolate" ? "chocolate" : "dairy";
  const things = (larder.data?.ingredients ?? []).filter((one) => one.group === group && one.piece === "");
  const number = (name: string) => {
    const text = (typed[name] ?? "").trim().replace(",", ".");
    return text === "" ? null : Number(text);
  };
  const type = (name: string) => (event: { target: { value: string } }) =>
    setTyped({ ...typed, [name]: event.target.value });
  const bad = ["yolks", "max_yolks", "max_fat_percent", "max_cost"].find((name) =>
    Number.isNaN(number(name) ?? 0),
  );
  const at = typedCelsius(typed.at_c ?? "", system);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (bad || at === null) return;
    solve.mutate({
      draft,
      goal,
      at_c: at,
      texture: goal === "texture" ? texture : null,
      ingredient: goal === "dairy" || goal === "chocolate" ? thing || null : null,
      yolks: goal === "yolks" ? number("yolks") : null,
      max_yolks: number("max_yolks"),
      max_starch_g: noStarch ? 0 : null,
      max_fat_percent: number("max_fat_percent"),
      max_cost: number("max_cost"),
    });
  };
  const box = (name: string, label: string, hint = "") => (
    <Field
      label={label}
      hint={hint}
      error={
        Number.isNaN(number(name) ?? 0)
          ? "Write a number."
          : name === "at_c" && at === null
            ? "Write how warm it is served, as a number."
            : problem?.at(name)
      }
    >
      {(given) => (
        <input
          {...given}
          className="w-full"
          inputMode="decimal"
          value={typed[name] ?? ""}
          onChange={type(name)}
        />
      )}
    </Field>
  );
  return (
    <Sheet open={open} onClose={onClose} title="Solve for me">
      <form onSubmit={submit} noValidate className="grid gap-4">
        <Choice
          label="What is wanted"
          options={GOALS}
          value={goal}
          onChange={(next) => {
            setGoal(next);
            setThing("");
            solve.reset();
          }}
        />
        {goal === "texture" ? (
          <>
            <Choice
              label="Consistency"
              options={TARGETS.map((word) => ({ value: word, shown: word }))}
              value={texture}
              onChange={setTexture}
            />
            <div className="grid gap-3 sm:grid-cols-2">
              {box("at_c", `served at, ${system === "metric" ? "°C" : "°F"}`)}
              {box("max_yolks", "at most, yolks", "empty: as many as it takes")}
              {box("max_fat_percent", "at most, % fat")}
              {box("max_cost", `at most, ${here.currency}`)}
            </div>
            <label className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="size-6 min-h-0"
                checked={noStarch}
                onChange={(event) => setNoStarch(event.target.checked)}
              />
              without starch
            </label>
          </>
        ) : goal === "yolks" ? (
          box("yolks", "yolks in hand")
        ) : (
          <Field
            label={goal === "dairy" ? "use instead" : "the chocolate there is"}
            error={problem?.at("ingredient") ?? problem?.at(goal)}
          >
            {(given) => (
              <select
                {...given}
                className="w-full"
                value={thing}
                onChange={(event) => setThing(event.target.value)}
              >
                <option value="">choose …</option>
                {things.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </select>
            )}
          </Field>
        )}
        <div className="flex gap-3">
          <Button look="iron" type="submit" disabled={solve.isPending}>
            {solve.isPending ? "Solving …" : "Solve"}
          </Button>
          <Button onClick={onClose}>Close</Button>
        </div>
        {problem ? <Notice tone="wrong">{inUnits(problem.message, system)}</Notice> : null}
      </form>
      {solve.data?.map((one) => (
        <Offer
          key={one.title}
          one={one}
          onTake={() => {
            act({ do: "replace", draft: one.draft });
            solve.reset();
            onClose();
          }}
        />
      ))}
    </Sheet>
  );
}

function Offer({ one, onTake }: { one: Solution; onTake: () => void }) {
  const { system } = useUnits();
  return (
    <section className="mt-5 border-t border-hair pt-4" aria-label={one.title}>
      <h3 className="text-[1.1rem]">{one.title}</h3>
      <ul className="mt-1">
        {one.changes.map((change) => (
          <li key={change} className="tabular border-b border-dotted border-line py-1">
            {change}
          </li>
        ))}
        {one.changes.length === 0 ? <li className="text-soft">nothing has to change</li> : null}
      </ul>
      <p className="mt-2">{inUnits(one.reached, system)}</p>
      {one.differences.length ? (
        <p className="mt-1 text-soft">{one.differences.map((text) => inUnits(text, system)).join(" · ")}</p>
      ) : null}
      <Button look="solid" className="mt-3" onClick={onTake}>
        Take it
      </Button>
    </section>
  );
}
