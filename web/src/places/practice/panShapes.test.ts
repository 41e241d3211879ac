import { describe, expect, it } from "vitest";
import { dots, drawn, spiral, spotCentre, spotPath } from "./panShapes";

describe("the drawn pan", () => {
  it("has thirteen spots, each with its middle inside the pan", () => {
    const centres = Array.from({ length: 13 }, (_, i) => spotCentre(i));
    for (const { x, y } of centres) expect(Math.hypot(x, y)).toBeLessThan(1);
    expect(new Set(centres.map(({ x, y }) => `${x.toFixed(3)} ${y.toFixed(3)}`)).size).toBe(13);
    expect(spotCentre(0)).toEqual({ x: 0, y: 0 });
    expect(new Set(centres.map((_, i) => spotPath(i))).size).toBe(13);
  });

  it("draws far up and right to the right", () => {
    expect(drawn({ x: 0.5, y: 0.25 })).toEqual({ x: 50, y: -25 });
  });

  it("lays dots all over, always the same, all inside", () => {
    const found = dots(100, 7, 1, 3);
    expect(found).toEqual(dots(100, 7, 1, 3));
    for (const { x, y } of found) expect(Math.hypot(x, y)).toBeLessThanOrEqual(1);
    for (const right of [true, false])
      for (const far of [true, false])
        expect(found.filter(({ x, y }) => x > 0 === right && y > 0 === far).length).toBeGreaterThan(15);
  });

  it("goes round all over the pan within a few seconds", () => {
    const passed = new Set<number>();
    for (let s = 0; s < 5; s += 0.05) {
      const at = spiral(s);
      expect(Math.hypot(at.x, at.y)).toBeLessThan(0.95);
      const near = Array.from({ length: 13 }, (_, i) => spotCentre(i)).map((centre) =>
        Math.hypot(centre.x - at.x, centre.y - at.y),
      );
      passed.add(near.indexOf(Math.min(...near)));
    }
    expect(passed.size).toBe(13);
  });
});
