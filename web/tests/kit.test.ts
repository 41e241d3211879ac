import { describe, expect, test } from "vitest";
import { Problem, problemOf } from "../src/api/problem";
import { cellAt, clamp, type RatioMapGrid, shapes } from "../src/drawings/ratioShapes";
import { ruleTicks } from "../src/drawings/ruleTicks";
import { typedWords } from "../src/kit/listed";
import { spread } from "../src/kit/spread";
import { typedCelsius, typedGrams } from "../src/kit/typed";
import { difference, inUnits, mass, massText, pascals, temperature, thick } from "../src/kit/units";
import { heatOf } from "../src/places/stove/facts";
import { minutes } from "../src/shared/ticking";

test("a comma within brackets sets no two allergens apart", () => {
  expect(typedWords(" milk, nuts (hazelnuts, walnuts) ,,")).toEqual(["milk", "nuts (hazelnuts, walnuts)"]);
});

describe("units", () => {
  test("ounces keep as many places as a scale shows", () => {
    expect(massText(18_000, "us")).toBe("635 oz");
    expect(massText(694, "us")).toBe("24.5 oz");
  });

  test.each([
    ["metric", 40, 100, 20, [40, 60, 80, 100]],
    ["us", 37, 61, 20, [100, 120, 140]],
  ] as const)("a rule in %s is written at round figures", (system, low, high, large, written) => {
    const ticks = ruleTicks(low, high, system, 5, large).filter((one) => one.major);
    const shown = ticks.map((one) => Number(temperature(one.at, system, 0).replace("°", "")));
    expect(shown).toEqual(written);
  });

  test.each([
    [42, "0:42"],
    [3599, "59:59"],
    [4790, "80\u00a0min"],
    [7900, "2\u00a0h\u00a012"],
  ] as const)("%s seconds are %s", (seconds, shown) => {
    expect(minutes(seconds)).toBe(shown);
  });

  test.each([
    [350, "low"],
    [700, "medium"],
    [1800, "high"],
  ] as const)("a flame of %s W is %s", (watts, shown) => {
    expect(heatOf(watts)).toBe(shown);
  });

  test.each([
    [82.44, "metric", "82.4°"],
    [100, "us", "212°"],
    [null, "metric", "–"],
  ] as const)("%s in %s is %s", (celsius, system, shown) => {
    expect(temperature(celsius, system)).toBe(shown);
  });

  test.each([
    ["82.5", "metric", 82.5],
    ["82,5", "metric", 82.5],
    ["212", "us", 100],
    ["-4", "metric", -4],
    ["warm", "metric", null],
    ["", "metric", null],
  ] as const)("typed %s in %s is read as %s", (text, system, celsius) => {
    expect(typedCelsius(text, system)).toBe(celsius);
  });

  test.each([
    ["512", "metric", 512],
    ["1,5", "metric", 1.5],
    ["2", "us", 56.699],
    ["-2", "metric", null],
    ["a lot", "us", null],
  ] as const)("a typed weight %s in %s is %s", (text, system, grams) => {
    const read = typedGrams(text, system);
    if (grams === null) expect(read).toBeNull();
    else expect(read).toBeCloseTo(grams);
  });

  test("small masses keep a tenth, large ones become kilograms", () => {
    expect(massText(0.4, "metric")).toBe("0.4 g");
    expect(massText(515.5, "metric")).toBe("516 g");
    expect(mass(12_345, "metric")).toEqual({ number: "12.35", unit: "kg" });
    expect(massText(28.3495, "us")).toBe("1.00 oz");
  });

  test("temperatures and differences inside a text are put into the reader's unit", () => {
    expect(inUnits("lift at {80.4 C}, {1.2 K} lower", "metric")).toBe("lift at 80.4°, 1.2° lower");
    expect(inUnits("from {60 C} to {10 C}", "metric")).toBe("from 60° to 10°");
    expect(inUnits("lift at {80 C}, {1 K} lower", "us")).toBe("lift at 176°, 1.8° lower");
    expect(difference(2, "us")).toBe("3.6°");
  });

  test("how thick it is is told as surely as it is known", () => {
    expect(thick(18.7, [8.23, 21.4])).toBe("8.2 to 21 Pa");
    expect(thick(18.7, undefined)).toBe("about 20 Pa");
    expect(inUnits("have {1200 g} of ice", "metric")).toBe("have 1200\u00a0g of ice");
    expect(inUnits("have {1200 g} of ice", "us")).toBe("have 42.3\u00a0oz of ice");
  });

  test("a yield stress is never a power of ten", () => {
    expect([0.0213, 2.24, 115.4, 1200].map(pascals)).toEqual(["0.021 Pa", "2.2 Pa", "115 Pa", "1200 Pa"]);
  });
});

describe("labels along a rule", () => {
  test("stay apart, in order, and within bounds", () => {
    const placed = spread([10, 12, 11, 95], 20, 0, 100);
    const sorted = [...placed].sort((a, b) => a - b);
    for (let i = 1; i < sorted.length; i++)
      expect((sorted[i] ?? 0) - (sorted[i - 1] ?? 0)).toBeGreaterThanOrEqual(20 - 1e-9);
    expect(Math.min(...placed)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...placed)).toBeLessThanOrEqual(100);
    expect((placed[0] ?? 0) < (placed[2] ?? 0) && (placed[2] ?? 0) < (placed[1] ?? 0)).toBe(true);
  });

  test("that have room stay where they belong", () => {
    expect(spread([10, 50, 90], 20, 0, 100)).toEqual([10, 50, 90]);
  });
});

describe("what the server refuses", () => {
  const body = {
    type: "about:blank",
    title: "Something needs changing",
    status: 422,
    detail: "One field needs changing.",
    fields: [{ field: "lines[2].amount", message: "has no number in front" }],
  };

  test("is told by the field, or by the line it is in", () => {
    const problem = problemOf(body, 422);
    expect(problem.at("lines[2].amount")).toBe("has no number in front");
    expect(problem.below("lines[2]")).toBe("has no number in front");
    expect(problem.below("lines[1]")).toBeUndefined();
    expect(problem.away).toBe(false);
  });

  test("may be something that is not ours", () => {
    expect(problemOf("<html>", 502).away).toBe(true);
    expect(new Problem(0, "no connection").away).toBe(true);
    expect(new Problem(0, "no connection").beside("name")).toBe("no connection");
    const two = [
      { field: "lines[0].amount", message: "is nothing" },
      { field: "name", message: "is empty" },
    ];
    expect(new Problem(422, "Two fields.", "", two).beside("lines[", "name")).toBeUndefined();
    expect(new Problem(422, "Two fields.", "", two).beside("name")).toBe("Two fields.");
  });
});

const row = (values: number[]) => values;
const grid: RatioMapGrid = {
  x_name: "yolk",
  y_name: "starch",
  x_unit: "g a litre",
  y_unit: "% of the milk",
  x: [0, 100, 200],
  y: [0, 1, 2],
  x_g: [0, 50, 100],
  y_g: [0, 5, 10],
  lift_c: 82,
  boiled: false,
  stress_pa: [row([0.1, 2, 8]), row([0.1, 2, 8]), row([0.2, 3, 9])],
  film_mm: [row([0.05, 0.3, 0.9]), row([0.05, 0.3, 0.9]), row([0.06, 0.4, 1])],
  nappe_c: [
    [null, 82, 80],
    [null, 82, 80],
    [null, 82, 80],
  ],
  curdles_c: [
    [88, 85, 81],
    [95, 93, 92],
    [null, null, 99],
  ],
  labels: [],
};
const WORDS = [
  [0.4, "runs off"],
  [1.5, "thin coat"],
  [6, "nappe"],
] as const;

describe("the ratio map", () => {
  test("tells the cell under the hand, with what to weigh", () => {
    expect(cellAt(grid, [110, 0.9])).toEqual({
      x: 100,
      y: 1,
      x_g: 50,
      y_g: 5,
      stress_pa: 2,
      film_mm: 0.3,
      nappe_c: 82,
      curdles_c: 93,
    });
    expect(cellAt(grid, [999, -5])?.x).toBe(200);
  });

  test("draws a region for every word and one above the last", () => {
    const drawn = shapes(grid, WORDS);
    expect(drawn.regions).toHaveLength(WORDS.length + 1);
    expect(drawn.regions[0]).toMatch(/^M/);
    expect(drawn.regions.at(-1)).toMatch(/^M/);
  });

  test("hatches what has curdled by the lift, and knows where it stands the boil", () => {
    const drawn = shapes(grid, WORDS);
    expect(drawn.curdled).toMatch(/^M/);
    expect(drawn.boil).toMatch(/^M/);
    expect(shapes({ ...grid, lift_c: 60 }, WORDS).curdled).toBe("");
    expect(shapes({ ...grid, boiled: true }, WORDS).close).toBe("");
  });

  test("keeps a value on its axis", () => {
    expect(clamp(-3, grid.x)).toBe(0);
    expect(clamp(500, grid.x)).toBe(200);
  });
});
