/**
 * What stays when the network goes: the application itself, and what this device read last of batches and their
 * plans. Nothing is answered from here while the kitchen answers, and what is says since when it was kept.
 */
/// <reference lib="webworker" />
import type { WorkboxPlugin } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import { cleanupOutdatedCaches, matchPrecache, precacheAndRoute } from "workbox-precaching";
import { registerRoute, setCatchHandler } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";
import { KEPT, KEPT_AT } from "./kept";

declare const self: ServiceWorkerGlobalScope;

const WAITS_S = 4;
const LONGEST_S = 2 * 24 * 3600;
const MOST = 150;

void self.skipWaiting();
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);

/** What is read again without a network: who one is, the kitchens, the stove, batches, days, the shelf. */
const READ_AGAIN =
  /^\/api\/(session|kitchens|larder|k\/[^/]+(\/(batches(\/\d+(\/(live|pours|guests|life))?)?|urgent|upcoming|hearth|shelf|days(\/[\d-]+)?|formulas(\/\d+)?|devices|log))?)$/;

registerRoute(
  ({ url, request }) =>
    request.method === "GET" && url.origin === self.location.origin && READ_AGAIN.test(url.pathname),
  new NetworkFirst({
    cacheName: KEPT,
    networkTimeoutSeconds: WAITS_S,
    plugins: [
      // Its type leaves a part out that ours asks to be said.
      new ExpirationPlugin({
        maxEntries: MOST,
        maxAgeSeconds: LONGEST_S,
        purgeOnQuotaError: true,
      }) as WorkboxPlugin,
      { cacheWillUpdate: async ({ response }) => (response.status === 200 ? stamped(response) : null) },
    ],
  }),
);

/** An answer as it is kept: with the time at which the kitchen gave it. */
async function stamped(response: Response): Promise<Response> {
  const headers = new Headers(response.headers);
  headers.set(KEPT_AT, String(Date.now()));
  return new Response(await response.blob(), {
    status: response.status,
    statusText: response.statusText,
    headers,
  });
}

// A page is asked for first, since the server says with it what styles may be written.
registerRoute(
  ({ request }) => request.mode === "navigate",
  new NetworkFirst({
    cacheName: "page",
    networkTimeoutSeconds: WAITS_S,
    plugins: [{ cacheWillUpdate: async () => null }],
  }),
);

setCatchHandler(async ({ request }) => {
  const page = request.mode === "navigate" ? await matchPrecache("/index.html") : undefined;
  return page ?? Response.error();
});
