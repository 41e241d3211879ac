/** Finding by what is typed: without accents or case, by any of the words a thing is called. */

export interface Findable {
  shown: string;
  also?: readonly string[];
}

export interface Found<T> {
  item: T;
  /** The other name it was found by; empty where it is its own. */
  by: string;
}

const bare = (text: string) =>
  text.toLowerCase().replaceAll("œ", "oe").replaceAll("ß", "ss").normalize("NFD").replace(/\p{M}/gu, "");

/** How well a name answers to what is typed: -1 is it, 0 begins so, 1 a word of it does, 2 it is in there; null not at all. */
function answers(name: string, wanted: string): number | null {
  const text = bare(name);
  if (text === wanted) return -1;
  if (text.startsWith(wanted)) return 0;
  if (text.split(/[^\p{L}\p{N}]+/u).some((word) => word.startsWith(wanted))) return 1;
  const parts = wanted.split(/\s+/);
  if (parts.length > 1 && parts.every((part) => text.includes(part))) return 1;
  return wanted.length > 2 && text.includes(wanted) ? 2 : null;
}

/** What answers to the words typed, the best first; everything in its own order while nothing is typed. */
export function foundIn<T extends Findable>(items: readonly T[], typed: string): Found<T>[] {
  const wanted = bare(typed.trim());
  if (!wanted) return items.map((item) => ({ item, by: "" }));
  const rows: (Found<T> & { rank: number })[] = [];
  const seen = new Set<string>();
  for (const item of items) {
    // Something may stand in the list twice: as usual here, and in its group.
    if (seen.has(item.shown)) continue;
    const own = answers(item.shown, wanted);
    let best: { rank: number; by: string } | null = own === null ? null : { rank: own, by: "" };
    for (const name of item.also ?? []) {
      const rank = answers(name, wanted);
      // A synonym counts a little less than the name itself.
      if (rank !== null && rank + 0.5 < (best?.rank ?? Number.POSITIVE_INFINITY))
        best = { rank: rank + 0.5, by: name };
    }
    if (!best) continue;
    seen.add(item.shown);
    rows.push({ item, ...best });
  }
  return rows.sort((a, b) => a.rank - b.rank).map(({ item, by }) => ({ item, by }));
}
