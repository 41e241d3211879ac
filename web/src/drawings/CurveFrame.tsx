import { type ScaleLinear, scaleLinear } from "d3-scale";
import { type ReactNode, useId } from "react";
import type { UnitSystem } from "../kit/typed";
import { temperature } from "../kit/units";
import { RulePatterns, type RuleWindow } from "./Rule";

const WIDTH = 480;
const HEIGHT = 270;
const PAD = { left: 44, right: 12, top: 10, bottom: 30 };
const ROOM_FOR_TICK = 80;
/** Where a curve may be drawn. */
export const PLOT = {
  left: PAD.left,
  right: WIDTH - PAD.right,
  top: PAD.top,
  bottom: HEIGHT - PAD.bottom,
} as const;

export type Point = readonly [number, number];
type Scale = ScaleLinear<number, number>;

interface Props {
  label: string;
  /** The times at both ends [s], and the temperatures [°C]. */
  times: Point;
  degrees: Point;
  window: RuleWindow;
  system: UnitSystem;
  tick: (minute: number) => string;
  children: (x: Scale, y: Scale) => ReactNode;
  /** What lies over the frame rather than inside it. */
  over?: (x: Scale, y: Scale) => ReactNode;
}

/** The frame of a curve of temperature over time: the bands of the mix, the degrees, the minutes. */
export function CurveFrame({ label, times, degrees, window, system, tick, children, over }: Props) {
  const id = useId();
  const [since, until] = times;
  const [low, high] = degrees;
  const x = scaleLinear([since, until], [PLOT.left, PLOT.right]);
  const y = scaleLinear([low, high], [PLOT.bottom, PLOT.top]).clamp(true);
  const nappeEnd = Math.min(window.heavy_c ?? high, window.curdles_c ?? high, high);
  const inside = { x: PLOT.left, y: PLOT.top, width: PLOT.right - PLOT.left, height: PLOT.bottom - PLOT.top };
  const band = (from: number | null, to: number, fill: string) =>
    from === null || from >= high ? null : (
      <rect x={inside.x} width={inside.width} y={y(to)} height={Math.max(1, y(from) - y(to))} fill={fill} />
    );
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block h-auto w-full" role="img" aria-label={label}>
      <RulePatterns id={id} />
      <clipPath id={`${id}-in`}>
        <rect {...inside} />
      </clipPath>
      {band(window.nappe_c, nappeEnd, "var(--color-yolk-pale)")}
      {band(window.curdles_c, high, `url(#${id}-hatch)`)}
      {degreesShown(low, high).map((t) => (
        <g key={t}>
          <line x1={PLOT.left} x2={PLOT.right} y1={y(t)} y2={y(t)} stroke="var(--color-hair)" />
          <text x={PLOT.left - 7} y={y(t) + 5} textAnchor="end" fontSize="15" fill="var(--color-soft)">
            {temperature(t, system, 0).replace("°", "")}
          </text>
        </g>
      ))}
      {minutesShown(since, until).map((minute) => (
        <text
          key={minute}
          x={x(60 * minute)}
          y={HEIGHT - 9}
          textAnchor={x(60 * minute) > WIDTH - 40 ? "end" : "middle"}
          fontSize="15"
          fill="var(--color-soft)"
        >
          {tick(minute)}
        </text>
      ))}
      <g clipPath={`url(#${id}-in)`} fill="none" strokeLinejoin="round" strokeLinecap="round">
        {children(x, y)}
      </g>
      {over?.(x, y)}
      <rect {...inside} fill="none" stroke="var(--color-iron)" />
    </svg>
  );
}

function degreesShown(low: number, high: number): number[] {
  const step = high - low > 50 ? 20 : 10;
  return Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => low + i * step);
}

function minutesShown(since: number, until: number): number[] {
  const most = Math.floor((PLOT.right - PLOT.left) / ROOM_FOR_TICK) + 1;
  const step = Math.max(1, Math.ceil((until - since) / 60 / most));
  const first = Math.ceil(since / 60 / step);
  const last = Math.floor(until / 60 / step);
  return Array.from({ length: last - first + 1 }, (_, i) => (first + i) * step);
}

/** The temperatures at both ends: round, and with all of the window in sight. */
export function degreesAround(
  values: number[],
  window: RuleWindow,
  boiling_c: number,
  atLeast?: number,
): Point {
  const coldest = Math.min(...values, window.thickens_c ?? 70) - 2;
  const low = Math.floor(Math.max(coldest, atLeast ?? coldest) / 5) * 5;
  const hottest = Math.max(...values, (window.curdles_c ?? boiling_c) + 2);
  return [low, Math.ceil(Math.min(boiling_c + 2, hottest) / 5) * 5];
}
