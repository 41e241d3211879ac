/** How figures are shown. What they are is computed in the kitchen's units, on the server. */

export type UnitSystem = "metric" | "us";

export function temperature(celsius: number | null | undefined, system: UnitSystem, digits = 1): string {
  if (celsius === null || celsius === undefined) return "–";
  const shown = system === "metric" ? celsius : celsius * 1.8 + 32;
  return `${shown.toFixed(system === "metric" ? digits : 0)}°`;
}

/** A typed temperature as Celsius, or null when it is not a number. */
export function typedCelsius(text: string, system: UnitSystem): number | null {
  const plain = text.trim().replace(",", ".");
  if (plain === "" || !/^[-+]?\d+(\.\d+)?$/.test(plain)) return null;
  const value = Number(plain);
  return system === "metric" ? value : Math.round(((value - 32) / 1.8) * 100) / 100;
}

/** A typed number, with a comma or a point; not a number where it is none. */
export function typedNumber(text: string | undefined): number {
  const plain = (text ?? "").trim().replace(",", ".");
  return plain === "" ? Number.NaN : Number(plain);
}

/** A typed weight in grams, or null when it is not a number. */
export function typedGrams(text: string, system: UnitSystem): number | null {
  const plain = text.trim().replace(",", ".");
  if (!/^\d+(\.\d+)?$/.test(plain)) return null;
  return Number(plain) * (system === "metric" ? 1 : 28.3495);
}

/** Number and unit apart, so that the number can be set large. */
export function mass(grams: number, system: UnitSystem): { number: string; unit: string } {
  if (system === "us") {
    const ounces = grams / 28.3495;
    return { number: ounces.toFixed(ounces < 10 ? 2 : 1), unit: "oz" };
  }
  if (grams >= 10_000) return { number: (grams / 1000).toFixed(2), unit: "kg" };
  return { number: grams.toFixed(grams < 10 ? 1 : 0), unit: "g" };
}

export function massText(grams: number, system: UnitSystem): string {
  const { number, unit } = mass(grams, system);
  return `${number} ${unit}`;
}

/** A difference of temperatures. */
export function difference(kelvin: number, system: UnitSystem): string {
  return `${(system === "metric" ? kelvin : kelvin * 1.8).toFixed(1)}°`;
}

/** Texts from the core write temperatures as "{82.4 C}", differences of them as "{1.2 K}", weights as "{80 g}". */
export function inUnits(text: string, system: UnitSystem): string {
  return text
    .replace(/\{(-?\d+(?:\.\d+)?) C\}/g, (_all, celsius: string) =>
      temperature(Number(celsius), system, celsius.includes(".") ? 1 : 0),
    )
    .replace(/\{(-?\d+(?:\.\d+)?) K\}/g, (_all, kelvin: string) => difference(Number(kelvin), system))
    .replace(/\{(\d+(?:\.\d+)?) g\}/g, (_all, grams: string) =>
      massText(Number(grams), system).replace(" ", "\u00a0"),
    );
}

/** A yield stress to two figures, never as a power of ten. */
export function pascals(value: number): string {
  return `${value >= 10 ? Math.round(value) : Number(value.toPrecision(2))} Pa`;
}

/** How thick, as sure as it is known: a span once there is one, else about one figure. */
export function thick(value: number, band: readonly number[] | null | undefined): string {
  const [low, high] = band ?? [];
  if (low === undefined || high === undefined) return `about ${pascals(Number(value.toPrecision(1)))}`;
  const [from, to] = [low, high].map((end) => pascals(Number(end.toPrecision(2))));
  return `${from?.replace(" Pa", "")} to ${to}`;
}
