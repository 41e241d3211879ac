import { monthName } from "../kit/when";

export const WIDTH = 420;
export const HEIGHT = 120;
export const PAD = { left: 56, right: 8, top: 8, bottom: 22 };

/** Where a month of so many stands. */
export function placeOf(i: number, count: number): number {
  const room = WIDTH - PAD.left - PAD.right;
  return PAD.left + (room * (i + 0.5)) / count;
}

/** A figure of a month, and how it scattered. */
export interface PointOfMonth {
  month: string;
  value: number | null;
  spread: number;
}

interface Props {
  title: string;
  points: readonly PointOfMonth[];
  shown: (value: number) => string;
  zero?: boolean;
}

/** A small curve of a figure over months, with how it scattered. */
export function MonthCurve({ title, points, shown, zero = false }: Props) {
  const known = points.flatMap(({ value, spread }) =>
    value === null ? [] : [value - spread, value + spread],
  );
  if (!known.length) return null;
  const reach = zero ? [0, ...known] : known;
  const [low, high] = [Math.min(...reach), Math.max(...reach)];
  const room = Math.max((high - low) * 0.1, Math.abs(high) * 0.02, 0.05);
  const y = (value: number) =>
    HEIGHT - PAD.bottom - ((HEIGHT - PAD.top - PAD.bottom) * (value - low + room)) / (high - low + 2 * room);
  // Two that would lie on one another are one.
  const ends = y(low) - y(high) < 16 ? [high] : [low, high];
  const line = points.flatMap(({ value }, i) =>
    value === null ? [] : [`${placeOf(i, points.length)},${y(value)}`],
  );
  const said = points.flatMap(({ month, value }) =>
    value === null ? [] : [`${monthName(month)} ${shown(value)}`],
  );
  return (
    <figure>
      <figcaption className="font-bold">{title}</figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`${title}: ${said.join(", ")}`}
      >
        {ends.map((value) => (
          <text
            key={value}
            x={PAD.left - 8}
            y={y(value) + 4}
            textAnchor="end"
            fontSize="12"
            fill="var(--color-soft)"
          >
            {shown(value)}
          </text>
        ))}
        {zero ? (
          <line x1={PAD.left} x2={WIDTH - PAD.right} y1={y(0)} y2={y(0)} stroke="var(--color-line)" />
        ) : null}
        {points.map(({ month, value, spread }, i) => (
          <g key={`${month} ${placeOf(i, points.length)}`}>
            {value === null || spread === 0 ? null : (
              <line
                x1={placeOf(i, points.length)}
                x2={placeOf(i, points.length)}
                y1={y(value - spread)}
                y2={y(value + spread)}
                stroke="var(--color-yolk-pale)"
                strokeWidth="10"
              />
            )}
            <text
              x={placeOf(i, points.length)}
              y={HEIGHT - 6}
              textAnchor="middle"
              fontSize="12"
              fill="var(--color-soft)"
            >
              {monthName(month)}
            </text>
          </g>
        ))}
        <polyline points={line.join(" ")} fill="none" stroke="var(--color-iron)" strokeWidth="2.5" />
        {line.map((at) => {
          const [cx, cy] = at.split(",");
          return <circle key={at} cx={cx} cy={cy} r="3.5" fill="var(--color-iron)" />;
        })}
      </svg>
    </figure>
  );
}
