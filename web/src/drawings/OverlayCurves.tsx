import { line } from "d3-shape";
import type { UnitSystem } from "../kit/typed";
import { CurveFrame, degreesAround, PLOT, type Point } from "./CurveFrame";
import type { RuleWindow } from "./Rule";

/** A curve to be laid over others, its times counted from the moment all are aligned at [s], [°C]. */
export interface Aligned {
  id: number;
  name: string;
  points: Point[];
  lift: Point | null;
  /** Where a spoon was dipped. */
  spoons: readonly Point[];
}

interface Props {
  curves: readonly Aligned[];
  window: RuleWindow;
  boiling_c: number;
  /** What stands at the moment all are aligned at. */
  moment: string;
  /** Where it was planned to be lifted [°C]; null where nobody planned. */
  planned_c: number | null;
  /** How the first would have gone by its plan; null where nobody planned. */
  ghost: readonly Point[] | null;
  system: UnitSystem;
}

const COLOURS = ["iron", "copper", "slate", "herb", "brick", "yolk-ink", "soft", "line"] as const;
const DASHES = ["", "9 5", "2 5", "14 4 2 4", "5 3", "", "9 5", "2 5"] as const;
/** Of each curve so much before and after the moment is drawn [s]. */
const BEFORE_S = 420;
const AFTER_S = 600;
/** Once it has cooled to here, the rest of a curve is left out [°C]. */
const COOLED_C = 55;

/** How the curve at a place among others is drawn: never by its colour alone. */
export function strokeOf(place: number): { stroke: string; strokeDasharray: string; strokeWidth: number } {
  const at = place % COLOURS.length;
  return {
    stroke: `var(--color-${COLOURS[at]})`,
    strokeDasharray: DASHES[at] ?? "",
    strokeWidth: 3,
  };
}

/** What of a curve is drawn: around the moment, until it has cooled. */
function near(points: readonly Point[]): Point[] {
  const hottest = points.reduce((top, [, c], i) => (c > (points[top]?.[1] ?? c) ? i : top), 0);
  return points.filter(([t, c], i) => t >= -BEFORE_S && t <= AFTER_S && (i <= hottest || c >= COOLED_C));
}

/** The stroke of a curve, for beside its name. */
export function StrokeKey({ place }: { place: number }) {
  return (
    <svg viewBox="0 0 30 8" className="inline-block h-2 w-8 shrink-0" aria-hidden="true">
      <line x1="1" x2="29" y1="4" y2="4" {...strokeOf(place)} />
    </svg>
  );
}

/** Curves laid over one another, begun together at a moment. */
export function OverlayCurves({ curves, window, boiling_c, moment, planned_c, ghost, system }: Props) {
  const shown = curves.map((one) => ({ ...one, points: near(one.points) }));
  const times = shown.flatMap(({ points }) => points.map(([t]) => t));
  const celsius = shown.flatMap(({ points }) => points.map(([, c]) => c));
  const ends: Point = times.length ? [Math.min(...times), Math.max(60, ...times)] : [0, 60];
  return (
    <CurveFrame
      label={`${curves.length} curves laid over one another: ${curves.map(({ name }) => name).join(", ")}`}
      times={ends}
      degrees={degreesAround(celsius.length ? celsius : [60], window, boiling_c, 50)}
      window={window}
      system={system}
      tick={(minute) => (minute === 0 ? moment : `${minute > 0 ? "+" : "−"}${Math.abs(minute)} min`)}
      over={(x, y) => (
        <>
          <line
            x1={x(0)}
            x2={x(0)}
            y1={PLOT.top}
            y2={PLOT.bottom}
            stroke="var(--color-soft)"
            strokeDasharray="2 4"
          />
          {planned_c === null ? null : (
            <path
              d={`M${PLOT.right - 9},${y(planned_c) - 5}L${PLOT.right},${y(planned_c)}L${PLOT.right - 9},${y(planned_c) + 5}Z`}
              fill="var(--color-iron)"
            />
          )}
          {shown.map(({ id, spoons }, place) =>
            spoons.map((at) => (
              <circle
                key={`${id} ${at[0]}`}
                cx={x(at[0])}
                cy={y(at[1])}
                r="6"
                fill="var(--color-paper)"
                stroke={strokeOf(place).stroke}
                strokeWidth="2"
              />
            )),
          )}
          {shown.map(({ id, lift }, place) =>
            lift === null ? null : (
              <circle key={id} cx={x(lift[0])} cy={y(lift[1])} r="5" fill={strokeOf(place).stroke} />
            ),
          )}
        </>
      )}
    >
      {(x, y) => {
        const path = line<Point>(
          ([t]) => x(t),
          ([, c]) => y(c),
        );
        return (
          <>
            {ghost ? (
              <path
                d={path([...ghost]) ?? ""}
                stroke="var(--color-line)"
                strokeWidth="9"
                strokeOpacity="0.45"
              />
            ) : null}
            {shown.map(({ id, points }, place) => (
              <path key={id} d={path(points) ?? ""} {...strokeOf(place)} />
            ))}
          </>
        );
      }}
    </CurveFrame>
  );
}
