interface Props {
  /** Share of what was made that is left, 0 to 1. */
  share: number;
  look: "chilled" | "frozen" | "warm" | "past";
}

const WIDTH = 92;
const HEIGHT = 54;
const SLOPE = 6;
const FLOOR = 50;
const RIM = 4;
const FILLS = {
  chilled: "var(--color-yolk-pale)",
  frozen: "var(--color-slate-pale)",
  warm: "var(--color-yolk)",
  past: "var(--color-brick-pale)",
};

/** A tub from the side, with what is left in it; what is past its time is hatched. */
export function TubDrawing({ share, look }: Props) {
  const full = Math.min(1, Math.max(0, share));
  const top = FLOOR - full * (FLOOR - RIM);
  const inset = (y: number) => 8 + (SLOPE * (y - RIM)) / (FLOOR - RIM);
  const corners = [
    `${inset(top)},${top}`,
    `${WIDTH - inset(top)},${top}`,
    `${WIDTH - inset(FLOOR)},${FLOOR}`,
    `${inset(FLOOR)},${FLOOR}`,
  ].join(" ");
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} aria-hidden="true">
      <defs>
        <pattern id="past" width="6" height="6" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
          <line x1="0" y1="0" x2="0" y2="6" stroke="var(--color-brick)" strokeWidth="2" />
        </pattern>
      </defs>
      <polygon points={corners} fill={FILLS[look]} />
      {look === "past" ? <polygon points={corners} fill="url(#past)" fillOpacity="0.5" /> : null}
      {full > 0 ? (
        <line x1={inset(top)} x2={WIDTH - inset(top)} y1={top} y2={top} stroke="var(--color-iron)" />
      ) : null}
      <path
        d={`M8 ${RIM}L${8 + SLOPE} ${FLOOR}H${WIDTH - 8 - SLOPE}L${WIDTH - 8} ${RIM}`}
        fill="none"
        stroke="var(--color-iron)"
        strokeWidth="2"
      />
      <line x1="2" x2={WIDTH - 2} y1={FLOOR + 2} y2={FLOOR + 2} stroke="var(--color-iron)" strokeWidth="2" />
    </svg>
  );
}
