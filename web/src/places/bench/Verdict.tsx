import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Band } from "../../api/bench";
import { useHere } from "../../api/here";
import { Problem } from "../../api/problem";
import { type Assessment, type Draft, type FormulaOut, useStartBatch } from "../../api/queries";
import { MiniRule, Rule, type RuleMark } from "../../drawings/Rule";
import { coatText, Spoon } from "../../drawings/Spoon";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { listed } from "../../kit/listed";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference, inUnits, temperature } from "../../kit/units";

interface Props {
  assessment: Assessment;
  band: Band | undefined;
  stale: boolean;
  draft: Draft;
  found: FormulaOut | null;
}

/** The Spoon, the Rule, and the way to the stove. */
export function Verdict({ assessment: a, band, stale, draft, found }: Props) {
  const { system } = useUnits();
  const marks: RuleMark[] = [];
  if (a.landing_c !== null) marks.push({ at_c: a.landing_c, label: "temper lands", tone: "slate" });
  if (a.card) marks.push({ at_c: a.card.at_c, label: "your card says", tone: "copper" });
  return (
    <div className="grid items-start gap-4">
      {a.warnings?.map((warning) => (
        <div key={warning} className="col-span-full">
          <Notice tone="wrong">{inUnits(warning, system)}</Notice>
        </div>
      ))}
      <div className={`flex items-center gap-4 ${stale ? "grayscale" : ""}`}>
        <Spoon film={a.hot} size={110} />
        <div>
          <p className="figure text-[1.8rem]">{a.hot.word}</p>
          <Facts className="text-soft" of={[coatText(a.hot.film_mm), `the line ${a.hot.line}`]} />
          <p className="mt-1 text-soft">cold: {a.cold.word}</p>
          {a.whisked ? (
            <Facts
              className="text-soft"
              of={[`whisked smooth: ${a.whisked.word}`, `a day later: ${a.whisked.next_day_word}`]}
            />
          ) : null}
        </div>
      </div>
      <div className={stale ? "grayscale" : ""}>
        <Rule
          window={a.window}
          boiling_c={a.boiling_c}
          stop_c={a.stop_c}
          marks={marks}
          band={band}
          low={40}
          height={290}
          system={system}
        />
        <p className="text-sm text-soft">
          At {difference(a.window.rate_k_per_min, system)} a minute; slower heat thickens lower.
        </p>
        {band ? <p className="text-sm text-soft">Likely range in brackets.</p> : null}
        {a.learned ? <LearnedHere learned={a.learned} system={system} /> : null}
      </div>
      {a.allergens.length ? (
        <p>
          <span className="text-soft">contains </span>
          <b>{listed(a.allergens)}</b>
        </p>
      ) : null}
      <ToTheStove draft={draft} found={found} disabled={stale} learned={Boolean(a.learned)} />
    </div>
  );
}

/** What the kitchen's own batches say of this sauce, and is in these figures. */
function LearnedHere({
  learned,
  system,
}: {
  learned: NonNullable<Assessment["learned"]>;
  system: UnitSystem;
}) {
  const here = useHere();
  const { set_k, batches } = learned;
  if (Math.abs(set_k) < 0.05) return null;
  const from = batches === 1 ? "1 batch" : batches ? `${batches} batches` : "this kitchen’s other sauces";
  return (
    <p className="mt-1 text-sm">
      Here it coats {difference(Math.abs(set_k), system)} {set_k > 0 ? "higher" : "lower"} than computed, from{" "}
      {from}. <Link to={`/k/${here.slug}/kitchen/learned`}>What was learned</Link>
    </p>
  );
}

/** The same in one line, for where there is no room beside: it stays at the top of a phone. */
export function VerdictLine({ assessment: a, stale }: { assessment: Assessment; stale: boolean }) {
  const { system } = useUnits();
  return (
    <div
      className={`sticky top-0 z-20 -mx-4 flex items-center gap-3 border-b border-hair bg-milk px-4 py-1 md:hidden print:hidden ${stale ? "grayscale" : ""}`}
    >
      <Spoon film={a.hot} size={44} />
      <span className="min-w-0 flex-1 leading-tight">
        <b className="figure">{a.hot.word}</b>
        <span className="block text-sm text-soft">stop at {temperature(a.stop_c, system)}</span>
      </span>
      <MiniRule window={a.window} boiling_c={a.boiling_c} stop_c={a.stop_c} system={system} />
    </div>
  );
}

const REHEARSAL_PACE = 10;

function ToTheStove({
  draft,
  found,
  disabled,
  learned,
}: {
  draft: Draft;
  found: FormulaOut | null;
  disabled: boolean;
  learned: boolean;
}) {
  const [as_computed, setAsComputed] = useState(false);
  const here = useHere();
  const navigate = useNavigate();
  const start = useStartBatch(here.slug);
  const take = (pace: number) => {
    if (!found) return;
    start.mutate(
      { formula_id: found.id, version: found.version, draft, pace, as_computed },
      { onSuccess: (batch) => navigate(`/k/${here.slug}/stove/${batch.id}`) },
    );
  };
  if (here.role === "viewer") return <p className="text-soft">You can look; cooks take it to the stove.</p>;
  if (!found) return <p className="text-soft">Save it to the book first, then take it to the stove.</p>;
  return (
    <div>
      <Button
        look="solid"
        large
        className="w-full"
        disabled={disabled || start.isPending}
        onClick={() => take(1)}
      >
        Take it to the stove
      </Button>
      <Button
        className="mt-2 w-full"
        disabled={disabled || start.isPending}
        title="For trying it with a stand-in probe; it teaches nothing about hobs and pans"
        onClick={() => take(REHEARSAL_PACE)}
      >
        Rehearse it, {REHEARSAL_PACE} times as fast
      </Button>
      {learned ? (
        <label className="mt-2 flex min-h-11 items-center gap-2 text-sm text-soft">
          <input
            type="checkbox"
            checked={as_computed}
            onChange={(event) => setAsComputed(event.target.checked)}
          />
          this batch as computed, without what was learned
        </label>
      ) : null}
      {start.error instanceof Problem ? <Notice tone="wrong">{start.error.message}</Notice> : null}
    </div>
  );
}
