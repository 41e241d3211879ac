/** Moves labels apart along a line so that none overlaps, keeping their order and staying within bounds. */
export function spread(wanted: readonly number[], gap: number, low: number, high: number): number[] {
  const order = wanted.map((_, i) => i).sort((a, b) => (wanted[a] ?? 0) - (wanted[b] ?? 0));
  const placed = order.map((i) => wanted[i] ?? 0);
  for (let i = 0; i < placed.length; i++) {
    const floor = i === 0 ? low : (placed[i - 1] ?? low) + gap;
    placed[i] = Math.max(placed[i] ?? low, floor);
  }
  for (let i = placed.length - 1; i >= 0; i--) {
    const ceiling = i === placed.length - 1 ? high : (placed[i + 1] ?? high) - gap;
    placed[i] = Math.min(placed[i] ?? high, ceiling);
  }
  const result = new Array<number>(wanted.length).fill(0);
  order.forEach((i, k) => {
    result[i] = placed[k] ?? 0;
  });
  return result;
}
