import type { Did, Picture } from "./practice";
import { Problem } from "./problem";

/** What the player asks of the world: who sends a message, what time it is [ms]. */
interface World {
  send: (body: { after: number; acts: Did[]; until: number }) => Promise<{
    after: number;
    picture: Picture;
    ended: boolean;
  }>;
  now: () => number;
}

export interface Playing {
  picture: Picture;
  running: boolean;
  ended: boolean;
  /** Why time stands though nobody stopped it; null while all is well. */
  trouble: string | null;
  /** Somebody else went on with it: what is shown is not what is. */
  outOfStep: boolean;
}

/** So often a message goes: five pictures a second. */
export const EVERY_MS = 200;
/** Longer than this nobody stirs; then time stands until it is given up [s]. */
const LONGEST_S = 3599;
const LATE_MS = 1500;
const AWAY = "The kitchen does not answer. Time stands; nothing is lost.";

/**
 * The clock of an attempt and its messages: one at a time, in order, each until it was answered. What is done
 * meanwhile waits for the next. Time goes on only while it is told to and while somebody answers.
 */
export class Player {
  private acts: Did[] = [];
  private sent: { after: number; acts: Did[]; until: number } | null = null;
  private sentAt = 0;
  private busy = false;
  private goneAt: number | null = null;
  private listeners = new Set<() => void>();
  private state: Playing;

  constructor(
    private after: number,
    private at_s: number,
    picture: Picture,
    ended: boolean,
    private world: World,
  ) {
    this.state = { picture, running: false, ended, trouble: null, outOfStep: false };
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = () => this.state;

  /** Since the beginning [s]. */
  time(): number {
    if (this.goneAt === null) return this.at_s;
    const gone = this.world.now() - this.goneAt;
    // While an answer is long in coming time stands, so that nobody cooks blind.
    const waits = this.busy ? Math.max(0, this.world.now() - this.sentAt - LATE_MS) : 0;
    return Math.min(LONGEST_S, this.at_s + Math.max(0, gone - waits) / 1000);
  }

  start() {
    if (this.state.ended || this.state.running) return;
    this.goneAt = this.world.now();
    this.set({ running: true });
  }

  pause() {
    if (!this.state.running) return;
    this.at_s = this.time();
    this.goneAt = null;
    this.set({ running: false });
  }

  /** Something is done now. */
  act(what: string, told: Record<string, number | string> = {}) {
    if (!this.state.running || this.state.ended) return;
    this.acts.push({ at: round(this.time()), do: what, ...told });
  }

  /** Send what was done and see what came of it; call it `EVERY_MS`. */
  async tick(): Promise<void> {
    if (this.busy || (!this.state.running && !this.sent && this.acts.length === 0)) return;
    if (!this.sent) {
      this.stand();
      this.sent = { after: this.after, acts: this.acts, until: round(this.at_s) };
      this.acts = [];
    }
    this.busy = true;
    this.sentAt = this.world.now();
    try {
      const shown = await this.world.send(this.sent);
      this.stand();
      this.busy = false;
      this.sent = null;
      this.after = shown.after;
      // Time that stood goes on, now that somebody answers.
      this.goneAt = this.state.running && !shown.ended ? this.world.now() : null;
      this.set({
        picture: shown.picture,
        ended: shown.ended,
        running: this.state.running && !shown.ended,
        trouble: null,
      });
    } catch (error) {
      this.stand();
      this.busy = false;
      this.refused(error);
    }
  }

  private refused(error: unknown) {
    const problem = error instanceof Problem ? error : null;
    if (problem?.kind === "out-of-step") {
      this.goneAt = null;
      this.set({ running: false, outOfStep: true, trouble: problem.message });
      return;
    }
    if (problem && problem.status >= 400 && problem.status < 500 && problem.status !== 429) {
      // What cannot be is not sent again for ever.
      this.sent = null;
      this.set({ trouble: problem.message });
      return;
    }
    this.goneAt = null;
    this.set({ trouble: AWAY });
  }

  /** The clock is read, and goes on from there. */
  private stand() {
    this.at_s = this.time();
    if (this.goneAt !== null) this.goneAt = this.world.now();
  }

  private set(some: Partial<Playing>) {
    this.state = { ...this.state, ...some };
    for (const listener of this.listeners) listener();
  }
}

function round(seconds: number): number {
  return Math.round(seconds * 1000) / 1000;
}
