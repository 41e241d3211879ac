import { useSyncExternalStore } from "react";

/** Whether the screen is at least so wide [px], as it turns. */
export function useWide(px: number): boolean {
  const query = `(min-width: ${px}px)`;
  return useSyncExternalStore(
    (listener) => {
      const list = window.matchMedia(query);
      list.addEventListener("change", listener);
      return () => list.removeEventListener("change", listener);
    },
    () => window.matchMedia(query).matches,
  );
}
