import { afterEach, describe, expect, test } from "vitest";
import cases from "../../core/tests/cases/numbers.json";
import { Problem } from "../src/api/problem";
import { foundIn } from "../src/kit/finding";
import { fixed, intoTheWeek, ownFigures, setHabits, timeOfDay, USUAL } from "../src/kit/habits";
import { typedCelsius, typedGrams, typedMinutes, typedNumber } from "../src/kit/typed";
import { inUnits, massFromField, massInField, massText } from "../src/kit/units";
import { hourOf, setZone, when } from "../src/kit/when";
import { timeText, typedTime } from "../src/places/day/times";

afterEach(() => setHabits(USUAL));

describe("figures as a cook types them", () => {
  test.each(cases.numbers as [string, number | null][])("“%s” as core reads it", (typed, value) =>
    value === null ? expect(typedNumber(typed)).toBeNaN() : expect(typedNumber(typed)).toBeCloseTo(value, 8),
  );

  test("a letter says which scale, whatever is usual", () => {
    expect(typedCelsius("82c", "us")).toBe(82);
    expect(typedCelsius("82,5 °C", "metric")).toBe(82.5);
    expect(typedCelsius("180f", "metric")).toBe(82.22);
    expect(typedCelsius("180", "us")).toBe(82.22);
    expect(typedCelsius("hot", "metric")).toBeNull();
  });

  test("a unit says which weight", () => {
    expect(typedGrams("1,2 kg", "us")).toBe(1200);
    expect(typedGrams("½ lb", "metric")).toBeCloseTo(226.8, 1);
    expect(typedGrams("2", "us")).toBeCloseTo(56.7, 1);
    expect(typedGrams("-1", "metric")).toBeNull();
  });

  test.each(cases.minutes as [string, number | null][])("“%s” as minutes", (typed, value) =>
    value === null
      ? expect(typedMinutes(typed)).toBeNaN()
      : expect(typedMinutes(typed)).toBeCloseTo(value, 8),
  );

  test("half a day's clock is read, too", () => {
    expect(typedTime("7:15 pm")).toBe(19 * 60 + 15);
    expect(typedTime("12:05 am")).toBe(5);
    expect(typedTime("13 pm")).toBeNull();
  });
});

describe("a weight that stands in a field", () => {
  test.each([
    [12_000, "metric"],
    [12_345.6, "metric"],
    [264.5, "metric"],
    [100, "us"],
    [12_000, "us"],
    [0.4, "metric"],
  ] as const)("%s g in %s is read back as what it was", (grams, system) => {
    expect(massFromField(massInField(grams, system), system, [grams])).toBe(grams);
    // Typed by hand it is the rounded one; never a thousandth of it.
    const typed = typedGrams(massInField(grams, system), system) ?? 0;
    expect(Math.abs(typed / grams - 1)).toBeLessThan(0.01);
  });

  test("with a comma, too", () => {
    setHabits({ ...USUAL, decimal: "comma" });
    expect(massInField(100, "us")).toBe("3,53");
    expect(massFromField("3,53", "us", [100])).toBe(100);
  });

  test("what was not offered is what was typed", () => {
    expect(massFromField("3.5", "us", [100])).toBeCloseTo(99.2, 1);
    expect(massFromField("12 kg", "metric", [])).toBe(12_000);
    expect(massFromField("much", "metric", [100])).toBeNull();
  });
});

describe("a person's habits", () => {
  test("a comma stands in every figure, also of sentences", () => {
    setHabits({ ...USUAL, decimal: "comma" });
    expect(fixed(1.25, 2)).toBe("1,25");
    expect(massText(2.5, "metric")).toBe("2,5 g");
    expect(ownFigures("1.5 l in 0.25 h. Then stop.")).toBe("1,5 l in 0,25 h. Then stop.");
    expect(inUnits("lift at {82.4 C}, {2.5 g} more", "metric")).toBe("lift at 82,4°, 2,5\u00a0g more");
    expect(inUnits("lift at {82.4 C}", "us")).toBe("lift at 180°");
  });

  test("twelve hours or twenty-four", () => {
    expect(timeOfDay(13, 5)).toBe("13:05");
    setHabits({ ...USUAL, clock: "12" });
    expect([timeOfDay(0, 0), timeOfDay(12, 30), timeOfDay(23, 59)]).toEqual([
      "12:00 am",
      "12:30 pm",
      "11:59 pm",
    ]);
    expect(typedTime(timeText(1005))).toBe(1005);
    expect(inUnits("begin by {16:45 h}, at {60 C}", "metric")).toBe("begin by 4:45 pm, at 60°");
    expect(new Problem(409, "Not at {0:05 h} the day after.").message).toBe("Not at 12:05 am the day after.");
    setHabits({ ...USUAL, units: "us" });
    const refused = new Problem(422, "{300 C} is too hot.", "x", [{ field: "at_c", message: "is {300 C}" }]);
    expect([refused.message, refused.at("at_c")]).toEqual(["572° is too hot.", "is 572°"]);
    setHabits(USUAL);
    expect(ownFigures("a ratio of 1:2, 6:40 in, by {9:30 h}")).toBe("a ratio of 1:2, 6:40 in, by 9:30");
  });

  test("the week begins where it begins for them", () => {
    expect(intoTheWeek("2026-11-26")).toBe(3);
    setHabits({ ...USUAL, week: "sunday" });
    expect(intoTheWeek("2026-11-26")).toBe(4);
    setHabits({ ...USUAL, week: "saturday" });
    expect(intoTheWeek("2026-11-28")).toBe(0);
  });
});

describe("finding by what is typed", () => {
  const things = [
    { shown: "whipping cream 36 %", also: ["heavy cream", "Sahne", "crème fleurette"] },
    { shown: "cream liqueur 17 %", also: [] },
    { shown: "white sugar", also: ["caster sugar", "Zucker"] },
  ];
  const names = (typed: string) => foundIn(things, typed).map((one) => one.item.shown);

  test("the name itself comes before a synonym", () =>
    expect(names("cream")).toEqual(["cream liqueur 17 %", "whipping cream 36 %"]));

  test("other languages and missing accents find it, and it is told by what", () => {
    expect(foundIn(things, "creme fl")).toMatchObject([{ by: "crème fleurette" }]);
    expect(foundIn(things, "zuck")).toMatchObject([{ item: things[2], by: "Zucker" }]);
  });

  test("nothing typed is everything, in its order", () => expect(names("")).toHaveLength(3));
  test("what is not there is not found", () => expect(names("quince")).toEqual([]));
});

describe("moments", () => {
  afterEach(() => setZone("UTC"));

  test.each([
    ["2026-12-01T12:05:00Z", "12:05 pm"],
    ["2026-12-01T00:05:00Z", "12:05 am"],
    ["2026-12-01T13:05:00Z", "1:05 pm"],
  ])("%s by a clock of twelve hours", (moment, shown) => {
    setHabits({ ...USUAL, clock: "12" });
    setZone("UTC");
    expect(hourOf(moment)).toBe(shown);
  });

  test("on the night the clocks go back today is today", () => {
    setZone("Europe/Paris");
    const now = new Date("2026-10-25T22:40:00Z");
    expect(when("2026-10-25T22:30:00Z", now)).toBe("today, 23:30");
    expect(when("2026-10-24T22:30:00Z", now)).toBe("today, 00:30");
    expect(when("2026-10-24T21:30:00Z", now)).toBe("yesterday, 23:30");
    expect(when("2026-10-25T23:30:00Z", now)).toBe("tomorrow, 00:30");
    expect(when("2026-10-27T23:30:00Z", now)).toBe("Wed 28 Oct");
  });
});
