import { line } from "d3-shape";
import type { UnitSystem } from "../kit/typed";
import { CurveFrame, degreesAround, PLOT, type Point } from "./CurveFrame";
import type { RuleWindow } from "./Rule";

interface Props {
  /** What the probe read: seconds since it went into the pan, and °C. */
  read: Point[];
  /** What was marked, and when [s]. */
  moments: { at_s: number; shown: string }[];
  window: RuleWindow;
  boiling_c: number;
  system: UnitSystem;
}

/** The whole curve of a batch that is over, with what was marked on it. */
export function RecordCurve({ read, moments, window, boiling_c, system }: Props) {
  const ends = Math.max(60, ...read.map(([t]) => t), ...moments.map(({ at_s }) => at_s));
  const begins = Math.min(0, ...moments.map(({ at_s }) => at_s));
  const told = moments.map(({ at_s, shown }) => `${shown} after ${Math.round(at_s)} seconds`);
  return (
    <CurveFrame
      label={[`Curve: ${read.length} readings`, ...told].join(", ")}
      times={[begins, ends]}
      degrees={degreesAround(
        read.map(([, c]) => c),
        window,
        boiling_c,
      )}
      window={window}
      system={system}
      tick={(minute) => `${minute} min`}
      over={(x) =>
        moments.map(({ at_s, shown }, i) => (
          <g key={`${shown} ${at_s}`}>
            <line
              x1={x(at_s)}
              x2={x(at_s)}
              y1={PLOT.top}
              y2={PLOT.bottom}
              stroke="var(--color-copper)"
              strokeDasharray="2 4"
            />
            {/* The last one's words stand to the right, if there is room: two marks are often seconds apart. */}
            <text
              transform={`translate(${x(at_s) + (i === moments.length - 1 && x(at_s) < PLOT.right - 20 ? 15 : -5)} ${PLOT.bottom - 8}) rotate(-90)`}
              fontSize="15"
              fill="var(--color-copper)"
            >
              {shown}
            </text>
          </g>
        ))
      }
    >
      {(x, y) => (
        <path
          d={
            line<Point>(
              ([t]) => x(t),
              ([, c]) => y(c),
            )(read) ?? ""
          }
          stroke="var(--color-iron)"
          strokeWidth="3"
        />
      )}
    </CurveFrame>
  );
}
