import { useId } from "react";
import type { PanSeen } from "../../api/practice";
import { type Dot, dots, drawn, type Place, RADIUS, spotCentre, spotPath } from "./panShapes";

const FOAM = dots(150, 7, 1.2, 5);
const BITS = dots(26, 11, 1, 2.4);
const GRAINS = dots(220, 23, 0.5, 1.1);
const CURDS = dots(46, 31, 3, 8);
const BUBBLES = dots(16, 41, 4, 9);
const RIM_BUBBLES = dots(90, 53, 1, 2.2).filter((dot) => Math.hypot(dot.x, dot.y) > 0.9);
const LUMPS = dots(22, 61, 2, 5);
const STEAM = [-42, -8, 30] as const;

export interface TrailPoint extends Place {
  age_s: number;
}

interface Props {
  pan: PanSeen;
  label: string;
  over_steam?: boolean;
  /** Where the whisk has been, the newest last. */
  trail?: readonly TrailPoint[];
  whisk?: Place | null;
  still?: boolean;
}

/** A pan from above, from what the core says a cook could see; film is hatched, never told by colour alone. */
export function PanDrawing({
  pan,
  label,
  over_steam = false,
  trail = [],
  whisk = null,
  still = false,
}: Props) {
  const id = useId();
  const foam = FOAM.filter((dot) => Math.hypot(dot.x, dot.y) > 1 - pan.foam - (pan.foam >= 0.95 ? 1 : 0));
  const some = <T,>(list: readonly T[], share: number) => list.slice(0, Math.round(list.length * share));
  return (
    <svg viewBox="-122 -122 244 244" role="img" aria-label={label} className="block h-auto w-full touch-none">
      <defs>
        <pattern
          id={`${id}-film`}
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(35)"
        >
          <line x1="0" y1="0" x2="0" y2="5" stroke="#a9781f" strokeWidth="1.4" />
        </pattern>
        <clipPath id={`${id}-in`}>
          <circle r={RADIUS} />
        </clipPath>
      </defs>
      {over_steam ? null : (
        <rect x="108" y="-9" width="16" height="18" rx="4" fill="var(--color-iron)" transform="rotate(20)" />
      )}
      <circle
        r="109"
        fill={over_steam ? "#dfe2e4" : "#c8c3b8"}
        stroke="var(--color-iron)"
        strokeWidth="1.5"
      />
      <circle r={RADIUS} fill={pan.sheen >= 3 ? "#ecd9a0" : "#f2d483"} stroke="#8d8470" strokeWidth="0.8" />
      <g clipPath={`url(#${id}-in)`}>
        {pan.sheen === 0 ? <ellipse cx="-34" cy="-44" rx="34" ry="13" fill="#fff4cf" opacity="0.55" /> : null}
        {pan.turned > 0
          ? [0.25, 0.5, 0.75].map((share) => (
              <circle
                key={share}
                r={RADIUS * share}
                fill="none"
                stroke="#dcb65c"
                strokeWidth={pan.turned * 2}
                strokeDasharray="26 9"
              />
            ))
          : null}
        {pan.stands !== null ? <Foamed stands={pan.stands} /> : null}
        <Trail trail={trail} stays_s={pan.trail_s} />
        {pan.spots.map((spot, i) =>
          spot.film > 0 ? (
            <path
              // biome-ignore lint/suspicious/noArrayIndexKey: a spot is its place
              key={`film ${i}`}
              d={spotPath(i)}
              fill={`url(#${id}-film)`}
              opacity={spot.film > 1 ? 0.95 : 0.5}
            />
          ) : null,
        )}
        {pan.stands === null
          ? foam.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="#fbf0cd" stroke="#dcc07a" />)
          : null}
        {pan.bubbles > 0
          ? RIM_BUBBLES.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="#fdf6df" stroke="#c79d3f" />)
          : null}
        {pan.bubbles > 1
          ? BUBBLES.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="none" stroke="#a9781f" wide />)
          : null}
        {some(LUMPS, pan.lumps / 2).map((dot) => (
          <Round key={`${dot.x}`} dot={dot} fill="#f9e7b4" stroke="#b98a2b" wide />
        ))}
        {some(BITS, pan.bits === 0 ? 0 : pan.bits === 1 ? 0.3 : 1).map((dot) => (
          <Bit key={`${dot.x}`} dot={dot} />
        ))}
        {pan.sheen >= 2
          ? GRAINS.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="#c89a3c" stroke="none" />)
          : null}
        {pan.sheen >= 3
          ? CURDS.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="#f8e6ad" stroke="#a9781f" wide />)
          : null}
        {pan.spots.map((spot, i) => {
          const { x, y } = drawn(spotCentre(i));
          return spot.flecks > 0 ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: a spot is its place
            <g key={`flecks ${i}`} fill="#5a2d0c" opacity={spot.flecks > 1 ? 1 : 0.35}>
              {[0, 1, 2, 3, 4].map((n) => (
                <rect
                  key={n}
                  x={x - 9 + ((n * 7) % 18)}
                  y={y - 7 + ((n * 11) % 14)}
                  width="4"
                  height="1.8"
                  transform={`rotate(${n * 47} ${x} ${y})`}
                />
              ))}
            </g>
          ) : null;
        })}
      </g>
      {STEAM.slice(0, pan.steam).map((x, i) => (
        <path
          key={x}
          d={`M ${x} -52 c -9 -12 9 -20 0 -34 s 8 -18 1 -28`}
          fill="none"
          stroke="#fffdf8"
          strokeWidth={pan.steam > 2 ? 6 : 4}
          strokeLinecap="round"
          opacity="0.85"
          className={still ? "" : "steam"}
          style={still ? undefined : { animationDelay: `${i * 0.7}s` }}
        />
      ))}
      {whisk ? <Whisk at={whisk} /> : null}
    </svg>
  );
}

function Round({
  dot,
  fill,
  stroke,
  wide = false,
}: {
  dot: Dot;
  fill: string;
  stroke: string;
  wide?: boolean;
}) {
  const { x, y } = drawn(dot);
  return <circle cx={x} cy={y} r={dot.r} fill={fill} stroke={stroke} strokeWidth={wide ? 1.2 : 0.5} />;
}

function Bit({ dot }: { dot: Dot }) {
  const { x, y } = drawn(dot);
  const r = dot.r;
  return (
    <path
      d={`M ${x - r} ${y} l ${r} ${-r} l ${r * 1.2} ${r * 0.6} l ${-r * 0.8} ${r} z`}
      fill="#fbf3d6"
      stroke="#7a5200"
      strokeWidth="0.6"
    />
  );
}

/** Each stroke lies open as long as the core says the trail does; what stays fades only slowly. */
function Trail({ trail, stays_s }: { trail: readonly TrailPoint[]; stays_s: number | null }) {
  const lasts = stays_s ?? 14;
  return trail.slice(1).map((point, i) => {
    const before = trail[i];
    const share = 1 - point.age_s / lasts;
    if (!before || share <= 0 || Math.abs(before.age_s - point.age_s) > 0.5) return null;
    const [from, to] = [drawn(before), drawn(point)];
    return (
      <line
        // biome-ignore lint/suspicious/noArrayIndexKey: the oldest goes first
        key={i}
        x1={from.x}
        y1={from.y}
        x2={to.x}
        y2={to.y}
        stroke="#cf9f3a"
        strokeWidth={3 + 3 * share}
        opacity={0.25 + 0.7 * share}
      />
    );
  });
}

/** What whisking has made of a yolk foam: bubbles, froth, ribbons, mounds. */
function Foamed({ stands }: { stands: number }) {
  if (stands < 2) {
    const shown = stands === 0 ? CURDS.slice(0, 22) : FOAM;
    return shown.map((dot) => <Round key={`${dot.x}`} dot={dot} fill="#fbeec2" stroke="#cfa84e" />);
  }
  if (stands === 2)
    return [-52, -20, 14, 48].map((y) => (
      <path
        key={y}
        d={`M -78 ${y} q 20 -14 40 0 t 40 0 t 40 0 t 34 0`}
        fill="none"
        stroke="#fff4cf"
        strokeWidth="7"
        strokeLinecap="round"
      />
    ));
  return CURDS.slice(0, 18).map((dot) => {
    const { x, y } = drawn(dot);
    const r = 10 + dot.r;
    return (
      <path
        key={`${dot.x}`}
        d={`M ${x - r} ${y + r / 2} q ${r * 0.2} ${-r * 1.6} ${r} ${-r * 1.3} q ${r * 0.9} ${r * 0.2} ${r} ${r * 1.3} z`}
        fill="#fdf0c4"
        stroke="#cfa84e"
        strokeWidth="1.2"
      />
    );
  });
}

function Whisk({ at }: { at: Place }) {
  const { x, y } = drawn(at);
  return (
    <g>
      <circle cx={x} cy={y} r="9" fill="var(--color-iron)" />
      <circle cx={x} cy={y} r="3.2" fill="#8d8470" />
    </g>
  );
}
