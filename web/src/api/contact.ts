import { useSyncExternalStore } from "react";
import { KEPT_AT } from "../kept";

/** When the kitchen was last heard from, and whether it is now. */
interface Contact {
  away: boolean;
  /** Milliseconds, by this device's clock. */
  heardAt: number;
}

let now: Contact = { away: false, heardAt: Date.now() };
const listeners = new Set<() => void>();

function set(next: Contact): void {
  const told = next.away !== now.away;
  now = next;
  if (told) for (const listener of listeners) listener();
}

/** An answer came: from the kitchen, or from what this device keeps. */
export function heard(response: Response): void {
  const kept = Number(response.headers.get(KEPT_AT)) || null;
  if (kept === null) set({ away: false, heardAt: Date.now() });
  else set({ away: true, heardAt: Math.max(kept, now.away ? now.heardAt : kept) });
}

/** No answer came. */
export function notHeard(): void {
  if (!now.away) set({ ...now, away: true });
}

/** Since when the kitchen was not heard from [ms]; null while it is. */
export function useAwaySince(): number | null {
  const contact = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => now,
  );
  return contact.away ? contact.heardAt : null;
}
