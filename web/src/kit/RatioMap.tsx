import { contours } from "d3-contour";
import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useId, useMemo, useRef, useState } from "react";
import { temperature, type UnitSystem } from "./units";

export interface RatioMapGrid {
  x_name: string;
  y_name: string;
  x_unit: string;
  y_unit: string;
  x: number[];
  y: number[];
  lift_c: number;
  boiled: boolean;
  stress_pa: number[][];
  nappe_c: (number | null)[][];
  curdles_c: (number | null)[][];
  labels: (string | number)[][];
}

interface Props {
  grid: RatioMapGrid;
  here: readonly [number, number];
  words: readonly (readonly [number, string])[];
  system: UnitSystem;
  onMove: ((x: number, y: number, done: boolean) => void) | null;
  onHover: (cell: Cell | null) => void;
}

export interface Cell {
  x: number;
  y: number;
  stress_pa: number;
  nappe_c: number | null;
  curdles_c: number | null;
}

const WIDTH = 560;
const HEIGHT = 330;
const PAD = { left: 46, right: 10, top: 10, bottom: 40 };
const FILLS = ["#eef0ee", "#f8f0d8", "#f6d98f", "#efc153", "#dd9b3a", "#c47a33"];
const NEVER_C = 200;
const NAPPE_EVERY_K = 2;

const flat = (rows: (number | null)[][], none: number): number[] => rows.flat().map((v) => v ?? none);

/** Whether a cell curdles before it is lifted; hatched, because colour alone must not say it. */
function margin(grid: RatioMapGrid): number[] {
  return flat(grid.curdles_c, NEVER_C).map((curdles) => curdles - grid.lift_c);
}

/**
 * One handle against another. Every cell was cooked on the server; here its consistency is drawn as regions,
 * the nappe temperature and the curdle margin as lines, and the mix in hand as a dot that can be moved.
 */
export function RatioMap({ grid, here, words, system, onMove, onHover }: Props) {
  const id = useId();
  const box = useRef<HTMLDivElement>(null);
  const [dragged, setDragged] = useState<readonly [number, number] | null>(null);
  const x = scaleLinear([grid.x[0] ?? 0, grid.x.at(-1) ?? 1], [PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear([grid.y[0] ?? 0, grid.y.at(-1) ?? 1], [HEIGHT - PAD.bottom, PAD.top]);
  const drawn = useMemo(() => shapes(grid, words), [grid, words]);
  const at = dragged ?? here;
  const [px, py] = [x(clamp(at[0], grid.x)), y(clamp(at[1], grid.y))];

  const valueAt = (event: PointerEvent): readonly [number, number] | null => {
    const rect = box.current?.getBoundingClientRect();
    if (!rect) return null;
    const [vx, vy] = [
      x.invert(((event.clientX - rect.left) / rect.width) * WIDTH),
      y.invert(((event.clientY - rect.top) / rect.height) * HEIGHT),
    ];
    return [clamp(vx, grid.x), clamp(vy, grid.y)];
  };
  const move = (event: PointerEvent) => {
    const value = valueAt(event);
    if (!value) return;
    onHover(cellAt(grid, value));
    if (dragged) {
      setDragged(value);
      onMove?.(value[0], value[1], false);
    }
  };
  const drop = () => {
    if (dragged) onMove?.(dragged[0], dragged[1], true);
    setDragged(null);
  };
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 4 : 1;
    const by: Record<string, readonly [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowDown: [0, -step],
      ArrowUp: [0, step],
    };
    const wish = by[event.key];
    if (!wish || !onMove) return;
    event.preventDefault();
    const [cx, cy] = [(grid.x[1] ?? 1) - (grid.x[0] ?? 0), (grid.y[1] ?? 1) - (grid.y[0] ?? 0)];
    onMove(clamp(here[0] + wish[0] * cx, grid.x), clamp(here[1] + wish[1] * cy, grid.y), true);
  };
  const name = `${grid.x_name} ${here[0].toFixed(0)} ${grid.x_unit}, ${grid.y_name} ${here[1].toFixed(1)} ${grid.y_unit}`;
  return (
    <div
      ref={box}
      className="relative touch-none select-none"
      onPointerMove={move}
      onPointerUp={drop}
      onPointerCancel={() => setDragged(null)}
      onPointerLeave={() => onHover(null)}
    >
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block h-auto w-full"
        role="img"
        aria-label={`Ratio map: ${grid.x_name} against ${grid.y_name}; this mix at ${name}`}
      >
        <defs>
          <pattern
            id={`${id}-curd`}
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="2.2" height="7" fill="var(--color-brick)" />
          </pattern>
          <clipPath id={`${id}-in`}>
            <rect
              x={PAD.left}
              y={PAD.top}
              width={WIDTH - PAD.left - PAD.right}
              height={HEIGHT - PAD.top - PAD.bottom}
            />
          </clipPath>
        </defs>
        <g clipPath={`url(#${id}-in)`}>
          {drawn.regions.map((d, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: regions stand in the order of their words
            <path key={i} d={d} fill={FILLS[i]} />
          ))}
          {drawn.curdled ? <path d={drawn.curdled} fill={`url(#${id}-curd)`} fillOpacity="0.55" /> : null}
          {drawn.nappe.map((line) => (
            <path
              key={line.at}
              d={line.d}
              fill="none"
              stroke="var(--color-slate)"
              strokeWidth="1"
              strokeDasharray="1 3"
              strokeLinecap="round"
            />
          ))}
          {drawn.boil ? (
            <path
              d={drawn.boil}
              fill="none"
              stroke="var(--color-brick)"
              strokeWidth="1.6"
              strokeDasharray="2 4"
            />
          ) : null}
        </g>
        <Axes grid={grid} x={x} y={y} />
        {drawn.nappe.map((line) => (
          <Halo key={line.at} x={line.x} y={line.y} size={11.5} fill="var(--color-slate)">
            {`nappe ${temperature(line.at, system, 0)}`}
          </Halo>
        ))}
        {drawn.boilAt ? (
          <Halo
            x={PAD.left + 8}
            y={Math.min(drawn.boilAt + 17, HEIGHT - PAD.bottom - 6)}
            size={12}
            fill="var(--color-brick)"
            anchor="start"
          >
            above the line it stands the boil
          </Halo>
        ) : null}
        {drawn.curdledAt ? (
          <Halo x={drawn.curdledAt[0]} y={drawn.curdledAt[1]} size={12.5} fill="var(--color-brick)">
            curdled by then
          </Halo>
        ) : null}
        {grid.labels.map(([word, lx, ly]) => (
          <Halo
            key={String(word)}
            x={clampTo(x(Number(lx)), PAD.left + 45, WIDTH - PAD.right - 45)}
            y={clear(
              clampTo(y(Number(ly)), PAD.top + 16, HEIGHT - PAD.bottom - 8),
              Math.abs(x(Number(lx)) - px) < 75 ? py : null,
            )}
            size={15}
            fill="var(--color-iron)"
            serif
          >
            {String(word)}
          </Halo>
        ))}
        <circle cx={px} cy={py} r="11" fill="none" stroke="var(--color-paper)" strokeWidth="7" />
        <circle
          cx={px}
          cy={py}
          r="11"
          fill="var(--color-paper)"
          stroke="var(--color-iron)"
          strokeWidth="3.5"
        />
        <circle cx={px} cy={py} r="3.5" fill="var(--color-iron)" />
      </svg>
      {onMove ? (
        <button
          type="button"
          aria-label={`This mix: ${name}. Arrow keys move it.`}
          className="absolute size-11 -translate-x-1/2 -translate-y-1/2 cursor-grab rounded-full"
          style={{ left: `${(100 * px) / WIDTH}%`, top: `${(100 * py) / HEIGHT}%` }}
          onKeyDown={onKey}
          onPointerDown={(event) => {
            box.current?.setPointerCapture(event.pointerId);
            setDragged([here[0], here[1]]);
          }}
        />
      ) : null}
    </div>
  );
}

interface HaloProps {
  x: number;
  y: number;
  size: number;
  fill: string;
  anchor?: "start" | "middle";
  serif?: boolean;
  children: string;
}

function Halo({ x, y, size, fill, anchor = "middle", serif = false, children }: HaloProps) {
  return (
    <text
      x={x}
      y={y}
      fontSize={size}
      textAnchor={anchor}
      fill={fill}
      stroke="var(--color-paper)"
      strokeWidth="3.5"
      paintOrder="stroke"
      strokeLinejoin="round"
      fontWeight={serif ? 600 : 500}
      className={serif ? "figure" : ""}
    >
      {children}
    </text>
  );
}

/** A label's height, moved off the dot when it would stand on it. */
function clear(y: number, dot: number | null): number {
  if (dot === null || Math.abs(y - 5 - dot) > 24) return y;
  return dot < HEIGHT / 2 ? dot + 34 : dot - 22;
}

type Scale = ReturnType<typeof scaleLinear<number, number>>;

function Axes({ grid, x, y }: { grid: RatioMapGrid; x: Scale; y: Scale }) {
  return (
    <g fontSize="12.5" fill="var(--color-soft)" className="tabular">
      <rect
        x={PAD.left}
        y={PAD.top}
        width={WIDTH - PAD.left - PAD.right}
        height={HEIGHT - PAD.top - PAD.bottom}
        fill="none"
        stroke="var(--color-iron)"
        strokeWidth="1.4"
      />
      {x.ticks(6).map((t) => (
        <g key={t}>
          <line
            x1={x(t)}
            x2={x(t)}
            y1={HEIGHT - PAD.bottom}
            y2={HEIGHT - PAD.bottom + 5}
            stroke="currentColor"
          />
          <text x={x(t)} y={HEIGHT - PAD.bottom + 18} textAnchor="middle">
            {t}
          </text>
        </g>
      ))}
      {y.ticks(5).map((t) => (
        <g key={t}>
          <line x1={PAD.left - 5} x2={PAD.left} y1={y(t)} y2={y(t)} stroke="currentColor" />
          <text x={PAD.left - 9} y={y(t) + 4} textAnchor="end">
            {t}
          </text>
        </g>
      ))}
      <text
        x={(PAD.left + WIDTH - PAD.right) / 2}
        y={HEIGHT - 5}
        textAnchor="middle"
        fill="var(--color-iron)"
      >
        {grid.x_name}, {grid.x_unit}
      </text>
      <text
        transform={`translate(12 ${(PAD.top + HEIGHT - PAD.bottom) / 2}) rotate(-90)`}
        textAnchor="middle"
        fill="var(--color-iron)"
      >
        {grid.y_name}, {grid.y_unit}
      </text>
    </g>
  );
}

const clampTo = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
const clamp = (v: number, axis: readonly number[]) => clampTo(v, axis[0] ?? v, axis.at(-1) ?? v);

function cellAt(grid: RatioMapGrid, [vx, vy]: readonly [number, number]): Cell | null {
  const column = nearest(grid.x, vx);
  const row = nearest(grid.y, vy);
  const stress = grid.stress_pa[row]?.[column];
  if (stress === undefined) return null;
  return {
    x: grid.x[column] ?? vx,
    y: grid.y[row] ?? vy,
    stress_pa: stress,
    nappe_c: grid.nappe_c[row]?.[column] ?? null,
    curdles_c: grid.curdles_c[row]?.[column] ?? null,
  };
}

function nearest(axis: readonly number[], value: number): number {
  const step = (axis[1] ?? 1) - (axis[0] ?? 0);
  return Math.round(clampTo((value - (axis[0] ?? 0)) / (step || 1), 0, axis.length - 1));
}

/** The regions and lines of a grid as paths; grid points become the corners of the drawing. */
function shapes(grid: RatioMapGrid, words: readonly (readonly [number, string])[]) {
  const [columns, rows] = [grid.x.length, grid.y.length];
  const px = (gx: number) => PAD.left + ((gx - 0.5) / (columns - 1)) * (WIDTH - PAD.left - PAD.right);
  const py = (gy: number) =>
    HEIGHT - PAD.bottom - ((gy - 0.5) / (rows - 1)) * (HEIGHT - PAD.top - PAD.bottom);
  const lines = contours().size([columns, rows]).smooth(true);
  const path = (values: number[], level: number) => outline(lines.contour(values, level).coordinates, px, py);
  const stress = grid.stress_pa.flat();
  const log = stress.map((v) => Math.log(Math.max(v, 1e-4)));
  const regions = [path(log, -99), ...words.map(([end]) => path(log, Math.log(end)))];
  const spare = margin(grid);
  const nappe = flat(grid.nappe_c, NEVER_C);
  const known = nappe.filter((v) => v < NEVER_C);
  const levels: number[] = [];
  if (known.length) {
    const low = Math.ceil(Math.min(...known) / NAPPE_EVERY_K) * NAPPE_EVERY_K;
    for (let t = low; t < Math.min(Math.max(...known), grid.lift_c + 8); t += NAPPE_EVERY_K) levels.push(t);
  }
  return {
    regions,
    curdled: path(
      spare.map((v) => -v),
      0,
    ),
    curdledAt: middleOf(
      spare.map((v) => v < 0),
      columns,
      px,
      py,
    ),
    boil: boiling(grid, path),
    boilAt: leftEdge(grid, py),
    nappe: apart(
      levels.flatMap((at) => {
        const place = topCrossing(grid, at, px, py);
        return place ? [{ at, d: path(nappe, at), x: place[0], y: place[1] }] : [];
      }),
    ),
  };
}

const LABEL_WIDTH = 74;

/** Of lines that crowd each other only some are drawn, so that every label can be read. */
function apart<T extends { x: number }>(lines: T[]): T[] {
  const kept: T[] = [];
  for (const line of lines.sort((a, b) => b.x - a.x))
    if (kept.every((other) => Math.abs(other.x - line.x) >= LABEL_WIDTH)) kept.push(line);
  return kept;
}

/** The line above which a cell comes to the boil before it curdles. */
function boiling(grid: RatioMapGrid, path: (values: number[], level: number) => string): string {
  const hottest = Math.max(0, ...grid.curdles_c.flat().map((v) => v ?? 0));
  return hottest ? path(flat(grid.curdles_c, hottest + 1.5), hottest + 0.2) : "";
}

function outline(rings: number[][][][], px: (g: number) => number, py: (g: number) => number): string {
  return rings
    .map((polygon) =>
      polygon
        .map(
          (ring) =>
            `M${ring.map(([gx, gy]) => `${px(gx ?? 0).toFixed(1)} ${py(gy ?? 0).toFixed(1)}`).join("L")}Z`,
        )
        .join(""),
    )
    .join("");
}

function middleOf(
  inside: boolean[],
  columns: number,
  px: (g: number) => number,
  py: (g: number) => number,
): [number, number] | null {
  const cells = inside.flatMap((yes, i) => (yes ? [i] : []));
  if (cells.length < inside.length / 12) return null;
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length;
  return [
    clampTo(px(mean(cells.map((i) => i % columns)) + 0.5), PAD.left + 60, WIDTH - PAD.right - 60),
    clampTo(
      py(mean(cells.map((i) => Math.floor(i / columns))) + 0.5),
      PAD.top + 18,
      HEIGHT - PAD.bottom - 10,
    ),
  ];
}

/** Where the line of the boil meets the left edge. */
function leftEdge(grid: RatioMapGrid, py: (g: number) => number): number | null {
  const row = grid.curdles_c.findIndex((cells) => cells[1] === null);
  return row > 0 ? py(row + 0.5) : null;
}

/** A place for a line's label: high up, where the line crosses the upper rows. */
function topCrossing(
  grid: RatioMapGrid,
  level: number,
  px: (g: number) => number,
  py: (g: number) => number,
): [number, number] | null {
  const row = Math.floor(grid.y.length * 0.88);
  const cells = grid.nappe_c[row] ?? [];
  for (let i = 1; i < cells.length; i++) {
    const [a, b] = [cells[i - 1] ?? NEVER_C, cells[i] ?? NEVER_C];
    if ((a - level) * (b - level) <= 0 && a !== b)
      return [clampTo(px(i + 0.5), PAD.left + 40, WIDTH - PAD.right - 40), py(row + 0.5)];
  }
  return null;
}
