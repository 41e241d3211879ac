import { line } from "d3-shape";
import type { UnitSystem } from "../kit/typed";
import { CurveFrame, degreesAround, PLOT, type Point } from "./CurveFrame";
import type { RuleWindow } from "./Rule";

interface Props {
  /** What the probe read: seconds since it went into the pan, and °C. */
  read: Point[];
  /** What was marked, and when [s]. */
  moments: { at_s: number; shown: string }[];
  /** When photographs were taken [s]. */
  photos: readonly number[];
  /** A moment that was chosen [s]; null for none. */
  chosen_s: number | null;
  window: RuleWindow;
  boiling_c: number;
  system: UnitSystem;
}

/** The whole curve of a batch that is over, with what was marked on it. */
export function RecordCurve({ read, moments, photos, chosen_s, window, boiling_c, system }: Props) {
  const ends = Math.max(60, ...read.map(([t]) => t), ...moments.map(({ at_s }) => at_s));
  const begins = Math.min(0, ...moments.map(({ at_s }) => at_s));
  const told = moments.map(({ at_s, shown }) => `${shown} after ${Math.round(at_s)} seconds`);
  const taken = photos.map((at_s, i) => `photograph ${i + 1} after ${Math.round(at_s)} seconds`);
  return (
    <CurveFrame
      label={[`Curve: ${read.length} readings`, ...told, ...taken].join(", ")}
      times={[begins, ends]}
      degrees={degreesAround(
        read.map(([, c]) => c),
        window,
        boiling_c,
      )}
      window={window}
      system={system}
      tick={(minute) => `${minute} min`}
      over={(x) => (
        <>
          {moments.map(({ at_s, shown }, i) => (
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
          ))}
          {chosen_s === null ? null : (
            <line
              x1={x(chosen_s)}
              x2={x(chosen_s)}
              y1={PLOT.top}
              y2={PLOT.bottom}
              stroke="var(--color-slate)"
              strokeWidth="2"
            />
          )}
          {photos.map((at_s, i) =>
            // What was taken long after stands in the list only.
            at_s < begins || at_s > ends ? null : <Taken key={at_s} x={x(at_s)} number={i + 1} />,
          )}
        </>
      )}
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

/** That a photograph was taken then: its number over the curve. */
function Taken({ x, number }: { x: number; number: number }) {
  return (
    <g>
      <line x1={x} x2={x} y1={PLOT.top + 20} y2={PLOT.top + 30} stroke="var(--color-iron)" />
      <rect
        x={x - 10}
        y={PLOT.top + 1}
        width="20"
        height="19"
        fill="var(--color-paper)"
        stroke="var(--color-iron)"
      />
      <text x={x} y={PLOT.top + 16} textAnchor="middle" fontSize="14" fill="var(--color-iron)">
        {number}
      </text>
    </g>
  );
}
