import { scaleLinear } from "d3-scale";
import { useId } from "react";
import { bandsOf, RulePatterns, type RuleWindow } from "./Rule";

interface Props {
  window: RuleWindow | null;
  boiling_c: number;
  stop_c: number;
  /** What the probe reads; nothing is drawn of it where there is none. */
  celsius: number | null;
  /** It cools: the cold end is shown instead of the bands. */
  cools: boolean;
}

const TALL = 112;
const COLD_C = 5;

/** The rule on end, small, to be seen from across the room: a ring where the sauce is. */
export function StandingRule({ window, boiling_c, stop_c, celsius, cools }: Props) {
  const id = useId();
  const y = scaleLinear(cools ? [0, 90] : [60, 104], [TALL - 1, 1]).clamp(true);
  const bands = window && !cools ? bandsOf({ window, stop_c, boiling_c }) : null;
  const strip = ([from, to]: readonly [number, number], fill: string) => (
    <rect x="1" y={y(to)} width="28" height={Math.max(2, y(from) - y(to))} fill={fill} />
  );
  return (
    <svg viewBox={`0 0 30 ${TALL}`} className="block h-full max-h-28 w-8" aria-hidden="true">
      <RulePatterns id={id} />
      <rect x="1" y="1" width="28" height={TALL - 2} fill="var(--color-paper)" />
      {cools ? strip([0, COLD_C], "var(--color-slate)") : null}
      {bands?.thickens && strip(bands.thickens, `url(#${id}-dots)`)}
      {bands?.nappe && strip(bands.nappe, "var(--color-yolk)")}
      {bands?.curdles && strip(bands.curdles, `url(#${id}-hatch)`)}
      <rect x="1" y="1" width="28" height={TALL - 2} fill="none" stroke="var(--color-iron)" strokeWidth="2" />
      {celsius === null ? null : (
        <circle
          cx="15"
          cy={Math.min(TALL - 11, Math.max(11, y(celsius)))}
          r="8.5"
          fill="var(--color-paper)"
          stroke="var(--color-iron)"
          strokeWidth="4"
        />
      )}
    </svg>
  );
}
