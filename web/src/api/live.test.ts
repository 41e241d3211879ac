import { describe, expect, it } from "vitest";
import { byUrgency, type Urgent, withUrgent } from "./live";

const row = (id: number, urgency: number, seconds: number | null): Urgent => ({
  id,
  number: id,
  name: `batch ${id}`,
  stage: "cook",
  say: "Keep stirring",
  seconds,
  urgency,
});

describe("the strip of what is on the stove", () => {
  it("puts the most urgent first, then what runs out first, then what has no clock", () => {
    const rows = [row(1, 0, null), row(2, 2, 40), row(3, 0, 90), row(4, 2, 5), row(5, 3, null)];
    expect(rows.sort(byUrgency).map((one) => one.id)).toEqual([5, 4, 2, 3, 1]);
  });

  it("takes in where a batch stands now, in its new place", () => {
    const calm = [row(1, 0, 100), row(2, 0, 200)];
    expect(withUrgent(calm, row(2, 3, null)).map((one) => one.id)).toEqual([2, 1]);
    expect(withUrgent(calm, row(7, 1, 3)).map((one) => one.id)).toEqual([7, 1, 2]);
  });

  it("never hides an urgent one behind six that are calm", () => {
    const calm = [1, 2, 3, 4, 5, 6].map((id) => row(id, 0, id));
    const shown = withUrgent(calm, row(9, 2, null));
    expect(shown).toHaveLength(6);
    expect(shown[0]?.id).toBe(9);
  });

  it("leaves what it was given as it was", () => {
    const rows = [row(1, 0, 100)];
    withUrgent(rows, row(2, 1, 1));
    expect(rows).toHaveLength(1);
  });
});
