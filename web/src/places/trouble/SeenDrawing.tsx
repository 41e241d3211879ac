import type { ReactNode } from "react";

const IRON = "var(--color-iron)";
const YOLK = "var(--color-yolk)";
const PALE = "var(--color-yolk-pale)";
const BRICK = "var(--color-brick)";
const COPPER = "var(--color-copper)";
const SLATE = "var(--color-slate)";

const bowl = (fill: string) => (
  <path d="M4 13h28c0 9-6 15-14 15S4 22 4 13z" fill={fill} stroke={IRON} strokeWidth="1.6" />
);
const pan = (fill: string) => (
  <g stroke={IRON} strokeWidth="1.6">
    <path d="M4 11h22v14a3 3 0 0 1-3 3H7a3 3 0 0 1-3-3z" fill={fill} />
    <path d="M26 14h8" />
  </g>
);
const dots = (places: readonly (readonly [number, number])[], fill: string, r = 1.8) =>
  places.map(([x, y]) => <circle key={`${x} ${y}`} cx={x} cy={y} r={r} fill={fill} />);
const spoon = <path d="M18 3v10" stroke={IRON} strokeWidth="2.4" />;
const FEW = [
  [10, 18],
  [17, 22],
  [24, 17],
] as const;
const MANY = [...FEW, [13, 24], [21, 19], [27, 21], [9, 22], [18, 16]] as const;

const DRAWN: Record<string, ReactNode> = {
  "too-thin": (
    <>
      {spoon}
      <ellipse cx="18" cy="19" rx="6" ry="8" fill="none" stroke={IRON} strokeWidth="1.6" />
      <path d="M18 25v9M14 24v5M22 24v4" stroke={YOLK} strokeWidth="2" />
    </>
  ),
  "too-thick": (
    <>
      {spoon}
      <path
        d="M7 24c0-6 4-5 5-9 2-4 5 1 7-1 4 0 3 5 6 6 5 3 3 8-1 9H11c-3 0-4-2-4-5z"
        fill={YOLK}
        stroke={IRON}
        strokeWidth="1.6"
      />
    </>
  ),
  bits: (
    <>
      {bowl(PALE)}
      {dots(FEW, BRICK)}
    </>
  ),
  split: (
    <>
      {bowl("var(--color-slate-pale)")}
      <path d="M7 18c3-3 5 2 8-1s5 3 8 0 4 1 6 0c-1 6-5 9-11 9S8 24 7 18z" fill={YOLK} />
    </>
  ),
  lumps: (
    <>
      {bowl(PALE)}
      {dots(FEW, "var(--color-paper)", 3.2)}
      {FEW.map(([x, y]) => (
        <circle key={`${x}`} cx={x} cy={y} r="3.2" fill="none" stroke={IRON} />
      ))}
    </>
  ),
  caught: (
    <>
      {pan(PALE)}
      <path d="M5 26h20" stroke={COPPER} strokeWidth="3.4" />
      {dots(
        [
          [10, 19],
          [17, 16],
          [21, 21],
        ],
        COPPER,
        1.4,
      )}
    </>
  ),
  "cooked-egg-taste": (
    <>
      <ellipse cx="18" cy="20" rx="10" ry="12" fill="var(--color-paper)" stroke={IRON} strokeWidth="1.6" />
      <circle cx="18" cy="22" r="5" fill={YOLK} />
      <circle cx="18" cy="22" r="5" fill="none" stroke="var(--color-herb)" strokeWidth="1.8" />
    </>
  ),
  "raw-starch": (
    <>
      <path d="M9 12h18l2 20H7z" fill="var(--color-paper)" stroke={IRON} strokeWidth="1.6" />
      <path d="M9 12l3-7h12l3 7" fill="none" stroke={IRON} strokeWidth="1.6" />
      {dots(
        [
          [14, 20],
          [20, 24],
          [22, 18],
          [15, 27],
        ],
        IRON,
        0.9,
      )}
    </>
  ),
  skin: (
    <>
      {bowl(PALE)}
      <path d="M5 14c4 2 5-2 9 0s5-2 9 0 5-2 8 0" fill="none" stroke={COPPER} strokeWidth="2.4" />
    </>
  ),
  "yolk-grains": (
    <>
      <circle cx="18" cy="19" r="12" fill={YOLK} stroke={IRON} strokeWidth="1.6" />
      {dots(MANY, IRON, 1.2)}
    </>
  ),
  "thin-next-day": (
    <>
      <path d="M6 9h16v12H6z" fill="none" stroke={IRON} strokeWidth="1.6" />
      <path d="M6 13h16M10 6v5M18 6v5" stroke={IRON} strokeWidth="1.6" />
      <path d="M8 29c6-4 12 4 22-1" fill="none" stroke={YOLK} strokeWidth="3" />
    </>
  ),
  weeps: (
    <>
      {bowl(PALE)}
      <path d="M5 15h26" stroke={SLATE} strokeWidth="3" />
      <path d="M18 2c3 4 3 7 0 7s-3-3 0-7z" fill={SLATE} />
    </>
  ),
  collapsed: (
    <>
      {bowl(YOLK)}
      <path d="M6 12c1-5 4-3 6-1M24 11c2-3 5-3 6 1" fill="none" stroke={IRON} strokeWidth="1.6" />
      <path d="M18 2v8m-3-3 3 3 3-3" fill="none" stroke={BRICK} strokeWidth="1.8" />
    </>
  ),
  "fold-falls": (
    <>
      {bowl(PALE)}
      <path d="M9 10c0-6 8-6 8-1 4-4 10-1 8 3" fill="var(--color-paper)" stroke={IRON} strokeWidth="1.6" />
      <path d="M29 3v8m-3-3 3 3 3-3" fill="none" stroke={BRICK} strokeWidth="1.8" />
    </>
  ),
  chocolate: (
    <>
      <path d="M6 10h24v18H6z" fill={COPPER} stroke={IRON} strokeWidth="1.6" />
      <path d="M14 10v18M22 10v18M6 19h24" stroke={IRON} />
      <path d="M17 8l4 7-5 4 4 8" fill="none" stroke="var(--color-paper)" strokeWidth="2.2" />
    </>
  ),
  bath: (
    <>
      <path
        d="M6 20h24v9a2 2 0 0 1-2 2H8a2 2 0 0 1-2-2z"
        fill="var(--color-slate-pale)"
        stroke={IRON}
        strokeWidth="1.6"
      />
      <path d="M9 14h18c0 6-4 9-9 9s-9-3-9-9z" fill={PALE} stroke={IRON} strokeWidth="1.6" />
      <path
        d="M12 10c-2-2 2-3 0-6M18 10c-2-2 2-3 0-6M24 10c-2-2 2-3 0-6"
        fill="none"
        stroke={SLATE}
        strokeWidth="1.6"
      />
    </>
  ),
  churn: (
    <>
      <path d="M8 12h20l-2 18H10z" fill={PALE} stroke={IRON} strokeWidth="1.6" />
      <path d="M18 4v20M13 24h10M10 4h16" stroke={IRON} strokeWidth="1.8" />
    </>
  ),
  "ice-crystals": (
    <path
      d="M18 4v28M6 11l24 14M30 11L6 25M14 6l4 4 4-4M14 30l4-4 4 4M6 16l5-1-1-5M30 20l-5 1 1 5"
      fill="none"
      stroke={SLATE}
      strokeWidth="1.8"
    />
  ),
  cups: (
    <>
      <path d="M7 12h22l-3 18H10z" fill={PALE} stroke={IRON} strokeWidth="1.6" />
      <path d="M8 15c4-4 6 3 10 0s6 3 10 0" fill="none" stroke={IRON} strokeWidth="1.6" />
      {dots(
        [
          [14, 22],
          [20, 25],
          [22, 20],
        ],
        IRON,
        1.5,
      )}
    </>
  ),
  crust: (
    <>
      <path d="M4 15h28v6c0 4-3 7-7 7H11c-4 0-7-3-7-7z" fill={PALE} stroke={IRON} strokeWidth="1.6" />
      <path d="M5 14c6 5 20 5 26 0" fill="none" stroke={COPPER} strokeWidth="3.4" />
    </>
  ),
  "yolks-short": (
    <>
      <circle cx="11" cy="13" r="6" fill={YOLK} stroke={IRON} strokeWidth="1.6" />
      <circle cx="25" cy="13" r="6" fill={YOLK} stroke={IRON} strokeWidth="1.6" />
      <circle cx="18" cy="25" r="6" fill="none" stroke={BRICK} strokeWidth="1.8" strokeDasharray="3 3" />
    </>
  ),
  "too-little": (
    <>
      <path d="M4 10h28v16a3 3 0 0 1-3 3H7a3 3 0 0 1-3-3z" fill="none" stroke={IRON} strokeWidth="1.6" />
      <path d="M5 24h26v2a3 3 0 0 1-3 2H8a3 3 0 0 1-3-2z" fill={YOLK} />
    </>
  ),
  "pan-full": (
    <>
      {pan(YOLK)}
      <path d="M5 10c3-4 6 1 9-2s7 1 11 1" fill={YOLK} stroke={IRON} strokeWidth="1.6" />
      <path d="M4 14c-3 3-2 7-2 9" fill="none" stroke={YOLK} strokeWidth="2.4" />
    </>
  ),
};

/** A small drawing of what is seen; it says nothing that its name does not say. */
export function SeenDrawing({ fault }: { fault: string }) {
  return (
    <svg
      viewBox="0 0 36 36"
      width="36"
      height="36"
      aria-hidden="true"
      className="shrink-0"
      strokeLinecap="round"
    >
      {DRAWN[fault] ?? bowl(PALE)}
    </svg>
  );
}
