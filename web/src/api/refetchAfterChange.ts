import type { QueryClient } from "@tanstack/react-query";

/**
 * Fetch again whatever lies under a key, since it has changed on the server.
 *
 * A first fetch that is still on its way may have been answered before the change, and asking again would only
 * join it: it is waited for, and what it brought is fetched again.
 */
export async function refetchAfterChange(
  cache: QueryClient,
  queryKey: readonly unknown[] = [],
): Promise<void> {
  const first = cache
    .getQueryCache()
    .findAll({ queryKey, fetchStatus: "fetching" })
    .filter((query) => query.state.data === undefined);
  await Promise.allSettled(first.map((query) => query.promise));
  await cache.invalidateQueries({ queryKey });
}
