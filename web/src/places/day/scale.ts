/** Where a minute lies on the page. */

export interface Span {
  start: number;
  end: number;
}

export interface Scale {
  /** From the top [px]. */
  y: (minute: number) => number;
  /** The minute at so many pixels from the top. */
  minute: (y: number) => number;
  height: number;
  from: number;
  to: number;
}

const PX_A_MIN = 1.25;
const IDLE_PX_A_MIN = 0.45;
const LEAST_PX = 28;

/**
 * A day as a paper list: where something is done there is room to read it, and empty hours take little. Order
 * and side by side are as in time; lengths only where a step is long enough to be read anyhow.
 */
export function scaleOf(busy: readonly Span[], marks: readonly number[], from: number, to: number): Scale {
  const cuts = new Set([from, to, ...marks]);
  for (const one of busy) {
    cuts.add(one.start);
    cuts.add(one.end);
  }
  const at = [...cuts].filter((one) => one >= from && one <= to).sort((one, other) => one - other);
  const height = at.slice(1).map((end, n) => {
    const start = at[n] as number;
    const works = busy.some((one) => one.start < end && one.end > start);
    return (end - start) * (works ? PX_A_MIN : IDLE_PX_A_MIN);
  });
  const place = new Map(at.map((minute, n) => [minute, n]));
  const inOrder = [...busy].sort((one, other) => one.end - one.start - (other.end - other.start));
  for (const one of inOrder) {
    const first = place.get(Math.max(from, one.start));
    const last = place.get(Math.min(to, one.end));
    if (first === undefined || last === undefined || last <= first) continue;
    const tall = height.slice(first, last).reduce((sum, px) => sum + px, 0);
    if (tall < LEAST_PX)
      for (let n = first; n < last; n++) height[n] = ((height[n] as number) * LEAST_PX) / tall;
  }
  const tops = [0];
  for (const px of height) tops.push((tops.at(-1) as number) + px);
  const between = (value: number, xs: readonly number[], ys: readonly number[]) => {
    let n = xs.findIndex((x) => x >= value);
    if (n < 0) n = xs.length - 1;
    if (n === 0) n = 1;
    const [x0, x1, y0, y1] = [xs[n - 1] ?? 0, xs[n] ?? 1, ys[n - 1] ?? 0, ys[n] ?? 0];
    const share = x1 === x0 ? 0 : (value - x0) / (x1 - x0);
    return y0 + Math.min(1, Math.max(0, share)) * (y1 - y0);
  };
  return {
    y: (minute) => between(minute, at, tops),
    minute: (y) => between(y, tops, at),
    height: tops.at(-1) ?? 0,
    from,
    to,
  };
}

/** Labels so tall [px] pushed down so that none lies on the one before. */
export function apart(wanted: readonly number[], tall: readonly number[]): number[] {
  const found: number[] = [];
  wanted.forEach((y, n) => {
    const before = found.at(-1);
    found.push(before === undefined ? y : Math.max(y, before + (tall[n - 1] ?? 0)));
  });
  return found;
}
