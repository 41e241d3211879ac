/**
 * Marks on their way to the server, kept on this device until they have arrived.
 *
 * A mark is written down here first and sent after, in order, one at a time. When the server cannot be
 * reached it stays and is tried again; its id makes sending it twice harmless. When the server refuses a
 * mark it is taken out and handed back with the reason, so that the person can mend it.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useSyncExternalStore } from "react";
import { Problem } from "./problem";
import { type Batch, type NewMark, sendMark } from "./queries";

const AGAIN_MS = 2500;

export interface Refused {
  mark: NewMark;
  problem: Problem;
}

interface State {
  waiting: readonly NewMark[];
  away: boolean;
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
    this.state = { waiting: this.kept(), away: false, refused: null };
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
      if (problem.away || problem.status === 401 || problem.status >= 500) {
        this.change({ away: true });
        this.timer = setTimeout(() => void this.flush(), AGAIN_MS);
        return false;
      }
      this.take(mark, { refused: { mark, problem } });
      return true;
    }
  }

  private take(mark: NewMark, more: Partial<State> = {}): void {
    const waiting = this.state.waiting.filter((other) => other.id !== mark.id);
    this.change({ waiting, away: this.state.away && waiting.length > 0, ...more });
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
    try {
      const found: unknown = JSON.parse(localStorage.getItem(this.key) ?? "[]");
      return Array.isArray(found) ? (found as NewMark[]) : [];
    } catch {
      return [];
    }
  }
}

/** The outbox of one batch, flushed while its page is open and whenever the connection comes back. */
export function useOutbox(kitchen: string, batchId: number) {
  const cache = useQueryClient();
  const outbox = useMemo(
    () =>
      new Outbox(
        `old-spoon:marks:${kitchen}:${batchId}`,
        (mark) => sendMark(kitchen, batchId, mark),
        (batch) => cache.setQueryData(["batch", kitchen, batchId], batch),
      ),
    [kitchen, batchId, cache],
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
