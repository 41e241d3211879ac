/** How figures are shown. What they are is computed in the kitchen's units, on the server. */

import { fixed, ownFigures, plain } from "./habits";
import { OUNCE_G, typedGrams, type UnitSystem } from "./typed";

/** A temperature as a number of the person's own degrees. */
export const degrees = (celsius: number, system: UnitSystem) =>
  system === "metric" ? celsius : celsius * 1.8 + 32;

export function temperature(celsius: number | null | undefined, system: UnitSystem, digits = 1): string {
  if (celsius === null || celsius === undefined) return "–";
  return `${fixed(degrees(celsius, system), system === "metric" ? digits : 0)}°`;
}

/** Number and unit apart, so that the number can be set large. */
export function mass(grams: number, system: UnitSystem): { number: string; unit: string } {
  if (system === "metric" && grams >= 10_000) return { number: fixed(grams / 1000, 2), unit: "kg" };
  return { number: massInField(grams, system), unit: system === "us" ? "oz" : "g" };
}

export function massText(grams: number, system: UnitSystem): string {
  const { number, unit } = mass(grams, system);
  return `${number} ${unit}`;
}

/** A weight as a field for grams or ounces holds it: as it is shown beside the field, but in that unit, however large. */
export function massInField(grams: number, system: UnitSystem): string {
  if (system === "metric") return fixed(grams, grams < 10 ? 1 : 0);
  const ounces = grams / OUNCE_G;
  return fixed(ounces, ounces < 10 ? 2 : ounces < 100 ? 1 : 0);
}

/** A typed weight in grams, or null. What stands for one of the offered weights is that weight, not what is left of it
 * after rounding to the field's unit. */
export function massFromField(text: string, system: UnitSystem, offered: readonly number[]): number | null {
  const whole = offered.find((grams) => massInField(grams, system) === text.trim());
  return whole ?? typedGrams(text, system);
}

/** A difference of temperatures. */
export function difference(kelvin: number, system: UnitSystem): string {
  return `${fixed(system === "metric" ? kelvin : kelvin * 1.8, 1)}°`;
}

/** Texts from the core write temperatures as "{82.4 C}", differences of them as "{1.2 K}", weights as "{80 g}", times as "{13:05 h}". */
export function inUnits(text: string, system: UnitSystem): string {
  return ownFigures(text)
    .replace(/\{(-?\d+(?:[.,]\d+)?) C\}/g, (_all, celsius: string) =>
      temperature(figure(celsius), system, /[.,]/.test(celsius) ? 1 : 0),
    )
    .replace(/\{(-?\d+(?:[.,]\d+)?) K\}/g, (_all, kelvin: string) => difference(figure(kelvin), system))
    .replace(/\{(\d+(?:[.,]\d+)?) g\}/g, (_all, grams: string) =>
      massText(figure(grams), system).replace(" ", "\u00a0"),
    );
}

const figure = (text: string) => Number(text.replace(",", "."));

/** A yield stress to two figures, never as a power of ten. */
export function pascals(value: number): string {
  return `${plain(value >= 10 ? Math.round(value) : Number(value.toPrecision(2)))} Pa`;
}

/** How thick, as sure as it is known: a span once there is one, else about one figure. */
export function thick(value: number, band: readonly number[] | null | undefined): string {
  const [low, high] = band ?? [];
  if (low === undefined || high === undefined) return `about ${pascals(Number(value.toPrecision(1)))}`;
  const [from, to] = [low, high].map((end) => pascals(Number(end.toPrecision(2))));
  return `${from?.replace(" Pa", "")} to ${to}`;
}
