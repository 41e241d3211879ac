import { useRef } from "react";
import { Link, useNavigate } from "react-router";
import { useHere } from "../../api/here";
import { newId } from "../../api/newId";
import { type About, type Said, type Trouble, useTroubleActions } from "../../api/trouble";
import { Rule } from "../../drawings/Rule";
import { Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { inUnits, massText } from "../../kit/units";

interface Props {
  about: About;
  told: Trouble;
  said: Said;
  have: number | null;
}

/** Whether it can be saved, and how, weighed for what is there; what it then is. */
export function Answer({ about, told, said, have }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const navigate = useNavigate();
  const { take } = useTroubleActions(here.slug);
  // The same remedy touched twice, or sent again after a lost connection, counts once.
  const id = useRef<{ of: string; id: string } | null>(null);
  const { now, sauce } = told;
  const of = JSON.stringify([about, told.fault, said, have]);
  const write = () => {
    if (id.current?.of !== of) id.current = { of, id: newId() };
    take.mutate(
      { id: id.current.id, fault: told.fault, said, have_g: have, ...about },
      { onSuccess: ({ batch_id }) => navigate(`../stove/${batch_id}#remedies`) },
    );
  };
  const may = here.role !== "viewer" && told.takes;
  return (
    <div className="pt-4" aria-live="polite">
      <h2 className={`text-[1.6rem] sm:text-[1.9rem] ${told.unsafe ? "text-brick" : ""}`}>
        {inUnits(now.say, system)}.
      </h2>
      <Weighed told={told} />
      <ol className="mt-2 grid list-decimal gap-1.5 pl-6 text-lg">
        {now.steps.map((step) => (
          <li key={step}>{inUnits(step, system)}</li>
        ))}
      </ol>
      {now.cautions.map((caution) => (
        <p key={caution} className="mt-3 border-l-4 border-brick bg-paper py-2 pl-3">
          {inUnits(caution, system)}
        </p>
      ))}
      {now.warmed_again ? (
        <p className="mt-3 border-l-4 border-brick bg-paper py-2 pl-3">{inUnits(now.warmed_again, system)}</p>
      ) : null}
      {told.new_allergens.length ? (
        <p className="mt-3 border-l-4 border-brick bg-paper py-2 pl-3 font-bold">
          New in it: {listed(told.new_allergens)}. Its label and the allergen list change with it.
        </p>
      ) : null}
      {take.isError ? (
        <div className="mt-4">
          <Notice tone="wrong">{take.error.message}</Notice>
        </div>
      ) : null}
      <div className="mt-5 flex flex-wrap items-center gap-3 print:hidden">
        {may && now.saved !== "no" ? (
          <Button look="solid" large onClick={write} disabled={take.isPending}>
            {sauce.tub === null ? "Write it into the batch" : "Write it into the tub"}
          </Button>
        ) : null}
        {may || (told.unsafe && here.role !== "viewer" && sauce.batch_id !== null) ? (
          <Link
            to={sauce.tub === null ? `../stove/${sauce.batch_id}?stage=keep` : "../shelf"}
            className={`flex items-center rounded-solid border px-6 no-underline ${now.saved === "no" ? "min-h-[72px] border-brick text-xl font-bold text-brick" : "min-h-11 border-line"}`}
          >
            {told.unsafe || now.saved === "no" ? "Throw it away" : "It is past saving"}
          </Link>
        ) : null}
        {sauce.closed && sauce.tub === null ? (
          <p className="text-soft">
            This batch is closed. What is left of it is on the <Link to="../shelf">Shelf</Link>: mend the tub
            that you have open, under More.
          </p>
        ) : null}
        {sauce.batch_id === null && sauce.formula_id !== null ? (
          <p className="text-soft">
            Take the formula to the stove, and what you do about it is kept with the batch.
          </p>
        ) : null}
      </div>
      {told.unsafe || now.saved === "no" ? null : <Becomes told={told} />}
    </div>
  );
}

function Weighed({ told }: { told: Trouble }) {
  const { system } = useUnits();
  const { add } = told.now;
  if (!add.length) return null;
  return (
    <ul aria-label="To weigh" className="mt-2 flex flex-wrap gap-x-8 gap-y-1">
      {add.map((one) => (
        <li key={`${one.ingredient} ${one.when}`}>
          <span className="figure text-[1.9rem]">{massText(one.grams, system)}</span> {one.name}
          {one.anew ? <span className="text-soft"> in its place</span> : null}
        </li>
      ))}
    </ul>
  );
}

/** What it will be after that: on the spoon, on the rule, and how long it keeps. */
function Becomes({ told }: { told: Trouble }) {
  const { system } = useUnits();
  const { now, after, life } = told;
  const film = now.spoon;
  return (
    <section aria-label="What it will be" className="mt-7 border-t border-hair pt-4">
      <h3 className="mb-3 text-[1.15rem]">What it will be</h3>
      <div className="flex flex-wrap items-start gap-x-8 gap-y-4">
        {film ? <Spoon film={film} size={116} /> : null}
        <dl className="grid grid-cols-[auto_1fr] content-start gap-x-4 gap-y-1">
          <dt className="text-soft">becomes</dt>
          <dd className="font-bold">{now.becomes}</dd>
          <dt className="text-soft">meant</dt>
          <dd>{now.wanted}</dd>
          <dt className="text-soft">there will be</dt>
          <dd className="tabular">{massText(after.yields_g, system)}</dd>
          <dt className="text-soft">keeps</dt>
          <dd>
            {inUnits(life.say, system)} <span className="text-soft">({inUnits(life.why, system)})</span>
          </dd>
        </dl>
        <div className="w-60">
          <Rule
            window={after.window}
            boiling_c={after.boiling_c}
            stop_c={after.stop_c}
            marks={now.heat_to_c == null ? [] : [{ at_c: now.heat_to_c, label: "heat to", tone: "copper" }]}
            low={40}
            height={230}
            system={system}
          />
        </div>
      </div>
    </section>
  );
}
