/** Where things lie in the drawn pan: the core's spots, and dots that stay where they are from one picture to the next. */

export const RADIUS = 100;
/** Spots from the middle out, all of one area, as the core counts them. */
const RINGS = [1, 4, 8] as const;
const AREA = RINGS.reduce((sum, count) => sum + count, 0);
const EDGES = RINGS.map((_, ring) =>
  Math.sqrt(RINGS.slice(0, ring + 1).reduce((sum, count) => sum + count, 0) / AREA),
);

export interface Place {
  x: number;
  y: number;
}

/** A point of the pan on the drawing: the pan's radius is 1, and far is up. */
export function drawn({ x, y }: Place): Place {
  return { x: RADIUS * x, y: -RADIUS * y };
}

/** The outline of a spot. */
export function spotPath(spot: number): string {
  if (spot === 0) return ringPath(0, EDGES[0] ?? 0, 0, 1);
  const inner = spot <= RINGS[1];
  const place = inner ? spot - 1 : spot - 1 - RINGS[1];
  const [from, to] = inner ? [EDGES[0], EDGES[1]] : [EDGES[1], EDGES[2]];
  return ringPath(from ?? 0, to ?? 1, place, inner ? RINGS[1] : RINGS[2]);
}

/** The middle of a spot, over the radius of the pan. */
export function spotCentre(spot: number): Place {
  if (spot === 0) return { x: 0, y: 0 };
  const inner = spot <= RINGS[1];
  const place = inner ? spot - 1 : spot - 1 - RINGS[1];
  const radius = inner ? ((EDGES[0] ?? 0) + (EDGES[1] ?? 0)) / 2 : ((EDGES[1] ?? 0) + 1) / 2;
  const turn = (2 * Math.PI * place) / (inner ? RINGS[1] : RINGS[2]);
  return { x: radius * Math.cos(turn), y: radius * Math.sin(turn) };
}

function ringPath(from: number, to: number, place: number, count: number): string {
  const half = Math.PI / count;
  const middle = (2 * Math.PI * place) / count;
  const at = (radius: number, turn: number) => {
    const { x, y } = drawn({ x: radius * Math.cos(turn), y: radius * Math.sin(turn) });
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  };
  if (count === 1) {
    const r = (to * RADIUS).toFixed(1);
    return `M -${r} 0 a ${r} ${r} 0 1 0 ${2 * Number(r)} 0 a ${r} ${r} 0 1 0 -${2 * Number(r)} 0`;
  }
  const [a, b] = [middle - half, middle + half];
  const [outer, inner] = [(to * RADIUS).toFixed(1), (from * RADIUS).toFixed(1)];
  return `M ${at(from, a)} L ${at(to, a)} A ${outer} ${outer} 0 0 0 ${at(to, b)} L ${at(from, b)} A ${inner} ${inner} 0 0 1 ${at(from, a)} Z`;
}

export interface Dot extends Place {
  r: number;
}

/** Dots over the pan, evenly and without order, always the same. */
export function dots(count: number, seed: number, least: number, most: number): Dot[] {
  let state = seed;
  const random = () => {
    state = (state * 16807) % 2147483647;
    return state / 2147483647;
  };
  return Array.from({ length: count }, (_, i) => {
    // The golden angle spreads them; a little chance keeps them from looking laid out.
    const radius = Math.sqrt((i + random()) / count) * 0.97;
    const turn = 2.39996 * i + 0.9 * random();
    return {
      x: radius * Math.cos(turn),
      y: radius * Math.sin(turn),
      r: least + (most - least) * random() ** 2,
    };
  });
}

/** Where a whisk that goes round by itself is: all over the pan every few seconds. */
export function spiral(seconds: number): Place {
  const radius = 0.12 + 0.75 * Math.abs(((seconds / 2.2) % 2) - 1);
  const turn = (2 * Math.PI * seconds) / 1.1;
  return { x: radius * Math.cos(turn), y: radius * Math.sin(turn) };
}
