import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { beginsAnew, isKept, pagesCache } from './pages';
import { pageStore } from './store';

/** The build that this page is of. */
const build = (): string => (window as unknown as { __reactRouterManifest?: { version?: string } }).__reactRouterManifest?.version ?? '';

/** Time that a new page has for itself before it is kept, milliseconds. */
const keepAfterMs = 1500;

/**
 * Keeps the document of a page that did not come through the service worker, so that it can be opened without a connection; once for each build.
 * @returns gives it up, where the page is left before
 */
export function keepSoon(address: string): () => void {
  const workers = navigator.serviceWorker as ServiceWorkerContainer | undefined;
  if (!('caches' in window) || !workers || !isKept(address.split('?', 1)[0]!)) return () => {};
  let wait: ReturnType<typeof setTimeout> | undefined;
  const begin = () => (wait = setTimeout(() => void keepDocument(address).catch(() => {}), keepAfterMs));
  // The first page of a device is there before its service worker.
  if (workers.controller) begin();
  else workers.addEventListener('controllerchange', begin, { once: true });
  return () => {
    clearTimeout(wait);
    workers.removeEventListener('controllerchange', begin);
  };
}

async function keepDocument(address: string): Promise<void> {
  const before = await pageStore.get(`document ${address}`);
  const cache = await caches.open(pagesCache);
  if (before?.build === build() && (await cache.match(address))) return;
  const response = await fetch(address, { headers: { Accept: 'text/html' }, redirect: 'error' });
  if (!response.ok) return;
  await cache.put(address, response);
  await pageStore.put({ address: `document ${address}`, build: build() });
}

/** Whether a page was kept, and can be opened by itself. */
export async function isHere(address: string): Promise<boolean> {
  return 'caches' in window && (await caches.match(address, { ignoreSearch: beginsAnew(address.split('?', 1)[0]!) })) !== undefined;
}

/** Takes away what was kept of pages: whoever comes next at this browser sees nothing of it. Answers that were not sent yet stay. */
export async function forgetPages(): Promise<void> {
  if ('caches' in window) await caches.delete(pagesCache);
  await pageStore.clear();
}

/**
 * What a page shows, or what it showed last in this browser where that is newer: a document that was kept is as old as the day it was opened.
 * @param isNewer whether what was kept is to be shown instead
 */
export function useNewest<T>(shown: T, isNewer: (kept: T, shown: T) => boolean): T {
  const { pathname } = useLocation();
  const [kept, setKept] = useState<{ address: string; data: T } | null>(null);
  useEffect(() => {
    let over = false;
    void pageStore.get(pathname).then(
      (page) => {
        if (!over && page?.build === build()) setKept({ address: pathname, data: page.data as T });
      },
      () => {},
    );
    return () => void (over = true);
  }, [pathname]);
  const newest = kept?.address === pathname && isNewer(kept.data, shown) ? kept.data : shown;
  useEffect(() => {
    void pageStore.put({ address: pathname, build: build(), data: newest }).catch(() => {});
  }, [pathname, newest]);
  return newest;
}
