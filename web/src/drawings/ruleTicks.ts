import type { UnitSystem } from "../kit/typed";
import { degrees } from "../kit/units";

/** In degrees Fahrenheit, the ticks are as far apart as they can be read. */
const FAHRENHEIT = { every: 10, large: 20 };

/** Where a rule has its ticks [degC], at round figures of the unit that is shown; the large ones are written. */
export function ruleTicks(
  low: number,
  high: number,
  system: UnitSystem,
  every_c: number,
  large_c: number,
): { at: number; major: boolean }[] {
  const metric = system === "metric";
  const { every, large } = metric ? { every: every_c, large: large_c } : FAHRENHEIT;
  const shown = (c: number) => degrees(c, system);
  const ticks = [];
  for (let t = Math.ceil(shown(low) / every) * every; t <= shown(high) + 1e-9; t += every)
    ticks.push({ at: metric ? t : (t - 32) / 1.8, major: t % large === 0 });
  return ticks;
}
