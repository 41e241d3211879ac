import { line } from "d3-shape";
import type { Attempt } from "../../api/practice";
import { CurveFrame, degreesAround, PLOT, type Point } from "../../drawings/CurveFrame";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { clockText } from "./clock";

type Real = NonNullable<Attempt["that_day"]>;

/** What was read that day, since the moment from which it is cooked again. */
export const pointsOf = (real: Real): Point[] => real.t_s.map((t, i) => [t, real.c[i] ?? 0]);

/** What really happened, while it is cooked again: where the probe stood then, at the same second. */
export function ThatDay({ real, at_s }: { real: Real; at_s: number }) {
  const { system } = useUnits();
  const points = pointsOf(real);
  const ends = Math.max(60, ...real.t_s);
  const then = points.findLast(([t]) => t <= at_s);
  const over = at_s > ends;
  return (
    <section aria-label="That day" className="mt-3 border-t border-hair pt-2">
      <h2 className="text-base">That day</h2>
      <CurveFrame
        label={
          real.off_s === null
            ? `What was read that day: ${points.length} readings`
            : `What was read that day, off the heat at ${clockText(real.off_s)}: ${points.length} readings`
        }
        times={[0, ends]}
        degrees={degreesAround(real.c, real.window, real.boiling_c)}
        window={real.window}
        system={system}
        tick={(minute) => `${minute} min`}
        over={(x) => (
          <line
            x1={x(Math.min(at_s, ends))}
            x2={x(Math.min(at_s, ends))}
            y1={PLOT.top}
            y2={PLOT.bottom}
            stroke="var(--color-copper)"
            strokeWidth="2"
          />
        )}
      >
        {(x, y) => (
          <path
            d={
              line<Point>(
                ([t]) => x(t),
                ([, c]) => y(c),
              )(points) ?? ""
            }
            stroke="var(--color-iron)"
            strokeWidth="3"
          />
        )}
      </CurveFrame>
      <p className="text-soft">
        {over || !then
          ? "It was out of the pan by now."
          : `It stood at ${temperature(then[1], system)} by now.`}
      </p>
    </section>
  );
}
