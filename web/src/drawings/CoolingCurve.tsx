import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { UnitSystem } from "../kit/typed";
import { temperature } from "../kit/units";

/** How a limit can stand that wants somebody to do something. */
export const BAD: readonly string[] = ["in danger", "will be missed", "missed"];

export interface Limit {
  limit_c: number;
  /** When it must be reached [s], on the curve's own clock; null where its clock has not begun. */
  at_s: number | null;
  kept: boolean;
}

interface Props {
  label: string;
  t_s: readonly number[];
  core_c: readonly number[];
  /** The other edges of what is known; one of them may be left out. */
  slow_c: readonly number[];
  quick_c?: readonly number[];
  limits: readonly Limit[];
  read?: readonly (readonly [number, number])[];
  now_s?: number;
  system: UnitSystem;
  /** Drawn small: its figures are set larger for it. */
  small?: boolean;
}

const WIDTH = 560;
const HEIGHT = 280;
const PAD = { left: 52, right: 14, top: 12, bottom: 30 };
const COLD_C = 0;
const HOUR_S = 3600;
const FAR = 2.5;

/** Round times along a curve that lasts so long [s]: quarters of an hour, then hours. */
function timeTicks(last_s: number): number[] {
  const quarter = HOUR_S / 4;
  const step = last_s <= 6 * quarter ? quarter : HOUR_S * Math.max(1, Math.ceil(last_s / HOUR_S / 6));
  return Array.from({ length: Math.floor(last_s / step) + 1 }, (_, i) => i * step);
}

/** A cooling in time: the warmest spot with its band, the limits of the rule, and what was read. */
export function CoolingCurve({
  label,
  t_s,
  core_c,
  slow_c,
  quick_c = core_c,
  limits,
  read = [],
  now_s,
  system,
  small = false,
}: Props) {
  const size = small ? 22 : 14;
  // A limit that is a day away would flatten everything; it is then only a line.
  const cold = t_s.at(-1) ?? HOUR_S;
  const near = limits.flatMap((one) => (one.at_s !== null && one.at_s <= FAR * cold ? [one.at_s] : []));
  const last = Math.max(1.05 * cold, ...near.map((at) => 1.05 * at), HOUR_S / 2);
  const hottest = Math.max(80, ...core_c, ...read.map(([, c]) => c));
  const x = scaleLinear([Math.min(0, read[0]?.[0] ?? 0), last], [PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear([COLD_C, hottest], [HEIGHT - PAD.bottom, PAD.top]);
  const points = t_s.map((t, i) => ({ t, c: core_c[i] ?? 0, low: quick_c[i] ?? 0, high: slow_c[i] ?? 0 }));
  const band = area<(typeof points)[number]>(
    ({ t }) => x(t),
    ({ low }) => y(low),
    ({ high }) => y(high),
  );
  const core = line<(typeof points)[number]>(
    ({ t }) => x(t),
    ({ c }) => y(c),
  );
  const times = timeTicks(last);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" role="img" aria-label={label}>
      {[0, 20, 40, 60, 80].map((c) => (
        <g key={c}>
          <line x1={PAD.left} x2={WIDTH - PAD.right} y1={y(c)} y2={y(c)} stroke="var(--color-hair)" />
          <text x={PAD.left - 6} y={y(c) + 5} textAnchor="end" fontSize={size} fill="var(--color-soft)">
            {temperature(c, system, 0)}
          </text>
        </g>
      ))}
      {times.map((at) => (
        <text key={at} x={x(at)} y={HEIGHT - 8} textAnchor="middle" fontSize={size} fill="var(--color-soft)">
          {at === 0 ? "0" : at % HOUR_S ? `${at / 60} min` : `${at / HOUR_S} h`}
        </text>
      ))}
      <path d={band(points) ?? ""} fill="var(--color-slate)" fillOpacity="0.16" />
      {limits.map((one) => {
        const colour = one.kept ? "var(--color-herb)" : "var(--color-brick)";
        const seen = one.at_s !== null && one.at_s <= last;
        const at = seen ? x(one.at_s ?? 0) : WIDTH - PAD.right;
        return (
          <g key={`${one.limit_c} ${one.at_s}`} stroke={colour} strokeWidth="2">
            <line x1={PAD.left} x2={at} y1={y(one.limit_c)} y2={y(one.limit_c)} strokeDasharray="6 5" />
            {!seen ? null : <line x1={at} x2={at} y1={y(one.limit_c)} y2={PAD.top} strokeDasharray="6 5" />}
          </g>
        );
      })}
      {now_s === undefined ? null : (
        <line
          x1={x(now_s)}
          x2={x(now_s)}
          y1={PAD.top}
          y2={HEIGHT - PAD.bottom}
          stroke="var(--color-iron)"
          strokeWidth="2"
        />
      )}
      <path d={core(points) ?? ""} fill="none" stroke="var(--color-slate)" strokeWidth="3.5" />
      {read.map(([t, c]) => (
        <circle key={`${t} ${c}`} cx={x(t)} cy={y(c)} r="4.5" fill="var(--color-iron)" />
      ))}
    </svg>
  );
}
