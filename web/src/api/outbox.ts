/**
 * Marks on their way to the server, kept on this device until they have arrived.
 *
 * A mark is written down here first and sent after, in order, one at a time. When the server cannot be
 * reached it stays and is tried again; its id makes sending it twice harmless. When the server refuses a
 * mark it is taken out and handed back with the reason, so that the person can mend it; unless it is the
 * person who may not send it, logged out or no cook any more: then it is kept for them.
 *
 * What is kept is kept for the person who marked it, in the kitchen where they did: the next one at the same
 * device never sends it.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useSyncExternalStore } from "react";
import { Problem } from "./problem";
import { type Batch, type NewMark, sendMark, useSession } from "./queries";

const AGAIN_MS = 2500;

export interface Refused {
  mark: NewMark;
  problem: Problem;
}

interface State {
  waiting: readonly NewMark[];
  away: boolean;
  /** Why the person may not send what is kept; null when it is only the connection that is missing. */
  barred: string | null;
  refused: Refused | null;
}

export class Outbox {
  private state: State;
  private listeners = new Set<() => void>();
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly key: string,
    private readonly send: (mark: NewMark) => Promise<Batch>,
    private readonly arrived: (batch: Batch) => void,
  ) {
    this.state = { waiting: this.kept(), away: false, barred: null, refused: null };
  }

  read = (): State => this.state;

  listen = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  add(mark: NewMark): void {
    this.change({ waiting: [...this.state.waiting, mark], refused: null });
    void this.flush();
  }

  forgetRefusal(): void {
    this.change({ refused: null });
  }

  async flush(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    clearTimeout(this.timer);
    try {
      for (let mark = this.state.waiting[0]; mark; mark = this.state.waiting[0]) {
        if (!(await this.try(mark))) break;
      }
    } finally {
      this.sending = false;
    }
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private async try(mark: NewMark): Promise<boolean> {
    try {
      const batch = await this.send(mark);
      this.take(mark);
      this.arrived(batch);
      return true;
    } catch (error) {
      const problem = error instanceof Problem ? error : new Problem(0, String(error));
      if (problem.away || mayNot(problem) || problem.status >= 500) {
        this.change({ away: true, barred: mayNot(problem) ? problem.message : null });
        this.timer = setTimeout(() => void this.flush(), AGAIN_MS);
        return false;
      }
      this.take(mark, { refused: { mark, problem } });
      return true;
    }
  }

  private take(mark: NewMark, more: Partial<State> = {}): void {
    const waiting = this.state.waiting.filter((other) => other.id !== mark.id);
    this.change({ waiting, away: this.state.away && waiting.length > 0, barred: null, ...more });
  }

  private change(more: Partial<State>): void {
    this.state = { ...this.state, ...more };
    try {
      if (this.state.waiting.length) localStorage.setItem(this.key, JSON.stringify(this.state.waiting));
      else localStorage.removeItem(this.key);
    } catch {
      // A full or forbidden store loses only what survives a reload; the marks still go out from memory.
    }
    for (const listener of this.listeners) listener();
  }

  private kept(): NewMark[] {
    return keptIn(this.key);
  }
}

/** Whether it is the person who may not send it, and not the mark that is wrong. */
function mayNot(problem: Problem): boolean {
  return problem.status === 401 || problem.status === 403 || problem.kind === "someone-else";
}

function keptIn(key: string): NewMark[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(key) ?? "[]");
    return Array.isArray(found) ? (found as NewMark[]) : [];
  } catch {
    return [];
  }
}

/** Where a person's marks of a kitchen are kept; names hold no colon that is not written otherwise. */
function shelf(kitchen: string, person: string): string {
  return `old-spoon:marks:${kitchen}:${encodeURIComponent(person)}:`;
}

/** How many marks of a person this device still keeps, by batch. */
export function unsent(kitchen: string, person: string): { batch: number; marks: number }[] {
  const begins = shelf(kitchen, person);
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(begins))
    .map((key) => ({ batch: Number(key.slice(begins.length)), marks: keptIn(key).length }))
    .filter((one) => one.marks > 0)
    .sort((one, other) => one.batch - other.batch);
}

/** The outbox of one batch, flushed while its page is open and whenever the connection comes back. */
export function useOutbox(kitchen: string, batchId: number) {
  const cache = useQueryClient();
  const person = useSession().data?.person?.username ?? "";
  const outbox = useMemo(
    () =>
      new Outbox(
        `${shelf(kitchen, person)}${batchId}`,
        (mark) => sendMark(kitchen, batchId, { ...mark, by: person }),
        (batch) => cache.setQueryData(["batch", kitchen, batchId], batch),
      ),
    [kitchen, person, batchId, cache],
  );
  useEffect(() => {
    const flush = () => void outbox.flush();
    flush();
    window.addEventListener("online", flush);
    return () => {
      window.removeEventListener("online", flush);
      outbox.stop();
    };
  }, [outbox]);
  const state = useSyncExternalStore(outbox.listen, outbox.read);
  const add = useCallback((mark: NewMark) => outbox.add(mark), [outbox]);
  const forgetRefusal = useCallback(() => outbox.forgetRefusal(), [outbox]);
  return { ...state, add, forgetRefusal };
}
