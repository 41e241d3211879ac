import { scaleLinear } from "d3-scale";
import { type KeyboardEvent, type PointerEvent, useId, useMemo, useRef, useState } from "react";
import { fixed } from "../kit/habits";
import type { UnitSystem } from "../kit/typed";
import { difference, temperature } from "../kit/units";
import { Axes, Halo } from "./RatioAxes";
import {
  type Cell,
  CLOSE_K,
  cellAt,
  clamp,
  clampTo,
  FILLS,
  HEIGHT,
  PAD,
  type RatioMapGrid,
  shapes,
  WIDTH,
} from "./ratioShapes";

interface Props {
  grid: RatioMapGrid;
  here: readonly [number, number];
  words: readonly (readonly [number, string])[];
  system: UnitSystem;
  onMove: ((x: number, y: number, done: boolean) => void) | null;
  onHover: (cell: Cell | null) => void;
}

type Drawn = ReturnType<typeof shapes>;

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
  const drop = (event: PointerEvent) => {
    const value = valueAt(event) ?? dragged;
    if (dragged && value) onMove?.(value[0], value[1], true);
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
  const name = `${grid.x_name} ${fixed(here[0], 0)} ${grid.x_unit}, ${grid.y_name} ${fixed(here[1], 1)} ${grid.y_unit}`;
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
        <Regions id={id} drawn={drawn} />
        <Axes grid={grid} x={x} y={y} />
        <LineLabels drawn={drawn} system={system} />
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

/** The regions by consistency, what has curdled, and the lines of lift, margin and boil. */
function Regions({ id, drawn }: { id: string; drawn: Drawn }) {
  return (
    <>
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
        {drawn.close ? (
          <path
            d={drawn.close}
            fill="none"
            stroke="var(--color-brick)"
            strokeWidth="1.2"
            strokeDasharray="8 3 2 3"
          />
        ) : null}
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
    </>
  );
}

/** What each line says. */
function LineLabels({ drawn, system }: { drawn: Drawn; system: UnitSystem }) {
  return (
    <>
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
      {drawn.closeAt ? (
        <Halo
          x={clampTo(drawn.closeAt[0], PAD.left + 75, WIDTH - PAD.right - 75)}
          y={drawn.closeAt[1] - 4}
          size={11.5}
          fill="var(--color-brick)"
        >
          {`curdles ${difference(CLOSE_K, system)} above the lift`}
        </Halo>
      ) : null}
      {drawn.curdledAt ? (
        <Halo x={drawn.curdledAt[0]} y={drawn.curdledAt[1]} size={12.5} fill="var(--color-brick)">
          curdled by then
        </Halo>
      ) : null}
    </>
  );
}

/** A label's height, moved off the dot when it would stand on it. */
function clear(y: number, dot: number | null): number {
  if (dot === null || Math.abs(y - 5 - dot) > 24) return y;
  return dot < HEIGHT / 2 ? dot + 34 : dot - 22;
}
