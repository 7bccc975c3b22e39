/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core';
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope;

void self.skipWaiting();
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(self.__WB_MANIFEST);

// The shell opens without a server; the API and health addresses never fall back to it.
registerRoute(
  new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//, /^\/health\//] }),
);

/** Logs come from the device itself; a search is another each time; whether there is a firm yet, or a link still reads, is never an old answer. */
const NOT_KEPT =
  /\/(events|search|setup|shares|calendars)$|\.(pdf|csv|ics|json)$|\/(shared|photos|imports)\//;

// What was looked at last stays readable with the server stopped or the signal gone.
registerRoute(
  ({ url, request }) =>
    request.method === 'GET' && url.pathname.startsWith('/api/v1/') && !NOT_KEPT.test(url.pathname),
  new NetworkFirst({
    cacheName: 'firm-needle-api',
    networkTimeoutSeconds: 4,
    plugins: [
      {
        // A server without its record store answers 503: then the kept copy is better.
        fetchDidSucceed: async ({ response }) => {
          if (response.status >= 500) throw new Error(`server said ${response.status}`);
          return response;
        },
      },
    ],
  }),
);
