/**
 * Marks on their way to the server, kept on this device until they have arrived.
 *
 * A mark is written down here first and sent after, in order, all that wait in one go. When the server cannot be
 * reached it stays and is tried again; its id makes sending it twice harmless. When the server refuses
 * one of several they go one by one; the one it refuses is taken out and handed back with the reason, so that the person can mend it; unless it is the
 * person who may not send it, logged out or no cook any more: then it is kept for them.
 *
 * What is kept is kept for the person who marked it, in the kitchen where they did: the next one at the same
 * device never sends it.
 */
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useSyncExternalStore } from "react";
import { MarkStore, waitingUnder } from "./markStore";
import { Problem } from "./problem";
import { type Batch, type NewMark, sendMarks, useSession } from "./queries";
import { refetchAfterChange } from "./refetchAfterChange";

const AGAIN_MS = 2500;
/** So many marks are sent in one go at most. */
const AT_ONCE = 100;

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

  private readonly store: MarkStore;

  constructor(
    key: string,
    private readonly send: (marks: readonly NewMark[]) => Promise<Batch>,
    private readonly arrived: (batch: Batch) => void,
  ) {
    this.store = new MarkStore(key);
    this.state = { waiting: this.store.read(), away: false, barred: null, refused: null };
  }

  /** Follow what other tabs on this batch mark and send; returns how to stop. */
  follow = (): (() => void) => this.store.listen(() => this.change({}));

  read = (): State => this.state;

  listen = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  add(mark: NewMark): void {
    this.store.add(mark);
    this.change({ refused: null });
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
      // What is marked in one go is sent in one go.
      await Promise.resolve();
      let together = true;
      while (this.state.waiting.length) {
        const marks = together ? this.state.waiting.slice(0, AT_ONCE) : this.state.waiting.slice(0, 1);
        const came = await this.try(marks);
        if (came === "later") break;
        // One of them was refused: which one shows when they go alone.
        if (came === "one by one") together = false;
      }
    } finally {
      this.sending = false;
    }
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  private async try(marks: readonly NewMark[]): Promise<"sent" | "later" | "one by one"> {
    try {
      const batch = await this.send(marks);
      this.take(marks);
      this.arrived(batch);
      return "sent";
    } catch (error) {
      const problem = error instanceof Problem ? error : new Problem(0, String(error));
      if (problem.away || mayNot(problem) || problem.status >= 500) {
        this.change({ away: true, barred: mayNot(problem) ? problem.message : null });
        this.timer = setTimeout(() => void this.flush(), AGAIN_MS);
        return "later";
      }
      const [mark, ...more] = marks;
      if (!mark || more.length) return "one by one";
      this.take(marks, { refused: { mark, problem } });
      return "sent";
    }
  }

  private take(marks: readonly NewMark[], more: Partial<State> = {}): void {
    this.store.remove(new Set(marks.map((mark) => mark.id)));
    this.change({ away: this.state.away && this.store.read().length > 0, barred: null, ...more });
  }

  private change(more: Partial<Omit<State, "waiting">>): void {
    this.state = { ...this.state, ...more, waiting: this.store.read() };
    for (const listener of this.listeners) listener();
  }
}

/** Whether it is the person who may not send it, and not the mark that is wrong. */
function mayNot(problem: Problem): boolean {
  return problem.status === 401 || problem.status === 403 || problem.kind === "someone-else";
}

/** Where a person's marks of a kitchen are kept; names hold no colon that is not written otherwise. */
function shelf(kitchen: string, person: string): string {
  return `old-spoon:marks:${kitchen}:${encodeURIComponent(person)}:`;
}

/** How many marks of a person this device still keeps, by batch. */
export function unsent(kitchen: string, person: string): { batch: number; marks: number }[] {
  return waitingUnder(shelf(kitchen, person));
}

/** The outbox of one batch, flushed while its page is open and whenever the connection comes back. */
export function useOutbox(kitchen: string, batchId: number) {
  const cache = useQueryClient();
  const person = useSession().data?.person?.username ?? "";
  const outbox = useMemo(
    () =>
      new Outbox(
        `${shelf(kitchen, person)}${batchId}`,
        (marks) =>
          sendMarks(
            kitchen,
            batchId,
            marks.map((mark) => ({ ...mark, by: person })),
          ),
        (batch) => {
          const queryKey = ["batch", kitchen, batchId];
          // What is being fetched may have been read before these marks: it does not take their place.
          const fetching = cache.isFetching({ queryKey }) > 0;
          cache.setQueryData(queryKey, batch);
          if (fetching) void refetchAfterChange(cache, queryKey);
        },
      ),
    [kitchen, person, batchId, cache],
  );
  useEffect(() => {
    const flush = () => void outbox.flush();
    flush();
    window.addEventListener("online", flush);
    const unfollow = outbox.follow();
    return () => {
      unfollow();
      window.removeEventListener("online", flush);
      outbox.stop();
    };
  }, [outbox]);
  const state = useSyncExternalStore(outbox.listen, outbox.read);
  const add = useCallback((mark: NewMark) => outbox.add(mark), [outbox]);
  const forgetRefusal = useCallback(() => outbox.forgetRefusal(), [outbox]);
  return { ...state, add, forgetRefusal };
}
