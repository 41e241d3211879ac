/** Figures as a cook types them: "½", "1/2", "0,5", "1 ½", "82c", "2 lb", "1 h 20". */

/** Whose units a person reads and types in. */
export type UnitSystem = "metric" | "us";

export const OUNCE_G = 28.3495;
const NUMBER = new RegExp(
  [
    "(?<mixed>\\d+\\s+\\d+\\s*/\\s*\\d+)", // 1 1/2
    "(?<fraction>\\d+\\s*/\\s*\\d+)", // 1/2
    "(?<grouped>\\d{1,3}(?<by>[.,'’ ])\\d{3}(?:\\k<by>\\d{3})*(?:(?<mark>[.,])\\d+)?)",
    "(?<decimal>\\d+(?:[.,]\\d+)?|[.,]\\d+)", // 6, 1.5, 1,5, .5
  ].join("|"),
);
const WHOLE = new RegExp(`^(?<sign>[-+−])?(?:${NUMBER.source})$`);

/** Vulgar fractions written out and white space folded. */
function plainText(text: string): string {
  return text
    .replace(/[¼-¾⅐-⅞]/g, (one) => ` ${one.normalize("NFKC")}`)
    .replaceAll("⁄", "/")
    .split(/\s+/)
    .filter(Boolean)
    .join(" ");
}

/**
 * A typed number; not a number where it is none, or could be thousands or thousandths ("1,500").
 *
 * The grammar is that of `custard.numbers`: both are tested by `core/tests/cases/numbers.json`.
 */
export function typedNumber(text: string | undefined): number {
  const found = plainText(text ?? "").match(WHOLE)?.groups;
  if (!found) return Number.NaN;
  const { sign, mixed, fraction, grouped, by = "", mark, decimal } = found;
  const value =
    decimal !== undefined
      ? Number(decimal.replace(",", "."))
      : grouped !== undefined
        ? groupedNumber(grouped, by, mark)
        : fractionNumber(mixed, fraction);
  if (!Number.isFinite(value)) return Number.NaN;
  return sign === "-" || sign === "−" ? -value : value;
}

function fractionNumber(mixed: string | undefined, fraction: string | undefined): number {
  const [, whole = "0", top, bottom] =
    (mixed ?? fraction ?? "").match(/^(?:(\d+)\s+)?(\d+)\s*\/\s*(\d+)$/) ?? [];
  return Number(whole) + Number(top) / Number(bottom);
}

/** Groups of three: thousands, unless a single group behind a point or a comma can be decimals. */
function groupedNumber(grouped: string, by: string, mark: string | undefined): number {
  if (mark === by) return Number.NaN;
  if (mark === undefined && grouped.split(by).length === 2 && ".,".includes(by)) {
    if (by === "," && !grouped.startsWith("0")) return Number.NaN;
    return Number(grouped.replace(",", "."));
  }
  return Number(grouped.replaceAll(by, "").replace(",", "."));
}

/** A typed temperature as Celsius, or null when it is none. A letter says which scale, whatever is usual. */
export function typedCelsius(text: string, system: UnitSystem): number | null {
  const found = text.trim().match(/^(.*?)\s*(?:°|º|deg)?\s*([cf])?$/i);
  const value = typedNumber(found?.[1]);
  if (Number.isNaN(value)) return null;
  const scale = found?.[2]?.toLowerCase() ?? (system === "metric" ? "c" : "f");
  return scale === "c" ? value : Math.round(((value - 32) / 1.8) * 100) / 100;
}

const GRAMS: Record<string, number> = { g: 1, kg: 1000, mg: 0.001, oz: OUNCE_G, lb: 453.592, lbs: 453.592 };

/** A typed weight in grams, or null when it is none. A unit says which, whatever is usual. */
export function typedGrams(text: string, system: UnitSystem): number | null {
  const found = text.trim().match(/^(.*?)\s*(kg|mg|g|oz|lbs?)?$/i);
  const value = typedNumber(found?.[1]);
  if (!(value >= 0)) return null;
  const unit = found?.[2]?.toLowerCase();
  return value * (unit === undefined ? (system === "metric" ? 1 : OUNCE_G) : (GRAMS[unit] ?? Number.NaN));
}

/** "1 h 20", "1:20", "1h20min", "90 min", "80" or "1,5 h" as minutes; not a number where it is none. */
export function typedMinutes(text: string | undefined): number {
  const plain = plainText(text ?? "").toLowerCase();
  const both = plain.match(/^(\d+)\s*(?:h|:|hours?|std)\s*([0-5]?\d)\s*(?:m|min|mins|minutes?)?$/);
  if (both) return Number(both[1]) * 60 + Number(both[2]);
  const one = plain.match(/^(.*?)\s*(h|hours?|std|m|min|mins|minutes?|s|sec|secs|seconds?)?$/);
  const value = typedNumber(one?.[1]);
  const unit = one?.[2] ?? "m";
  if (unit[0] === "h" || unit === "std") return value * 60;
  return unit[0] === "s" ? value / 60 : value;
}
