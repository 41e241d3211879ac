import type { scaleLinear } from "d3-scale";
import { HEIGHT, PAD, type RatioMapGrid, WIDTH } from "./ratioShapes";

export type Scale = ReturnType<typeof scaleLinear<number, number>>;

/** The frame of a ratio map, its ticks and the names of its handles. */
export function Axes({ grid, x, y }: { grid: RatioMapGrid; x: Scale; y: Scale }) {
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

interface HaloProps {
  x: number;
  y: number;
  size: number;
  fill: string;
  anchor?: "start" | "middle";
  serif?: boolean;
  children: string;
}

/** A word on the map, readable on any ground. */
export function Halo({ x, y, size, fill, anchor = "middle", serif = false, children }: HaloProps) {
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
