import { scaleLinear } from "d3-scale";
import { useId } from "react";
import { spread } from "../kit/spread";
import type { UnitSystem } from "../kit/typed";
import { temperature } from "../kit/units";
import { RulePatterns, type RuleWindow } from "./Rule";
import { ruleTicks } from "./ruleTicks";

interface Props {
  /** Where this very cook thickens, coats and curdles, at the heat it gets. */
  window: RuleWindow;
  boiling_c: number;
  boiled: boolean;
  probe_c: number | null;
  soon_c: number | null;
  notch_c: number | null;
  /** What is to be done at the notch: "lift here". */
  notch: string;
  system: UnitSystem;
}

const WIDTH = 300;
const HEIGHT = 600;
const PAD = 22;
const LEFT = 52;
const BREADTH = 46;
const ABOVE_K = 3;
const BELOW_K = 22;

/** The Rule at the stove: only the stretch that matters, large enough for two metres. */
export function LiveRule({ window, boiling_c, boiled, probe_c, soon_c, notch_c, notch, system }: Props) {
  const id = useId();
  const top = boiled || window.curdles_c === null ? boiling_c : Math.min(window.curdles_c + 2, boiling_c);
  const high = Math.ceil((top + ABOVE_K) / 5) * 5;
  const lowest = (window.thickens_c ?? 70) - BELOW_K;
  const low = Math.floor(Math.min(lowest, Math.max(15, (probe_c ?? lowest) - 4)) / 5) * 5;
  const y = scaleLinear([low, high], [HEIGHT - PAD, PAD]).clamp(true);
  const nappeEnd = Math.min(window.heavy_c ?? top, window.curdles_c ?? top);
  const bands = [
    { from: window.thickens_c, to: window.nappe_c ?? nappeEnd, fill: `url(#${id}-dots)` },
    { from: window.nappe_c, to: nappeEnd, fill: "var(--color-yolk)" },
    { from: window.curdles_c, to: high, fill: `url(#${id}-hatch)` },
  ];
  const labels = [
    { at: window.curdles_c, text: "curdles", color: "var(--color-brick)", strong: false },
    { at: boiled ? boiling_c : null, text: "boils", color: "var(--color-iron)", strong: false },
    { at: notch_c, text: notch, color: "var(--color-copper)", strong: true },
    { at: soon_c, text: "in 30 s", color: "var(--color-soft)", strong: false },
    { at: window.nappe_c, text: "nappe", color: "var(--color-yolk-ink)", strong: false },
    { at: window.thickens_c, text: "thickens", color: "var(--color-yolk-ink)", strong: false },
  ].flatMap((one) => (one.at === null || one.at < low ? [] : [{ ...one, at: one.at }]));
  const places = spread(
    labels.map((label) => y(label.at)),
    27,
    PAD,
    HEIGHT - PAD,
  );
  const ticks = ruleTicks(low, high, system, 5, 10);
  const spoken = labels.map((label) => `${label.text} ${temperature(label.at, system)}`).join(", ");
  const reads = probe_c === null ? "no reading" : `the probe reads ${temperature(probe_c, system)}`;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mx-auto block h-full max-h-full w-full"
      role="img"
      aria-label={`Rule: ${reads}; ${spoken}`}
    >
      <RulePatterns id={id} />
      <rect x={LEFT} y={PAD} width={BREADTH} height={HEIGHT - 2 * PAD} fill="var(--color-paper)" />
      {bands.map(({ from, to, fill }) =>
        from === null || to === null || to <= from ? null : (
          <rect
            key={fill}
            x={LEFT}
            width={BREADTH}
            y={y(to)}
            height={Math.max(2, y(from) - y(to))}
            fill={fill}
          />
        ),
      )}
      {ticks.map(({ at: t, major }) => (
        <g key={t}>
          <line x1={LEFT} x2={LEFT + (major ? 16 : 9)} y1={y(t)} y2={y(t)} stroke="var(--color-iron)" />
          {major ? (
            <text x={LEFT - 8} y={y(t) + 6} textAnchor="end" fontSize="18" fill="var(--color-soft)">
              {temperature(t, system, 0).replace("°", "")}
            </text>
          ) : null}
        </g>
      ))}
      <rect
        x={LEFT}
        y={PAD}
        width={BREADTH}
        height={HEIGHT - 2 * PAD}
        rx="3"
        fill="none"
        stroke="var(--color-iron)"
        strokeWidth="2"
      />
      {soon_c === null || soon_c < low ? null : (
        <line
          x1={LEFT - 4}
          x2={LEFT + BREADTH + 4}
          y1={y(soon_c)}
          y2={y(soon_c)}
          stroke="var(--color-soft)"
          strokeWidth="4"
          strokeDasharray="7 5"
        />
      )}
      {notch_c === null ? null : (
        <path
          d={`M${LEFT + BREADTH + 3} ${y(notch_c)} l22 -13 v26 z`}
          fill="var(--color-copper)"
          stroke="var(--color-paper)"
          strokeWidth="1.5"
        />
      )}
      {labels.map((label, i) => {
        const at = y(label.at);
        const place = places[i] ?? at;
        return (
          <g key={label.text}>
            <path
              d={`M${LEFT + BREADTH + (label.strong ? 25 : 2)} ${at} L${LEFT + BREADTH + 34} ${place} h8`}
              fill="none"
              stroke={label.color}
              strokeWidth="1.6"
            />
            <text
              x={LEFT + BREADTH + 47}
              y={place + 7}
              fontSize="21"
              fill={label.color}
              fontWeight={label.strong ? 800 : 500}
            >
              {label.text} {temperature(label.at, system, label.strong ? 1 : 0)}
            </text>
          </g>
        );
      })}
      {probe_c === null ? null : (
        <g className="transition-transform duration-500" style={{ transform: `translateY(${y(probe_c)}px)` }}>
          <line
            x1={LEFT - 12}
            x2={LEFT + BREADTH + 12}
            y1="0"
            y2="0"
            stroke="var(--color-iron)"
            strokeWidth="6"
          />
          <circle
            cx={LEFT + BREADTH / 2}
            r="15"
            fill="var(--color-paper)"
            stroke="var(--color-iron)"
            strokeWidth="6"
          />
        </g>
      )}
    </svg>
  );
}
