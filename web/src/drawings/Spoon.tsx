import { useId } from "react";
import type { FingerLine } from "../contract/words";
import { fixed } from "../kit/habits";

export interface SpoonFilm {
  film_mm: number;
  line: FingerLine;
  word: string;
}

interface Props {
  film: SpoonFilm;
  size?: number;
}

const OPAQUE_MM = 0.3;
const STANDS_MM = 2;

/** The coat in words: a film has a thickness, what stands by itself has none. */
export function coatText(film_mm: number): string {
  return film_mm < STANDS_MM ? `coat ${fixed(film_mm, 2)} mm` : "stands by itself";
}

const DROPS = { holds: 2, closes: 7, runs: 12 } as const;
const LINES = { holds: 9, closes: 4, runs: 0 } as const;

/**
 * The back of a metal spoon after a dip and a drawn finger line, from numbers: the thicker the film the more
 * it hides the metal and stands proud of it; a line that holds shows clean metal, one that closes a fading
 * seam, and what no longer flows sits there in a mound.
 */
export function Spoon({ film, size = 96 }: Props) {
  const id = useId();
  const opacity = 0.2 + 0.8 * Math.min(1, film.film_mm / OPAQUE_MM);
  const proud = Math.min(7, 2.4 * Math.log2(1 + 2 * film.film_mm));
  const mound = film.film_mm >= STANDS_MM;
  const lineHeight = LINES[film.line];
  return (
    <svg
      viewBox="0 0 64 128"
      height={size}
      width={size / 2}
      role="img"
      aria-label={`Spoon: ${film.word}, ${coatText(film.film_mm)}, the line ${film.line}`}
      className="block shrink-0"
    >
      <defs>
        <linearGradient id={`${id}-metal`} x1="0" x2="1">
          <stop offset="0" stopColor="#7f8388" />
          <stop offset="0.42" stopColor="#dfe2e4" />
          <stop offset="0.7" stopColor="#b3b7bb" />
          <stop offset="1" stopColor="#6d7176" />
        </linearGradient>
        <linearGradient id={`${id}-coat`} x1="0" x2="1">
          <stop offset="0" stopColor="#d99a2b" />
          <stop offset="0.42" stopColor="#f7e0a0" />
          <stop offset="1" stopColor="#dda53c" />
        </linearGradient>
        <clipPath id={`${id}-coated`}>
          <ellipse cx="32" cy="84" rx={22 + proud} ry={35 + proud} />
        </clipPath>
      </defs>
      <path d="M29.4 0 h5.2 l1.4 50 h-8 z" fill={`url(#${id}-metal)`} stroke="#5b5f63" strokeWidth="0.6" />
      <ellipse
        cx="32"
        cy="84"
        rx="23"
        ry="36"
        fill={`url(#${id}-metal)`}
        stroke="#5b5f63"
        strokeWidth="0.8"
      />
      <g clipPath={`url(#${id}-coated)`} opacity={opacity}>
        <rect x="0" y="60" width="64" height="68" fill={`url(#${id}-coat)`} />
        {lineHeight > 0 && !mound ? (
          <rect
            x={9 - proud / 2}
            y={88 - lineHeight / 2}
            width={46 + proud}
            height={lineHeight}
            fill={`url(#${id}-metal)`}
            opacity={film.line === "holds" ? 1 : 0.55}
          />
        ) : null}
      </g>
      {mound ? (
        <path
          d="M9 78 C7 62 20 66 22 58 C26 50 33 60 38 55 C46 52 44 64 52 66 C60 74 54 82 55 88 Z"
          fill={`url(#${id}-coat)`}
          stroke="#c98f2c"
          strokeWidth="1"
        />
      ) : (
        <path
          d={`M29 ${118 + proud / 2} q3 ${DROPS[film.line] + 6} 6 0 z`}
          fill="#e2ab3f"
          opacity={opacity}
        />
      )}
    </svg>
  );
}
