import { contours } from "d3-contour";

export interface RatioMapGrid {
  x_name: string;
  y_name: string;
  x_unit: string;
  y_unit: string;
  x: number[];
  y: number[];
  x_g: number[];
  y_g: number[];
  lift_c: number;
  boiled: boolean;
  stress_pa: number[][];
  film_mm: number[][];
  nappe_c: (number | null)[][];
  curdles_c: (number | null)[][];
  labels: (string | number)[][];
}

export interface Cell {
  x: number;
  y: number;
  x_g: number;
  y_g: number;
  stress_pa: number;
  film_mm: number;
  nappe_c: number | null;
  curdles_c: number | null;
}

export const WIDTH = 560;
export const HEIGHT = 330;
export const PAD = { left: 46, right: 10, top: 10, bottom: 40 };
export const FILLS = ["#eef0ee", "#f8f0d8", "#f6d98f", "#efc153", "#dd9b3a", "#c47a33"];
const NEVER_C = 200;
const NAPPE_EVERY_K = 2;
/** The curdle margin that is drawn as a line: nearer to curdling than this a cook has to be quick. */
export const CLOSE_K = 4;

const flat = (rows: (number | null)[][], none: number): number[] => rows.flat().map((v) => v ?? none);

/** Whether a cell curdles before it is lifted; hatched, because colour alone must not say it. */
function margin(grid: RatioMapGrid): number[] {
  return flat(grid.curdles_c, NEVER_C).map((curdles) => curdles - grid.lift_c);
}

export const clampTo = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
export const clamp = (v: number, axis: readonly number[]) => clampTo(v, axis[0] ?? v, axis.at(-1) ?? v);

export function cellAt(grid: RatioMapGrid, [vx, vy]: readonly [number, number]): Cell | null {
  const column = nearest(grid.x, vx);
  const row = nearest(grid.y, vy);
  const stress = grid.stress_pa[row]?.[column];
  if (stress === undefined) return null;
  return {
    x: grid.x[column] ?? vx,
    y: grid.y[row] ?? vy,
    x_g: grid.x_g[column] ?? 0,
    y_g: grid.y_g[row] ?? 0,
    stress_pa: stress,
    film_mm: grid.film_mm[row]?.[column] ?? 0,
    nappe_c: grid.nappe_c[row]?.[column] ?? null,
    curdles_c: grid.curdles_c[row]?.[column] ?? null,
  };
}

function nearest(axis: readonly number[], value: number): number {
  const step = (axis[1] ?? 1) - (axis[0] ?? 0);
  return Math.round(clampTo((value - (axis[0] ?? 0)) / (step || 1), 0, axis.length - 1));
}

/** The regions and lines of a grid as paths; grid points become the corners of the drawing. */
export function shapes(grid: RatioMapGrid, words: readonly (readonly [number, string])[]) {
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
    close: grid.boiled ? "" : path(spare, CLOSE_K),
    closeAt: !grid.boiled && spare.some((v) => v < CLOSE_K) ? edgeAt(spare, columns, CLOSE_K, px, py) : null,
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

/** A place on the line of the curdle margin for its words: its middle crossing. */
function edgeAt(
  spare: number[],
  columns: number,
  level: number,
  px: (g: number) => number,
  py: (g: number) => number,
): [number, number] | null {
  const crossings: [number, number][] = [];
  for (let i = columns; i < spare.length; i++) {
    const [below, above] = [spare[i - columns] ?? 0, spare[i] ?? 0];
    if (below < level && above >= level)
      crossings.push([px((i % columns) + 0.5), py(Math.floor(i / columns))]);
  }
  return crossings[Math.floor(crossings.length / 2)] ?? null;
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
