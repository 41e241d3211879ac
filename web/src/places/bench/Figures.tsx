import type { ReactNode } from "react";
import type { Band, Facts as Known } from "../../api/bench";
import type { Assessment } from "../../api/queries";
import { Facts } from "../../kit/Facts";
import { fixed } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { inUnits, massText, temperature, thick } from "../../kit/units";

interface Props {
  assessment: Assessment;
  facts: Known | undefined;
  band: Band | undefined;
  stale: boolean;
}

/** What comes of it, in figures. */
export function Figures({ assessment: a, facts, band, stale }: Props) {
  const { system } = useUnits();
  const rows: [string, ReactNode][] = [
    ["weighed", massText(a.mass_g, system)],
    ["after cooking and sieve", massText(a.yield_g, system)],
    ["whites left over", whites(a, facts, system)],
    ["cost", cost(facts)],
    ["keeps", keeps(facts, system)],
    ["yolk to a litre of dairy", a.yolk_g_per_l === null ? "no dairy" : massText(a.yolk_g_per_l, system)],
    ["sugars in the water phase", `${fixed(a.sugars_in_aqueous_percent, 1)} %`],
    ["egg protein", `${fixed(a.egg_protein_percent, 2)} %`],
    [
      "starch in the water phase",
      a.starch_in_aqueous_percent ? `${fixed(a.starch_in_aqueous_percent, 1)} %` : "none",
    ],
    [
      "alcohol in the water phase",
      a.ethanol_in_aqueous_percent ? `${fixed(a.ethanol_in_aqueous_percent, 1)} %` : "none",
    ],
    ["yield stress, hot", thick(a.hot.yield_stress_pa, band?.hot_pa)],
    ["yield stress, cold", thick(a.cold.yield_stress_pa, band?.cold_pa)],
    ["boils at", temperature(a.boiling_c, system)],
    ["tempering lands at", a.landing_c === null ? "nothing to temper" : temperature(a.landing_c, system)],
    ["sweetness, as sugar", facts ? `${fixed(facts.sweetness_per_100g, 0)} %` : "–"],
    ["contains", listed(a.allergens) || "no declared allergen"],
  ];
  return (
    <div className={stale ? "grayscale" : ""}>
      <h2>What comes of it</h2>
      {stale ? <p className="text-soft">As it was before the field that needs changing.</p> : null}
      <dl className="mt-2">
        {rows.map(([name, value]) => (
          <div key={name} className="flex justify-between gap-4 border-b border-hair py-1.5">
            <dt className="text-soft">{name}</dt>
            <dd className="tabular text-right font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      {facts?.no_price.length ? (
        <p className="mt-2 text-sm text-soft">No price yet: {listed(facts.no_price)} (Kitchen).</p>
      ) : null}
      {facts ? (
        <p className="mt-2 border-l-4 border-brick pl-3 text-sm">
          Cool it from {inUnits(facts.cooling_text, system)}; your own food-safety plan and local code come
          first.
        </p>
      ) : null}
      {facts?.churned ? <Freezing facts={facts} /> : null}
    </div>
  );
}

function whites(a: Assessment, facts: Known | undefined, system: UnitSystem): ReactNode {
  if (a.whites_left_g <= 0) return "none";
  const sugar_g = facts?.meringue_sugar_g ?? 0;
  return (
    <Facts
      of={[
        massText(a.whites_left_g, system),
        sugar_g > 0 && `for ${massText(sugar_g, system)} of meringue sugar`,
      ]}
    />
  );
}

function cost(facts: Known | undefined): string {
  if (!facts) return "–";
  return facts.cost === null ? "prices missing" : `${facts.currency} ${fixed(facts.cost, 2)}`;
}

function keeps(facts: Known | undefined, system: UnitSystem): ReactNode {
  if (!facts) return "–";
  return (
    <Facts
      of={[
        facts.keeps_days ? `${facts.keeps_days} days, cold` : "the same day",
        inUnits(facts.keeps_why, system),
      ]}
    />
  );
}

/** How much of the water of a base is ice, colder and colder. */
function Freezing({ facts }: { facts: Known }) {
  const { system } = useUnits();
  return (
    <div className="mt-3">
      <h3 className="text-[1.05rem]">In the churn and the freezer</h3>
      <p className="text-soft">Starts to freeze at {temperature(facts.freezing_point_c, system)}.</p>
      <ul className="mt-1">
        {facts.frozen.map((one) => (
          <li key={one.at_c} className="grid grid-cols-[4rem_1fr_3rem] items-center gap-2 text-sm">
            <span className="tabular">{temperature(one.at_c, system, 0)}</span>
            <span aria-hidden="true" className="h-2 bg-slate-pale">
              <span className="block h-2 bg-slate" style={{ width: `${100 * one.share}%` }} />
            </span>
            <span className="tabular text-right">{fixed(100 * one.share, 0)} %</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
