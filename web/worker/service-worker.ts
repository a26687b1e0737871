// Keeps Rouse on a tablet: its pages as they were built, and what the server answered last. Bundled by scripts/lib/build.mjs.
import { cacheNames } from 'workbox-core';
import { ExpirationPlugin } from 'workbox-expiration';
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';
import { ANSWERS, KEPT_AT, USE_NOW } from '../src/platform/kept-answers.ts';

declare const self: ServiceWorkerGlobalScope;
/** every file of the built page, with what it is known by */
declare const BUILT_FILES: { url: string; revision: string | null }[];

const MOST_ANSWERS = 600;
/** files that are made when they are asked for, and whole exports, are not kept */
const NOT_KEPT = /\.(pdf|csv)$|\/export$|\/bundle\.json$/;

/** A browser that can be told once where files come from takes them without waking this worker for each. */
interface Installed extends ExtendableEvent {
  addRoutes?: (rule: { condition: { urlPattern: string }; source: { cacheName: string } }) => Promise<void>;
}
self.addEventListener('install', (event: Installed) => {
  const kept = { condition: { urlPattern: '/assets/*' }, source: { cacheName: cacheNames.precache } };
  if (event.addRoutes) event.waitUntil(event.addRoutes(kept));
});

precacheAndRoute(BUILT_FILES);
cleanupOutdatedCaches();
registerRoute(new NavigationRoute(createHandlerBoundToURL('/index.html'), { denylist: [/^\/api\//, /^\/live/] }));

registerRoute(
  ({ url, request }) => request.method === 'GET' && url.pathname.startsWith('/api/') && !NOT_KEPT.test(url.pathname),
  // no time limit: an answer that is late is waited for, and never replaced by an old one
  new NetworkFirst({
    cacheName: ANSWERS,
    plugins: [
      new ExpirationPlugin({ maxEntries: MOST_ANSWERS }),
      // only what is kept says when it was given: an answer of the server itself does not
      { cacheWillUpdate: async ({ response }) => (response.status === 200 ? withTime(response) : null) },
    ],
  }),
);

/** The answer, with when it was given. */
async function withTime(response: Response): Promise<Response> {
  const headers = new Headers(response.headers);
  headers.set(KEPT_AT, new Date().toISOString());
  return new Response(await response.clone().blob(), { status: response.status, headers });
}

// a newer version waits until the page says so: never in the middle of a run
self.addEventListener('message', ({ data }) => {
  if (data === USE_NOW) void self.skipWaiting();
});
