import type { Here } from "../../api/here";
import { type LearnedSauce, useLearned, useLearnedUse } from "../../api/log";
import { Button } from "../../kit/Button";
import { fixed } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference } from "../../kit/units";

/** The ends of the line on which an offset is drawn [K]. */
const END_K = 3;

/** What this kitchen's batches taught it of its sauces, and whether it goes by that. */
export function Learned({ here }: { here: Here }) {
  const learned = useLearned(here.slug);
  const use = useLearnedUse(here.slug);
  const { system } = useUnits();
  const locked = here.role !== "chef";
  if (learned.isError)
    return <Failed sentence={learned.error.message} again={() => void learned.refetch()} />;
  if (!learned.data) return <Loading what="what was learned" />;
  const { house, sauces, speak } = learned.data;
  const known = sauces.filter(({ set_k, left }) => set_k.batches + left.batches > 0);
  return (
    <section aria-label="What was learned" className="grid gap-4">
      <h2>What was learned</h2>
      <p className="text-soft">
        From spoon tests, sieves, lifts and weights of closed batches; not from rehearsals, nor from batches
        called odd. It is forgotten over months. From {speak} batches on it narrows the range on the Bench.
      </p>
      {house === null ? (
        <p>Nothing yet: close a batch in which a spoon was tested, and it is the first to teach.</p>
      ) : (
        <Sauce
          sauce={house}
          name="All sauces here"
          system={system}
          off={null}
          onUse={locked ? null : (used) => use.mutate({ formula: "", used })}
        />
      )}
      {known.map((sauce) => (
        <Sauce
          key={sauce.formula}
          sauce={sauce}
          name={sauce.formula}
          system={system}
          off={house?.used === false ? "Left out with all sauces." : null}
          onUse={locked ? null : (used) => use.mutate({ formula: sauce.formula, used })}
        />
      ))}
      {use.error ? <Notice tone="wrong">{use.error.message}</Notice> : null}
    </section>
  );
}

interface SauceProps {
  sauce: LearnedSauce;
  name: string;
  system: UnitSystem;
  off: string | null;
  onUse: ((used: boolean) => void) | null;
}

function Sauce({ sauce, name, system, off, onUse }: SauceProps) {
  const used = sauce.used && off === null;
  return (
    <article aria-label={name} className={`grid gap-2 border-t border-hair pt-3 ${used ? "" : "text-soft"}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="min-w-0 break-words">{name}</h3>
        <span className="text-soft">{batches(sauce.set_k.batches)}</span>
      </div>
      {sauce.set_k.batches ? (
        <>
          <p>
            {offset(sauce.set_k.mean, system)}, ± {difference(sauce.set_k.sd, system)}
          </p>
          <OffsetLine mean={sauce.set_k.mean} sd={sauce.set_k.sd} system={system} />
        </>
      ) : null}
      <ul className="grid gap-1">
        {sauce.carry_over.batches ? (
          <li>
            After the flame its pans add {times(sauce.carry_over.mean)} (± {fixed(sauce.carry_over.sd, 2)},{" "}
            {batches(sauce.carry_over.batches)}).
          </li>
        ) : null}
        {sauce.left.batches ? (
          <li>
            {times(sauce.left.mean)} stays in pan and sieve (± {fixed(sauce.left.sd, 2)},{" "}
            {batches(sauce.left.batches)}).
          </li>
        ) : null}
      </ul>
      {off ? <p>{off}</p> : null}
      {onUse && off === null ? (
        <div>
          <Button onClick={() => onUse(!sauce.used)}>{sauce.used ? "Leave it out" : "Go by it again"}</Button>
        </div>
      ) : null}
    </article>
  );
}

const batches = (count: number) => (count === 1 ? "1 batch" : `${count} batches`);

const times = (factor: number) => `${fixed(factor, 2)} times what is computed`;

/** How far from what is computed it coats, in words. */
export function offset(kelvin: number, system: UnitSystem): string {
  if (Math.abs(kelvin) < 0.05) return "It coats where it is computed to";
  return `It coats ${difference(Math.abs(kelvin), system)} ${kelvin > 0 ? "higher" : "lower"} than computed`;
}

/** An offset with its spread, beside where it is computed. */
function OffsetLine({ mean, sd, system }: { mean: number; sd: number; system: UnitSystem }) {
  const x = (kelvin: number) => 160 + (150 * Math.max(-END_K, Math.min(END_K, kelvin))) / END_K;
  return (
    <svg viewBox="0 0 320 46" className="h-auto w-full max-w-80" aria-hidden="true">
      <line x1="10" x2="310" y1="16" y2="16" stroke="var(--color-line)" />
      <rect
        x={x(mean - sd)}
        y="10"
        width={Math.max(2, x(mean + sd) - x(mean - sd))}
        height="12"
        fill="var(--color-yolk-pale)"
        stroke="var(--color-yolk-ink)"
      />
      <line x1={x(mean)} x2={x(mean)} y1="5" y2="27" stroke="var(--color-yolk-ink)" strokeWidth="4" />
      <line x1="160" x2="160" y1="5" y2="27" stroke="var(--color-iron)" strokeWidth="2" />
      <text x="10" y="42" fontSize="13" fill="var(--color-soft)">
        −{difference(END_K, system)}
      </text>
      <text x="160" y="42" fontSize="13" textAnchor="middle" fill="var(--color-soft)">
        as computed
      </text>
      <text x="310" y="42" fontSize="13" textAnchor="end" fill="var(--color-soft)">
        +{difference(END_K, system)}
      </text>
    </svg>
  );
}
