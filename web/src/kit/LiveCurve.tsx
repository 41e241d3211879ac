import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useId } from "react";
import { RulePatterns, type RuleWindow } from "./Rule";
import { temperature, type UnitSystem } from "./units";

interface Continuation {
  in_s: number[];
  c: number[];
  low_c: number[];
  high_c: number[];
}

interface Props {
  past: { ago_s: number[]; c: number[] };
  ahead: Continuation | null;
  landing: Continuation | null;
  lift: { in_s: number; at_c: number } | null;
  window: RuleWindow;
  boiling_c: number;
  system: UnitSystem;
}

type Point = readonly [number, number];

const WIDTH = 480;
const HEIGHT = 270;
const PAD = { left: 44, right: 12, top: 10, bottom: 30 };
const LEAST_AHEAD_S = 60;
const MOST_AHEAD_S = 600;
const MOST_PAST_S = 600;
const MOST_BELOW_K = 20;

/** What the probe read, where it goes from here with how sure that is, and where it lands when lifted. */
export function LiveCurve({ past, ahead, landing, lift, window, boiling_c, system }: Props) {
  const id = useId();
  const ended = ahead === null && landing === null;
  const until = ended
    ? 0
    : Math.min(MOST_AHEAD_S, Math.max(LEAST_AHEAD_S, (lift?.in_s ?? LEAST_AHEAD_S) + 45));
  const since = Math.max(-MOST_PAST_S, Math.min(-60, past.ago_s[0] ?? -60));
  const read = past.ago_s.map((t, i): Point => [t, past.c[i] ?? 0]).filter(([t]) => t >= since);
  const coming = (ahead?.in_s ?? [])
    .map((t, i) => ({ t, c: ahead?.c[i] ?? 0, low: ahead?.low_c[i] ?? 0, high: ahead?.high_c[i] ?? 0 }))
    .filter(({ t }) => t <= until);
  const landed = (landing?.in_s ?? []).map((t, i): Point => [t, landing?.c[i] ?? 0]);
  const all = [...read.map(([, c]) => c), ...coming.map(({ c }) => c)];
  // A probe that came in cold would flatten everything that matters.
  const least = Math.min((window.thickens_c ?? 70) - MOST_BELOW_K, read.at(-1)?.[1] ?? 100);
  const low = Math.floor(Math.max(Math.min(...all, window.thickens_c ?? 70) - 2, least) / 5) * 5;
  const high =
    Math.ceil(Math.min(boiling_c + 2, Math.max(...all, (window.curdles_c ?? boiling_c) + 2)) / 5) * 5;
  const x = scaleLinear([since, until], [PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear([low, high], [HEIGHT - PAD.bottom, PAD.top]).clamp(true);
  const path = line<Point>(
    ([t]) => x(t),
    ([, c]) => y(c),
  );
  const nappeEnd = Math.min(window.heavy_c ?? high, window.curdles_c ?? high, high);
  const band = (from: number | null, to: number, fill: string) =>
    from === null || from >= high ? null : (
      <rect
        x={PAD.left}
        width={WIDTH - PAD.left - PAD.right}
        y={y(to)}
        height={Math.max(1, y(from) - y(to))}
        fill={fill}
      />
    );
  const minutes = Math.max(1, Math.ceil((until - since) / 60 / 6));
  const ticks: number[] = [];
  for (let m = Math.ceil(since / 60 / minutes) * minutes; m * 60 <= until; m += minutes) ticks.push(m);
  const degrees: number[] = [];
  for (let t = low; t <= high; t += high - low > 50 ? 20 : 10) degrees.push(t);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-auto w-full"
      role="img"
      aria-label={`Curve: ${read.length} readings${lift ? `, lift in ${Math.round(lift.in_s)} seconds` : ""}`}
    >
      <RulePatterns id={id} />
      <clipPath id={`${id}-in`}>
        <rect
          x={PAD.left}
          y={PAD.top}
          width={WIDTH - PAD.left - PAD.right}
          height={HEIGHT - PAD.top - PAD.bottom}
        />
      </clipPath>
      {band(window.nappe_c, nappeEnd, "var(--color-yolk-pale)")}
      {band(window.curdles_c, high, `url(#${id}-hatch)`)}
      {degrees.map((t) => (
        <g key={t}>
          <line x1={PAD.left} x2={WIDTH - PAD.right} y1={y(t)} y2={y(t)} stroke="var(--color-hair)" />
          <text x={PAD.left - 7} y={y(t) + 5} textAnchor="end" fontSize="15" fill="var(--color-soft)">
            {temperature(t, system, 0).replace("°", "")}
          </text>
        </g>
      ))}
      {ticks.map((m) => (
        <text
          key={m}
          x={x(60 * m)}
          y={HEIGHT - 9}
          textAnchor={x(60 * m) > WIDTH - 40 ? "end" : "middle"}
          fontSize="15"
          fill="var(--color-soft)"
        >
          {m === 0 ? (ended ? "closed" : "now") : `${m > 0 ? "+" : "−"}${Math.abs(m)} min`}
        </text>
      ))}
      <line
        x1={x(0)}
        x2={x(0)}
        y1={PAD.top}
        y2={HEIGHT - PAD.bottom}
        stroke="var(--color-soft)"
        strokeDasharray="2 4"
      />
      <g clipPath={`url(#${id}-in)`} fill="none" strokeLinejoin="round" strokeLinecap="round">
        {coming.length > 1 ? (
          <>
            <path
              d={
                area<(typeof coming)[number]>(
                  ({ t }) => x(t),
                  ({ low: c }) => y(c),
                  ({ high: c }) => y(c),
                )(coming) ?? ""
              }
              fill="var(--color-soft)"
              fillOpacity="0.18"
            />
            <path
              d={path(coming.map(({ t, c }) => [t, c])) ?? ""}
              stroke="var(--color-copper)"
              strokeWidth="3"
              strokeDasharray="3 7"
            />
          </>
        ) : null}
        {landed.length > 1 ? (
          <path d={path(landed) ?? ""} stroke="var(--color-slate)" strokeWidth="3" strokeDasharray="3 6" />
        ) : null}
        {read.length > 1 ? <path d={path(read) ?? ""} stroke="var(--color-iron)" strokeWidth="3.5" /> : null}
      </g>
      {lift ? (
        <circle cx={x(Math.min(lift.in_s, until))} cy={y(lift.at_c)} r="8" fill="var(--color-copper)" />
      ) : null}
      <rect
        x={PAD.left}
        y={PAD.top}
        width={WIDTH - PAD.left - PAD.right}
        height={HEIGHT - PAD.top - PAD.bottom}
        fill="none"
        stroke="var(--color-iron)"
      />
    </svg>
  );
}
