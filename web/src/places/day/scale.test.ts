import { describe, expect, it } from "vitest";
import { apart, scaleOf } from "./scale";
import { dateOn, timeText, timeToType, typedTime } from "./times";

const steps = [
  { start: 480, end: 484 },
  { start: 484, end: 485 },
  { start: 482, end: 495 },
  { start: 700, end: 760 },
];

describe("the page of a day", () => {
  const scale = scaleOf(steps, [600], 470, 800);
  it("gives every step room to be read", () => {
    for (const one of steps) expect(scale.y(one.end) - scale.y(one.start)).toBeGreaterThanOrEqual(27.9);
  });
  it("keeps the order of time, and finds the minute again", () => {
    for (let minute = 471; minute <= 800; minute++) {
      expect(scale.y(minute)).toBeGreaterThan(scale.y(minute - 1));
      expect(scale.minute(scale.y(minute))).toBeCloseTo(minute, 6);
    }
  });
  it("lets empty hours take little", () => {
    expect(scale.y(700) - scale.y(500)).toBeLessThan(scale.y(760) - scale.y(700) + 40);
  });
  it("keeps labels apart", () => {
    expect(apart([10, 12, 13, 60], [20, 20, 40, 20])).toEqual([10, 30, 50, 90]);
  });
});

describe("times as they are typed", () => {
  it("reads what a cook writes", () => {
    expect(["12:30", "12.30", "1230", "9", "+1 7:15", "-1 23:30"].map(typedTime)).toEqual([
      750, 750, 750, 540, 1875, -30,
    ]);
    expect(["", "noon", "25:00", "12:75"].map(typedTime)).toEqual([null, null, null, null]);
  });
  it("writes what it reads", () => {
    for (const minute of [0, 750, 1439, 1875, -30]) expect(typedTime(timeToType(minute))).toBe(minute);
    expect(timeText(1875)).toBe("7:15 next day");
    expect(dateOn("2026-02-28", 1)).toBe("2026-03-01");
  });
});
