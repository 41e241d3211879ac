import { type Dispatch, type FormEvent, useEffect, useRef, useState } from "react";
import { type Solution, useSolve, type Wanted } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Assessment, type Draft, useLarder } from "../../api/queries";
import { COATS, type Coat } from "../../contract/words";
import { Rule } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { Sheet } from "../../kit/Sheet";
import { useUnits } from "../../kit/system";
import { typedCelsius, typedNumber } from "../../kit/typed";
import { inUnits, massText, temperature } from "../../kit/units";
import type { Change } from "./draft";

type Target = Exclude<Coat, "runs off">;
/** What thickness can be asked for: what runs off is none. */
const TARGETS = COATS.filter((coat): coat is Target => coat !== "runs off");

type Goal = Wanted["goal"];

const GOALS: readonly { value: Goal; shown: string }[] = [
  { value: "texture", shown: "a consistency" },
  { value: "dairy", shown: "other milk or cream" },
  { value: "yolks", shown: "yolks are missing" },
  { value: "chocolate", shown: "another chocolate" },
];

interface Props {
  open: boolean;
  onClose: () => void;
  draft: Draft;
  /** What the draft is now, as the Bench shows it. */
  now: Assessment | undefined;
  act: Dispatch<Change>;
}

/** Asking backwards: say what is wanted, see line by line what changes, then take it or not. */
export function Solve({ open, onClose, draft, now, act }: Props) {
  const here = useHere();
  const larder = useLarder();
  const { system } = useUnits();
  const solve = useSolve(here.slug);
  const [goal, setGoal] = useState<Goal>("texture");
  const [typed, setTyped] = useState<Record<string, string>>({ at_c: system === "metric" ? "4" : "39" });
  const [texture, setTexture] = useState<Target>("nappe");
  const [thing, setThing] = useState("");
  const [noStarch, setNoStarch] = useState(false);
  const problem = solve.error instanceof Problem ? solve.error : null;
  const group = goal === "chocolate" ? "chocolate" : "dairy";
  const things = (larder.data?.ingredients ?? []).filter((one) => one.group === group && one.piece === "");
  const number = (name: string) => {
    const text = (typed[name] ?? "").trim();
    return text === "" ? null : typedNumber(text);
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
    <Sheet open={open} onClose={onClose} title="Solve for me" wide>
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
              {box("max_yolks", "at most, yolks", "empty: at most twice what is there")}
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
      {solve.data?.map((one, i) => (
        <Offer
          key={one.title}
          one={one}
          now={now}
          place={i + 1}
          of={solve.data?.length ?? 1}
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

interface OfferProps {
  one: Solution;
  now: Assessment | undefined;
  /** Which of how many ways it is; the first is the nearest to what is there. */
  place: number;
  of: number;
  onTake: () => void;
}

function Offer({ one, now, place, of, onTake }: OfferProps) {
  const { system } = useUnits();
  const weighed = one.lift_c === null;
  const came = useRef<HTMLElement>(null);
  // What was asked for stands above; the answer is what one looks at.
  useEffect(() => {
    if (place === 1) came.current?.scrollIntoView({ block: "start" });
  }, [place]);
  return (
    <section ref={came} className="mt-5 border-t border-hair pt-4" aria-label={one.title}>
      <h3 className="flex flex-wrap items-baseline justify-between gap-x-4 text-[1.1rem]">
        {one.title}
        {of > 1 ? (
          <span className="text-base font-normal text-soft">
            {place === 1 ? `way 1 of ${of}, the nearest to what is there` : `way ${place} of ${of}`}
          </span>
        ) : null}
      </h3>
      <p className="mb-2">{inUnits(one.reached, system)}</p>
      {one.why ? (
        <Notice tone="wrong">
          {inUnits(one.why, system)}
          {one.binds ? <span className="block">What stands in the way: {one.binds}.</span> : null}
        </Notice>
      ) : one.binds ? (
        <p className="text-soft">The limit that holds: {one.binds}.</p>
      ) : null}
      {weighed ? (
        <div className="mt-3 grid gap-6 sm:grid-cols-2">
          {now ? <SideOf title="now" is={now} other={one.assessment} /> : null}
          <SideOf title="then" is={one.assessment} other={now} />
        </div>
      ) : null}
      <ul className="mt-3">
        {one.changes.map((change) => (
          <li key={change} className="tabular border-b border-dotted border-line py-1">
            {inUnits(change, system)}
          </li>
        ))}
        {one.changes.length === 0 && weighed ? <li className="text-soft">nothing has to change</li> : null}
      </ul>
      {one.differences.length ? (
        <Facts className="mt-1 text-soft" of={one.differences.map((text) => inUnits(text, system))} />
      ) : null}
      {weighed ? (
        <Button look="solid" className="mt-3" onClick={onTake}>
          {one.why ? "Take the nearest" : "Take it"}
        </Button>
      ) : (
        <p className="mt-2 text-soft">Nothing is weighed differently.</p>
      )}
    </section>
  );
}

/** One mix with its spoon, slip and rule; the lines that differ from the other's are marked. */
function SideOf({ title, is, other }: { title: string; is: Assessment; other: Assessment | undefined }) {
  const { system } = useUnits();
  const there = new Map(other?.slip.map((line) => [`${line.ingredient} ${line.name}`, line.mass_g]));
  return (
    <section aria-label={title} className="min-w-0">
      <h4 className="mb-1 font-bold">{title}</h4>
      <div className="flex items-center gap-3">
        <Spoon film={is.hot} size={70} />
        <p>
          <b className="figure text-[1.2rem]">{is.hot.word}</b>
          <br />
          <span className="text-sm text-soft">
            at its stop, {temperature(is.stop_c, system)}: {coatText(is.hot.film_mm)}; cold: {is.cold.word}
          </span>
        </p>
      </div>
      <ul className="slip mt-2 border border-hair bg-paper px-3 py-2">
        {is.slip.map((line, i) => {
          const before = there.get(`${line.ingredient} ${line.name}`);
          const differs = other && (before === undefined || Math.abs(before - line.mass_g) > 0.05);
          return (
            <li
              // biome-ignore lint/suspicious/noArrayIndexKey: lines are told apart by their place
              key={i}
              className={`flex justify-between gap-3 border-b border-dotted border-line py-1 ${differs ? "font-bold" : ""}`}
            >
              <span className="min-w-0 break-words">
                {differs ? <span aria-hidden="true">▸ </span> : null}
                {line.name}
              </span>
              <span className="tabular shrink-0">{massText(line.mass_g, system)}</span>
            </li>
          );
        })}
      </ul>
      <div className="mt-2">
        <Rule
          window={is.window}
          boiling_c={is.boiling_c}
          stop_c={is.stop_c}
          low={60}
          height={230}
          system={system}
        />
      </div>
    </section>
  );
}
