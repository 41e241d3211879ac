import { area, line } from "d3-shape";
import type { UnitSystem } from "../kit/typed";
import { CurveFrame, degreesAround, PLOT, type Point } from "./CurveFrame";
import type { RuleWindow } from "./Rule";

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

const LEAST_AHEAD_S = 60;
const MOST_AHEAD_S = 600;
const MOST_PAST_S = 600;
const MOST_BELOW_K = 20;

/** What the probe read, where it goes from here with how sure that is, and where it lands when lifted. */
export function LiveCurve({ past, ahead, landing, lift, window, boiling_c, system }: Props) {
  const until = Math.min(MOST_AHEAD_S, Math.max(LEAST_AHEAD_S, (lift?.in_s ?? LEAST_AHEAD_S) + 45));
  const since = Math.max(-MOST_PAST_S, Math.min(-60, past.ago_s[0] ?? -60));
  const read = past.ago_s.map((t, i): Point => [t, past.c[i] ?? 0]).filter(([t]) => t >= since);
  const coming = (ahead?.in_s ?? [])
    .map((t, i) => ({ t, c: ahead?.c[i] ?? 0, low: ahead?.low_c[i] ?? 0, high: ahead?.high_c[i] ?? 0 }))
    .filter(({ t }) => t <= until);
  const landed = (landing?.in_s ?? []).map((t, i): Point => [t, landing?.c[i] ?? 0]);
  const values = [...read.map(([, c]) => c), ...coming.map(({ c }) => c)];
  // A probe that came in cold would flatten everything that matters.
  const least = Math.min((window.thickens_c ?? 70) - MOST_BELOW_K, read.at(-1)?.[1] ?? 100);
  return (
    <CurveFrame
      label={
        lift
          ? `Curve: ${read.length} readings, lift in ${Math.round(lift.in_s)} seconds`
          : `Curve: ${read.length} readings`
      }
      times={[since, until]}
      degrees={degreesAround(values, window, boiling_c, least)}
      window={window}
      system={system}
      tick={(minute) => (minute === 0 ? "now" : `${minute > 0 ? "+" : "−"}${Math.abs(minute)} min`)}
      over={(x, y) =>
        lift ? (
          <circle cx={x(Math.min(lift.in_s, until))} cy={y(lift.at_c)} r="8" fill="var(--color-copper)" />
        ) : null
      }
    >
      {(x, y) => {
        const path = line<Point>(
          ([t]) => x(t),
          ([, c]) => y(c),
        );
        const spread = area<(typeof coming)[number]>(
          ({ t }) => x(t),
          ({ low }) => y(low),
          ({ high }) => y(high),
        );
        return (
          <>
            <line
              x1={x(0)}
              x2={x(0)}
              y1={PLOT.top}
              y2={PLOT.bottom}
              stroke="var(--color-soft)"
              strokeDasharray="2 4"
            />
            {coming.length > 1 ? (
              <>
                <path d={spread(coming) ?? ""} fill="var(--color-soft)" fillOpacity="0.18" />
                <path
                  d={path(coming.map(({ t, c }) => [t, c])) ?? ""}
                  stroke="var(--color-copper)"
                  strokeWidth="3"
                  strokeDasharray="3 7"
                />
              </>
            ) : null}
            {landed.length > 1 ? (
              <path
                d={path(landed) ?? ""}
                stroke="var(--color-slate)"
                strokeWidth="3"
                strokeDasharray="3 6"
              />
            ) : null}
            {read.length > 1 ? (
              <path d={path(read) ?? ""} stroke="var(--color-iron)" strokeWidth="3.5" />
            ) : null}
          </>
        );
      }}
    </CurveFrame>
  );
}
