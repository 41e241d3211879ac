import { scaleLinear } from "d3-scale";
import { useId } from "react";
import { spread } from "../kit/spread";
import type { UnitSystem } from "../kit/typed";
import { temperature } from "../kit/units";
import { ruleTicks } from "./ruleTicks";

export interface RuleWindow {
  thickens_c: number | null;
  nappe_c: number | null;
  heavy_c: number | null;
  curdles_c: number | null;
}

export interface RuleMark {
  at_c: number;
  label: string;
  tone: "iron" | "copper" | "slate" | "herb";
}

interface Props {
  window: RuleWindow;
  boiling_c: number;
  stop_c: number;
  marks?: RuleMark[];
  band?: { nappe_c: number[] | null; curdles_c: number[] | null } | undefined;
  low?: number;
  height?: number;
  system: UnitSystem;
}

const TONES = {
  iron: "var(--color-iron)",
  copper: "var(--color-copper)",
  slate: "var(--color-slate)",
  herb: "var(--color-herb)",
  brick: "var(--color-brick)",
  yolk: "var(--color-yolk-ink)",
  soft: "var(--color-soft)",
} as const;

/** The bands of one mix: where it thickens, where it coats, where it curdles. */
export function bandsOf({ window, stop_c, boiling_c }: Pick<Props, "window" | "stop_c" | "boiling_c">) {
  const top = window.curdles_c ?? boiling_c;
  const nappeEnd = Math.min(Math.max(window.heavy_c ?? stop_c, stop_c), top);
  return {
    thickens: window.thickens_c === null ? null : ([window.thickens_c, window.nappe_c ?? nappeEnd] as const),
    nappe: window.nappe_c === null ? null : ([window.nappe_c, nappeEnd] as const),
    curdles: window.curdles_c === null ? null : ([window.curdles_c, boiling_c] as const),
  };
}

/** What tells the bands apart besides their colour: dots where it thickens, hatching where it curdles. */
export function RulePatterns({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={`${id}-dots`} width="5" height="5" patternUnits="userSpaceOnUse">
        <rect width="5" height="5" fill="var(--color-yolk-pale)" fillOpacity="0.45" />
        <circle cx="1.5" cy="1.5" r="1" fill="var(--color-yolk)" />
      </pattern>
      <pattern
        id={`${id}-hatch`}
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <rect width="6" height="6" fill="var(--color-brick-pale)" />
        <rect width="2.6" height="6" fill="var(--color-brick)" />
      </pattern>
    </defs>
  );
}

/** The vertical temperature rule of one mix, to scale, with a label and a leader for every mark on it. */
export function Rule({ window, boiling_c, stop_c, marks = [], band, low = 0, height = 420, system }: Props) {
  const id = useId();
  const high = Math.ceil((boiling_c + 3) / 5) * 5;
  const pad = 14;
  const y = scaleLinear([low, high], [height - pad, pad]);
  const bands = bandsOf({ window, stop_c, boiling_c });
  const degrees = (value: number) => temperature(value, system);
  const labels: { at: number; text: string; color: string; strong?: boolean }[] = [
    { at: boiling_c, text: `boils ${degrees(boiling_c)}`, color: TONES.soft },
  ];
  if (window.curdles_c !== null)
    labels.push({ at: window.curdles_c, text: `curdles ${degrees(window.curdles_c)}`, color: TONES.brick });
  labels.push({ at: stop_c, text: `stop ${degrees(stop_c)}`, color: TONES.iron, strong: true });
  if (window.nappe_c !== null)
    labels.push({ at: window.nappe_c, text: `nappe from ${degrees(window.nappe_c)}`, color: TONES.yolk });
  if (window.thickens_c !== null)
    labels.push({ at: window.thickens_c, text: `thickens ${degrees(window.thickens_c)}`, color: TONES.yolk });
  for (const mark of marks)
    labels.push({ at: mark.at_c, text: `${mark.label} ${degrees(mark.at_c)}`, color: TONES[mark.tone] });
  const places = spread(
    labels.map((label) => y(Math.max(low, label.at))),
    20,
    pad,
    height - pad,
  );
  const ticks = ruleTicks(low, high, system, 5, 20);
  const spoken = labels.map((label) => label.text).join(", ");
  return (
    <svg
      viewBox={`0 0 250 ${height}`}
      className="block h-auto w-full max-w-[300px]"
      role="img"
      aria-label={`Rule: ${spoken}`}
    >
      <RulePatterns id={id} />
      <rect x="46" y={y(high)} width="34" height={y(low) - y(high)} fill="var(--color-paper)" />
      {bands.thickens && (
        <Band y={y} from={bands.thickens[0]} to={bands.thickens[1]} fill={`url(#${id}-dots)`} />
      )}
      {bands.nappe && <Band y={y} from={bands.nappe[0]} to={bands.nappe[1]} fill="var(--color-yolk)" />}
      {bands.curdles && (
        <Band y={y} from={bands.curdles[0]} to={bands.curdles[1]} fill={`url(#${id}-hatch)`} />
      )}
      {low < 5 && <Band y={y} from={low} to={5} fill="var(--color-slate-pale)" />}
      <line x1="46" x2="80" y1={y(boiling_c)} y2={y(boiling_c)} stroke={TONES.iron} strokeDasharray="3 2" />
      {ticks.map(({ at: t, major }) => {
        return (
          <g key={t}>
            <line
              x1="46"
              x2={major ? 60 : 53}
              y1={y(t)}
              y2={y(t)}
              stroke={TONES.iron}
              strokeWidth={major ? 1.4 : 0.8}
            />
            {major && (
              <text
                x="38"
                y={y(t) + 4.5}
                textAnchor="end"
                className="tabular"
                fontSize="13"
                fill={TONES.soft}
              >
                {temperature(t, system, 0).replace("°", "")}
              </text>
            )}
          </g>
        );
      })}
      <rect
        x="46"
        y={y(high)}
        width="34"
        height={y(low) - y(high)}
        rx="2"
        fill="none"
        stroke={TONES.iron}
        strokeWidth="1.6"
      />
      {band?.nappe_c ? <Bracket y={y} between={band.nappe_c} color={TONES.yolk} /> : null}
      {band?.curdles_c ? <Bracket y={y} between={band.curdles_c} color={TONES.brick} /> : null}
      <path d={`M42 ${y(stop_c)} l10 -5 v10 z`} fill={TONES.iron} />
      {labels.map((label, i) => {
        const at = y(Math.max(low, label.at));
        const place = places[i] ?? at;
        return (
          <g key={label.text}>
            <path d={`M80 ${at} L92 ${place} H100`} fill="none" stroke={label.color} strokeWidth="1.3" />
            <text
              x="105"
              y={place + 4.5}
              fontSize="14"
              fill={label.color}
              fontWeight={label.strong ? 700 : 500}
            >
              {label.text}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** How sure a mark is: a bracket inside the rule from the low to the high of its band. */
function Bracket(props: { y: (t: number) => number; between: readonly number[]; color: string }) {
  const [low, high] = [props.y(props.between[0] ?? 0), props.y(props.between[1] ?? 0)];
  return <path d={`M72 ${low} h5 V${high} h-5`} fill="none" stroke={props.color} strokeWidth="2.2" />;
}

function Band(props: { y: (t: number) => number; from: number; to: number; fill: string }) {
  const top = props.y(Math.max(props.from, props.to));
  const bottom = props.y(Math.min(props.from, props.to));
  return <rect x="46" y={top} width="34" height={Math.max(1.5, bottom - top)} fill={props.fill} />;
}

/** The same rule lying down and without words, for lists: 60 °C to the boil. */
export function MiniRule({ window, boiling_c, stop_c, system }: Omit<Props, "marks" | "height" | "low">) {
  const id = useId();
  const x = scaleLinear([60, 104], [1, 139]).clamp(true);
  const bands = bandsOf({ window, stop_c, boiling_c });
  const strip = (from: number, to: number, fill: string) => (
    <rect x={x(from)} y="3" width={Math.max(1.5, x(to) - x(from))} height="14" fill={fill} />
  );
  const spoken = [
    window.nappe_c === null ? "no nappe below the boil" : `nappe from ${temperature(window.nappe_c, system)}`,
    window.curdles_c === null ? "stands the boil" : `curdles ${temperature(window.curdles_c, system)}`,
  ].join(", ");
  return (
    <svg viewBox="0 0 140 20" className="block h-5 w-[140px]" role="img" aria-label={spoken}>
      <RulePatterns id={id} />
      <rect x="1" y="3" width={x(boiling_c) - 1} height="14" fill="var(--color-paper)" />
      {bands.thickens && strip(bands.thickens[0], bands.thickens[1], `url(#${id}-dots)`)}
      {bands.nappe && strip(bands.nappe[0], bands.nappe[1], "var(--color-yolk)")}
      {bands.curdles && strip(bands.curdles[0], bands.curdles[1], `url(#${id}-hatch)`)}
      <rect x="1" y="3" width={x(boiling_c) - 1} height="14" rx="1" fill="none" stroke={TONES.iron} />
      <line x1={x(stop_c)} x2={x(stop_c)} y1="0" y2="20" stroke={TONES.iron} strokeWidth="2" />
    </svg>
  );
}
