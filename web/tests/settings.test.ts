import { describe, expect, test } from "vitest";
import type { ImportOut } from "../src/api/bench";
import { settingsOf } from "../src/places/book/settings";
import { changed, draftOf, nextUnsettled, settling, stateOf } from "../src/places/book/settling";

const line = {
  text: "500 ml milk",
  ingredient: "whole-milk",
  amount: "500 ml",
  grams: 515.5,
  when: "in the dairy" as const,
  minutes: null,
  note: "",
  assumed: ["milk: whole milk"],
  why: "",
  as_note: false,
  optional: false,
  unmodelled: "",
  options: [],
};
const found: ImportOut = {
  name: "Plain",
  text: "Plain\n500 ml milk\n6 yolks",
  draft: null,
  family: "anglaise",
  ours: true,
  why: "",
  missing: "",
  eggs: "EU-M",
  measures: "metric",
  lines: [
    line,
    { ...line, text: "6 yolks", ingredient: "egg-yolk", amount: "6", assumed: [] },
    { ...line, text: "zorblax", ingredient: "", amount: "", assumed: [], why: "say which" },
    { ...line, text: "salt to taste", ingredient: "salt", amount: "", assumed: [], as_note: true },
  ],
  method: [
    { text: "Cook to 82 °C.", settings: [{ what: "cook_to_c", value: "82.0" }] },
    { text: "Ladle by ladle.", settings: [{ what: "temper", value: "ladle" }] },
    { text: "Again to 83.", settings: [{ what: "cook_to_c", value: "83.0" }] },
  ],
  notes: [],
  serves: "",
  schools: { temper: "ladle" },
  card: { cook_to_c: 82, oven_c: null, bake_min: null, bath: null, chill_h: null, cup_ml: null },
};

describe("settling", () => {
  const lines = settling(found);
  test("each line is sure, assumed, open or a note", () => {
    expect(lines.map(stateOf)).toEqual(["assumed", "sure", "open", "note"]);
    expect(stateOf({ ...(lines[0] as (typeof lines)[0]), accepted: true })).toBe("sure");
    expect(stateOf({ ...(lines[2] as (typeof lines)[0]), keep: false })).toBe("left out");
  });
  test("what is open or a note is not in the formula", () => {
    const draft = draftOf(found, lines, { name: "Plain", family: "anglaise", own: [] });
    expect(draft.lines.map((one) => one.ingredient)).toEqual(["whole-milk", "egg-yolk"]);
    expect(draft.lines[0]?.when).toBe("in the dairy");
  });
  test("Enter goes to what is not settled, round and round, and ends where all is", () => {
    expect(nextUnsettled(lines, -1)).toBe(0);
    expect(nextUnsettled(lines, 0)).toBe(2);
    expect(nextUnsettled(lines, 2)).toBe(0);
    const settled = lines.map((one) => changed(one, { ingredient: "salt", amount: "1 g" }));
    expect(nextUnsettled(settled, 0)).toBe(null);
  });
});

test("one of the kitchen's own goes into the formula by its composition", () => {
  const mine = {
    name: "house praline",
    composition: { rest: 100 },
    allergens: ["nuts"],
    density_g_per_ml: null,
  };
  const own = [{ ...mine, id: 7 }];
  const lines = settling({ ...found, lines: [{ ...line, ingredient: "own 7", amount: "40 g" }] });
  expect(draftOf(found, lines, { name: "Plain", family: "anglaise", own }).lines[0]?.ingredient).toEqual(
    mine,
  );
});

test("what the method decides is listed once, with its sentence and its school", () => {
  const rows = settingsOf(found, (celsius) => `${celsius}°`);
  expect(rows.map(({ said, school, figure }) => [said, school, figure])).toEqual([
    ["cooked to 82°", "", "cook_to_c"],
    ["tempered ladle by ladle", "temper", ""],
  ]);
  expect(rows[0]?.sentence).toBe("Cook to 82 °C.");
});
