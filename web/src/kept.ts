/** What the service worker keeps for when there is no network, and how it says so. */

export const KEPT = "kept";
export const KEPT_AT = "X-Kept-At";

/** Nothing of one person is left on a shared device for the next. */
export function forgetKept(): void {
  if (typeof caches !== "undefined") void caches.delete(KEPT);
}
