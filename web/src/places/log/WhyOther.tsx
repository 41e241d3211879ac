import { useState } from "react";
import { useHere } from "../../api/here";
import { type Comparison, type Difference, type LaidBatch, useWhyOther } from "../../api/log";
import { useLarder } from "../../api/queries";
import { fixed } from "../../kit/habits";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { useUnits } from "../../kit/system";
import type { UnitSystem } from "../../kit/typed";
import { difference, massText, temperature } from "../../kit/units";

/** What each difference is called, and what is said of it in one batch. */
const NAMES: Readonly<Record<string, string>> = {
  lift: "Where it was lifted",
  rate: "How fast it was warmed",
  start: "How warm it began",
  hold: "How long it was held",
  stirring: "The longest that nobody stirred",
  "carry-over": "What the pan gave after the flame",
  cooling: "How long it cooled",
  pan: "The pan",
  size: "How much it was",
  "everything else": "Everything else",
};
/** Less than this is not worth a word [mm], [%]. */
const LEAST_MM = 0.01;
const LEAST_PERCENT = 0.1;

/** Why one of two batches came out other than the other. */
export function WhyOther({ batches }: { batches: readonly LaidBatch[] }) {
  const here = useHere();
  const [first, second] = batches;
  const [chosen, setChosen] = useState<{ a: number; b: number } | null>(null);
  const a = chosen?.a ?? first?.id ?? 0;
  const b = chosen?.b ?? second?.id ?? a;
  const why = useWhyOther(here.slug, a, b);
  if (batches.length < 2) return null;
  const numbered = (id: number) => `batch ${batches.find((batch) => batch.id === id)?.number ?? ""}`;
  const options = batches.map(({ id, number }) => ({ value: String(id), shown: `batch ${number}` }));
  return (
    <section aria-label="Why was one better?" className="grid gap-4">
      <h2>Why was one better?</h2>
      <div className="grid grid-cols-2 gap-3">
        <SelectBox
          label="This one"
          options={options}
          value={String(a)}
          onChange={(id) => setChosen({ a: Number(id), b })}
        />
        <SelectBox
          label="beside this one"
          options={options}
          value={String(b)}
          onChange={(id) => setChosen({ a, b: Number(id) })}
        />
      </div>
      {a === b ? <p className="text-soft">Choose two different ones.</p> : null}
      {why.isError ? <Failed sentence={why.error.message} again={() => void why.refetch()} /> : null}
      {a !== b && why.isPending ? <Loading what="what each difference explains" /> : null}
      {why.data?.cannot ? <Notice>{why.data.cannot}</Notice> : null}
      {why.data?.comparison && a !== b ? (
        <Answer found={why.data.comparison} one={numbered(a)} other={numbered(b)} />
      ) : null}
    </section>
  );
}

/** What each difference explains, the most first, and what nothing explains. */
function Answer({ found, one: a, other: b }: { found: Comparison; one: string; other: string }) {
  const { system } = useUnits();
  const named = useNamed();
  const most = Math.max(LEAST_MM, ...found.differences.map(({ film_mm }) => Math.abs(film_mm)));
  return (
    <>
      <p>
        On the spoon {film(found.film_mm.a)} in {a}, {film(found.film_mm.b)} in {b}; in the sieve{" "}
        {percent(found.bits_percent.a)} and {percent(found.bits_percent.b)} of the egg.
      </p>
      {found.differences.length ? (
        <ol className="grid gap-3">
          {found.differences.map((one, place) => (
            <li key={one.what}>
              <p className={place ? "" : "font-bold"}>
                {named(one.what)}: {told(one.a, one, system)} in {a}, {told(one.b, one, system)} in {b}
              </p>
              <Bar share={one.film_mm / most} />
              <p className="text-sm text-soft">
                {b} {explained(one)}
              </p>
            </li>
          ))}
        </ol>
      ) : (
        <p className="text-soft">Nothing that was read differed.</p>
      )}
      <p className="border-t border-hair pt-2 text-soft">
        {unexplained(found)} What is explained was computed by putting each difference into the other’s cook.
      </p>
    </>
  );
}

/** How much a difference explains, to the right where it made the second thicker. */
function Bar({ share }: { share: number }) {
  const wide = 50 * Math.min(1, Math.abs(share));
  return (
    <svg viewBox="0 0 100 6" preserveAspectRatio="none" className="my-1 h-2 w-full" aria-hidden="true">
      <rect x={share < 0 ? 50 - wide : 50} y="1" width={wide} height="4" fill="var(--color-yolk)" />
      <line x1="50" x2="50" y1="0" y2="6" stroke="var(--color-iron)" strokeWidth="0.5" />
    </svg>
  );
}

function useNamed() {
  const larder = useLarder();
  return (what: string) =>
    NAMES[what] ?? larder.data?.ingredients.find(({ id }) => id === what)?.name ?? what;
}

const film = (mm: number) => `${fixed(mm, 2)} mm`;
const percent = (value: number) => `${fixed(value, 1)} %`;

/** What a difference was in one batch, in the person's units. */
function told(value: number | string, one: Difference, system: UnitSystem): string {
  if (typeof value === "string") return value || "other";
  switch (one.unit) {
    case "g":
      return massText(value, system);
    case "°C":
      return temperature(value, system);
    case "K":
      return difference(value, system);
    case "K/min":
      return `${difference(value, system)} a minute`;
    case "s":
      return `${Math.round(value)} s`;
    default:
      return fixed(value, 1);
  }
}

/** What a difference did, in words. */
export function explained(one: Pick<Difference, "film_mm" | "bits_percent">): string {
  const parts = [];
  if (Math.abs(one.film_mm) >= LEAST_MM)
    parts.push(`${film(Math.abs(one.film_mm))} ${one.film_mm > 0 ? "thicker" : "thinner"}`);
  if (Math.abs(one.bits_percent) >= LEAST_PERCENT)
    parts.push(
      `${percent(Math.abs(one.bits_percent))} ${one.bits_percent > 0 ? "more" : "less"} in the sieve`,
    );
  return parts.length ? `is ${parts.join(", ")} for it` : "is hardly another for it";
}

function unexplained(found: Comparison): string {
  const left = explained({
    film_mm: found.unexplained_film_mm,
    bits_percent: found.unexplained_bits_percent,
  });
  if (left.startsWith("is hardly")) return "Nothing is left unexplained.";
  return `Unexplained: it ${left.replace(" for it", "")} beyond that.`;
}
