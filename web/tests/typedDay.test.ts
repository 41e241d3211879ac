import { describe, expect, test } from "vitest";
import { typedDay } from "../src/app/typedDay";

describe("a day that is typed", () => {
  test.each([
    ["2026-11-30", "2026-11-30"],
    ["30.11.", "2026-11-30"],
    ["30/11/2025", "2025-11-30"],
    ["30 Nov", "2026-11-30"],
    ["1 march 2024", "2024-03-01"],
    ["today", "2026-12-02"],
    ["yesterday", "2026-12-01"],
    // Later this year is not yet: it is last year's.
    ["24 dec", "2025-12-24"],
    ["3.12.", "2025-12-03"],
  ])("%s is %s", (typed, day) => {
    expect(typedDay(typed, "2026-12-02")).toBe(day);
  });

  test.each(["", "30 custard", "31.2.", "12", "8/13", "anglaise", "2026-02-30"])("%j is none", (typed) => {
    expect(typedDay(typed, "2026-12-02")).toBeNull();
  });
});
