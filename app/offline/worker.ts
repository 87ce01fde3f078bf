import { clientsClaim } from 'workbox-core';
import type { WorkboxPlugin } from 'workbox-core/types.js';
import { ExpirationPlugin } from 'workbox-expiration';
import { registerRoute, setCatchHandler } from 'workbox-routing';
import { CacheFirst, NetworkFirst, NetworkOnly } from 'workbox-strategies';
import { beginsAnew, isKept, pagesCache } from './pages';

/**
 * The service worker: keeps the app's own files, and the documents of pages that were opened, for when there is no connection (docs/offline.md). A new
 * version waits until no page of the old one is open, and files of older versions stay for two months, so that an update never takes anything away from a
 * run that goes on without a connection.
 */
interface Install extends Event {
  waitUntil(work: Promise<unknown>): void;
}
/** Files of this build; the build writes them in. */
declare const BUILT_FILES: string[];

const files = 'bloodstone-files';
const day = 24 * 60 * 60;
/** A document that has not come within this is taken from what is kept, seconds. */
const patience = 4;
/** Files fetched at once: a browser has six connections to a server, and what the page asks meanwhile must not wait behind hundreds of files. */
const atOnce = 3;

/** Keeps one file; a connection that breaks off once does not undo what the others brought. @throws TypeError where it did not come three times */
async function keepFile(cache: Cache, file: string, tries = 3): Promise<void> {
  try {
    await cache.add(file);
  } catch (error) {
    if (tries === 1) throw error;
    await new Promise((soon) => setTimeout(soon, 1000));
    await keepFile(cache, file, tries - 1);
  }
}

clientsClaim();
addEventListener('install', (event) => {
  (event as Install).waitUntil(
    caches.open(files).then(async (cache) => {
      const there = new Set((await cache.keys()).map((request) => new URL(request.url).pathname));
      // Each is kept as it comes: where it is broken off, the next time goes on from there.
      const missing = BUILT_FILES.filter((file) => !there.has(file));
      const line = async () => {
        for (let file = missing.pop(); file !== undefined; file = missing.pop()) await keepFile(cache, file);
      };
      await Promise.all(Array.from({ length: atOnce }, line));
    }),
  );
});

/** The form of something new, whichever it was kept for. */
async function anyForm(request: Request): Promise<Response | undefined> {
  if (!beginsAnew(new URL(request.url).pathname)) return undefined;
  return (await caches.open(pagesCache)).match(request, { ignoreSearch: true });
}

/** Takes away what nobody asked for in that time, and the oldest of too many. */
const until = (limits: { maxAgeSeconds: number; maxEntries: number }) => new ExpirationPlugin(limits) as unknown as WorkboxPlugin;

registerRoute(
  ({ url, sameOrigin }) => sameOrigin && url.pathname.startsWith('/assets/'),
  new CacheFirst({ cacheName: files, plugins: [until({ maxAgeSeconds: 60 * day, maxEntries: 4000 })] }),
);
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && isKept(url.pathname),
  new NetworkFirst({
    cacheName: pagesCache,
    networkTimeoutSeconds: patience,
    plugins: [
      until({ maxAgeSeconds: 30 * day, maxEntries: 300 }),
      // Documents only: where the form of something new leads to its own name, the next one must lead to another.
      { cacheWillUpdate: async ({ response }) => (response.status === 200 ? response : null), handlerDidError: ({ request }) => anyForm(request) },
    ],
  }),
);
registerRoute(({ request }) => request.mode === 'navigate', new NetworkOnly());
setCatchHandler(async ({ request }) => (request.mode === 'navigate' ? notKept() : Response.error()));

const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** Instead of a page that is not kept on this device: what is. */
async function notKept(): Promise<Response> {
  const cache = await caches.open(pagesCache);
  const rows = await Promise.all(
    (await cache.keys()).map(async (request) => {
      const { pathname, search } = new URL(request.url);
      const title = /<title[^>]*>([^<]*)</.exec((await (await cache.match(request))?.text()) ?? '')?.[1] ?? pathname;
      return `<li><a href="${escaped(pathname + search)}">${title}</a></li>`;
    }),
  );
  const kept =
    rows.length > 0 ? `<p>These pages are kept on this device:</p><ul>${rows.join('')}</ul>` : '<p>No page is kept on this device yet.</p>';
  const body = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="color-scheme" content="light dark"><title>No connection · Bloodstone</title></head><body style="font: 18px/1.5 sans-serif; max-width: 40em; margin: 3em auto; padding: 0 1em"><h1>No connection</h1><p>The shop’s server does not answer, and this page was not opened on this device before. Timers go on, and nothing confirmed is lost.</p>${kept}</body></html>`;
  return new Response(body, {
    status: 503,
    headers: { 'Content-Type': 'text/html; charset=utf-8', 'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'" },
  });
}
