/**
 * Marks that wait on this device, each under a key of its own: two tabs on one batch never overwrite each other.
 *
 * A key is `old-spoon:marks:KITCHEN:PERSON:BATCH:MARK`; kitchens and marks hold no colon, a person's name is encoded.
 */
import type { NewMark } from "./queries";

interface Stored {
  /** Where it stands among the others, whichever tab it came from. */
  place: number;
  mark: NewMark;
}

export class MarkStore {
  /** Marks that the store would not take: they live as long as the page. */
  private unstored: Stored[] = [];
  private last = 0;

  constructor(private readonly key: string) {
    this.divide();
  }

  /** All that waits for this batch, of every tab, in the order in which it was marked. */
  read(): NewMark[] {
    return [...storedUnder(`${this.key}:`), ...this.unstored]
      .sort((one, other) => one.place - other.place)
      .map(({ mark }) => mark);
  }

  add(mark: NewMark): void {
    this.last = Math.max(this.last + 0.001, performance.timeOrigin + performance.now());
    const stored = { place: this.last, mark };
    try {
      localStorage.setItem(`${this.key}:${mark.id}`, JSON.stringify(stored));
    } catch {
      this.unstored.push(stored);
    }
  }

  remove(ids: ReadonlySet<string>): void {
    this.unstored = this.unstored.filter(({ mark }) => !ids.has(mark.id));
    for (const id of ids) quietly(() => localStorage.removeItem(`${this.key}:${id}`));
  }

  /** Call back when another tab adds or removes something of this batch; returns how to stop. */
  listen(changed: () => void): () => void {
    const heard = (event: StorageEvent) => {
      if (event.key === null || event.key.startsWith(`${this.key}:`)) changed();
    };
    window.addEventListener("storage", heard);
    return () => window.removeEventListener("storage", heard);
  }

  /** A version before this one kept all marks of a batch in one list. */
  private divide(): void {
    quietly(() => {
      const list = localStorage.getItem(this.key);
      if (list === null) return;
      localStorage.removeItem(this.key);
      const found: unknown = JSON.parse(list);
      if (Array.isArray(found)) for (const mark of found as NewMark[]) this.add(mark);
    });
  }
}

/** How many marks wait on this device under keys that begin so, by batch. */
export function waitingUnder(begins: string): { batch: number; marks: number }[] {
  const counted = new Map<number, number>();
  for (const key of keysUnder(begins)) {
    const [batch, mark] = key.slice(begins.length).split(":");
    const many = mark === undefined ? listed(key) : 1;
    if (many) counted.set(Number(batch), (counted.get(Number(batch)) ?? 0) + many);
  }
  return [...counted]
    .map(([batch, marks]) => ({ batch, marks }))
    .sort((one, other) => one.batch - other.batch);
}

/** How many marks are in the list that a version before this one kept. */
function listed(key: string): number {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? "[]");
    return Array.isArray(found) ? found.length : 0;
  } catch {
    return 0;
  }
}

function keysUnder(begins: string): string[] {
  const keys = Array.from({ length: localStorage.length }, (_, place) => localStorage.key(place) ?? "");
  return keys.filter((key) => key.startsWith(begins));
}

function storedUnder(begins: string): Stored[] {
  return keysUnder(begins).flatMap((key) => {
    try {
      const found = JSON.parse(localStorage.getItem(key) ?? "") as Stored;
      return found?.mark?.id ? [found] : [];
    } catch {
      return [];
    }
  });
}

function quietly(work: () => void): void {
  try {
    work();
  } catch {
    // A forbidden or broken store: what is in memory still goes out.
  }
}
