import type { ImportOut } from "../../api/bench";

/** One thing that a method decides, in words, and the school that it sets in the formula. */
export interface Setting {
  what: string;
  said: string;
  sentence: string;
  school: string;
  /** The figure that it sets in the formula. */
  figure: keyof Card | "";
}

type Card = NonNullable<ImportOut["card"]>;

type Say = (value: string, degrees: (celsius: number) => string) => string;

const minutes = (value: string) => `${Number(value)} min`;

const SAID: Record<string, { say: Say; school?: string }> = {
  cook_to_c: { say: (value, degrees) => `cooked to ${degrees(Number(value))}` },
  boil_s: {
    say: (value) =>
      `boiled for ${Number(value) % 60 ? `${Number(value)} s` : minutes(`${Number(value) / 60}`)}`,
    school: "boil",
  },
  infuse_min: { say: (value) => `infused for ${minutes(value)}` },
  oven_c: { say: (value, degrees) => `in an oven of ${degrees(Number(value))}` },
  bake_min: { say: (value) => `baked for ${minutes(value)}` },
  bath: { say: () => "in a water bath" },
  cups: { say: (value) => `in ${Number(value)} ${Number(value) === 1 ? "cup" : "cups"}` },
  cup_ml: { say: (value) => `of ${Number(value)} ml each` },
  chill_h: { say: (value) => `chilled for ${Number(value)} h` },
  temper: {
    say: (value) => (value === "ladle" ? "tempered ladle by ladle" : "tempered in a slow stream"),
    school: "temper",
  },
  together: { say: () => "put together cold, without tempering", school: "temper" },
  sugar: {
    say: (value) => (value === "split" ? "sugar split between milk and yolks" : "sugar all with the yolks"),
    school: "sugar",
  },
  heat: { say: () => "cooked over steam", school: "heat" },
  sieve: { say: () => "passed through a sieve", school: "sieve" },
  churn: { say: () => "churned" },
  burnt_top: { say: () => "burnt on top" },
};

/** What the sentences of a method decide, each thing once, in their order. */
export function settingsOf(found: ImportOut, degrees: (celsius: number) => string): Setting[] {
  const rows = new Map<string, Setting>();
  for (const step of found.method)
    for (const { what, value } of step.settings) {
      const known = SAID[what];
      if (!known || rows.has(what)) continue;
      const school = known.school && found.schools[known.school] ? known.school : "";
      const figure = found.card?.[what as keyof Card] == null ? "" : (what as keyof Card);
      rows.set(what, { what, said: known.say(value, degrees), sentence: step.text, school, figure });
    }
  return [...rows.values()];
}
