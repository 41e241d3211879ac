import { describe, expect, it } from "vitest";
import type { LaidBatch } from "../src/api/log";
import { strokeOf } from "../src/drawings/OverlayCurves";
import { offset } from "../src/places/kitchen/Learned";
import { alignedAt, idsOf } from "../src/places/log/Overlay";
import { explained } from "../src/places/log/WhyOther";

describe("batches to be laid over one another", () => {
  it("are read out of the address, each once, eight at most", () => {
    expect(idsOf("3,3,x,-1,4.5,7")).toEqual([3, 7]);
    expect(idsOf(null)).toEqual([]);
    expect(idsOf("1,2,3,4,5,6,7,8,9,10")).toHaveLength(8);
  });

  it("begin together at a moment; what never came there counts from the pan", () => {
    const batch = {
      id: 4,
      number: 12,
      laid: {
        t_s: [0, 60, 120],
        celsius: [60, 75, 82],
        thickens_s: 60,
        lifted_s: null,
        figures: { lift_c: 82 },
      },
    } as unknown as LaidBatch;
    expect(alignedAt(batch, "thickens").points).toEqual([
      [-60, 60],
      [0, 75],
      [60, 82],
    ]);
    expect(alignedAt(batch, "lift").points[0]).toEqual([0, 60]);
    expect(alignedAt(batch, "pan").lift).toBeNull();
  });

  it("are told apart without their colours", () => {
    const drawn = [0, 1, 2, 3, 4].map((place) => strokeOf(place).strokeDasharray);
    expect(new Set(drawn).size).toBe(5);
  });
});

describe("what a difference explains", () => {
  it("is said in thickness and curds, or that it is hardly anything", () => {
    expect(explained({ film_mm: 0.2, bits_percent: -1.24 })).toBe(
      "is 0.20 mm thicker, 1.2 % less in the sieve for it",
    );
    expect(explained({ film_mm: -0.05, bits_percent: 0 })).toBe("is 0.05 mm thinner for it");
    expect(explained({ film_mm: 0.001, bits_percent: 0.01 })).toBe("is hardly another for it");
  });
});

describe("what was learned", () => {
  it("is said as higher, lower, or as computed, in the person's units", () => {
    expect(offset(0.8, "metric")).toBe("It coats 0.8° higher than computed");
    expect(offset(-0.5, "us")).toBe("It coats 0.9° lower than computed");
    expect(offset(0.01, "metric")).toBe("It coats where it is computed to");
  });
});
