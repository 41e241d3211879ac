/** Figures as a cook types them: "½", "1/2", "0,5", "1 ½", "82c", "2 lb", "1 h 20". */

import type { UnitSystem } from "./units";

export const OUNCE_G = 28.3495;
const FRACTIONS: Record<string, number> = {
  "½": 1 / 2, "⅓": 1 / 3, "⅔": 2 / 3, "¼": 1 / 4, "¾": 3 / 4, "⅕": 1 / 5, "⅛": 1 / 8, "⅜": 3 / 8, "⅝": 5 / 8, "⅞": 7 / 8,
}; // biome-ignore format: a table
const VULGAR = Object.keys(FRACTIONS).join("");
const NUMBER = new RegExp(
  `^([-+−])?(?:(\\d+(?:[.,]\\d+)?|[.,]\\d+)|(?:(\\d+)\\s*)?([${VULGAR}])|(?:(\\d+)\\s+)?(\\d+)\\s*[/⁄]\\s*(\\d+))$`,
);

/** A typed number; not a number where it is none. */
export function typedNumber(text: string | undefined): number {
  const found = (text ?? "").trim().match(NUMBER);
  if (!found) return Number.NaN;
  const [, sign, decimal, before, vulgar, whole, over, under] = found;
  const value =
    decimal !== undefined
      ? Number(decimal.replace(",", "."))
      : vulgar !== undefined
        ? Number(before ?? 0) + (FRACTIONS[vulgar] ?? Number.NaN)
        : Number(whole ?? 0) + Number(over) / Number(under);
  if (!Number.isFinite(value)) return Number.NaN;
  return sign === "-" || sign === "−" ? -value : value;
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
  const plain = (text ?? "").trim().toLowerCase();
  const both = plain.match(/^(\d+)\s*(?:h|:|hours?|std)\s*([0-5]?\d)\s*(?:m|min|minutes?)?$/);
  if (both) return Number(both[1]) * 60 + Number(both[2]);
  const one = plain.match(/^(.*?)\s*(h|hours?|m|min|minutes?|s|sec)?$/);
  const value = typedNumber(one?.[1]);
  const unit = one?.[2]?.[0] ?? "m";
  return unit === "h" ? value * 60 : unit === "s" ? value / 60 : value;
}
