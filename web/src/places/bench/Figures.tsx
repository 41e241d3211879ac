import type { Assessment } from "../../api/queries";
import { useUnits } from "../../kit/system";
import { massText, temperature } from "../../kit/units";

/** What comes of it, in figures. */
export function Figures({ assessment: a, stale }: { assessment: Assessment; stale: boolean }) {
  const { system } = useUnits();
  const rows: [string, string][] = [
    ["weighed", massText(a.mass_g, system)],
    ["after cooking and sieve", massText(a.yield_g, system)],
    ["whites left over", a.whites_left_g > 0 ? massText(a.whites_left_g, system) : "none"],
    ["yolk to a litre of dairy", a.yolk_g_per_l === null ? "no dairy" : massText(a.yolk_g_per_l, system)],
    ["sugars in the water phase", `${a.sugars_in_aqueous_percent.toFixed(1)} %`],
    ["egg protein", `${a.egg_protein_percent.toFixed(2)} %`],
    [
      "starch in the water phase",
      a.starch_in_aqueous_percent ? `${a.starch_in_aqueous_percent.toFixed(1)} %` : "none",
    ],
    [
      "alcohol in the water phase",
      a.ethanol_in_aqueous_percent ? `${a.ethanol_in_aqueous_percent.toFixed(1)} %` : "none",
    ],
    ["boils at", temperature(a.boiling_c, system)],
    ["tempering lands at", a.landing_c === null ? "nothing to temper" : temperature(a.landing_c, system)],
    ["contains", a.allergens.join(", ") || "no declared allergen"],
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
    </div>
  );
}
