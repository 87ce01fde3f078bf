import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import createEmotionServer from '@emotion/server/create-instance';
import { PassThrough } from 'node:stream';
import { text } from 'node:stream/consumers';
import type { ReactNode } from 'react';
import { renderToPipeableStream, renderToString } from 'react-dom/server';
import {
  type EntryContext,
  type HandleDataRequestFunction,
  type HandleErrorFunction,
  isRouteErrorResponse,
  type RouterContextProvider,
  ServerRouter,
} from 'react-router';
import { Nonce } from './nonce';
import { log } from '../server/base/log';
import { awayAnswer, isAway } from '../server/db/away';
import { here } from '../server/http/requestContext';

/** Styles are the same for every request, so each is written out once; a page takes those that it uses, under its own nonce. */
const cache = createCache({ key: 'css' });
createEmotionServer(cache);

/** A page's own routes alone: the router lays out every route that it is given, anew for each page. The browser reads all of them from the manifest's file. */
function ofThisPage(context: EntryContext): EntryContext {
  const { manifest, staticHandlerContext } = context;
  const routes = Object.fromEntries(staticHandlerContext.matches.map(({ route }) => [route.id, manifest.routes[route.id]]));
  return { ...context, manifest: { ...manifest, routes } };
}

/**
 * The data of the page, read whole before it is rendered: the router's component that writes it out finds it there, and the page is rendered in one go. Piece by
 * piece, each piece is a boundary that is waited for anew.
 */
async function withItsData(context: EntryContext): Promise<EntryContext> {
  if (!context.serverHandoffStream) return context;
  const reader = context.serverHandoffStream.getReader();
  const decoder = new TextDecoder();
  let text = '';
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) text += decoder.decode(piece.value, { stream: true });
  reader.releaseLock();
  const whole = Object.assign(Promise.resolve(), { result: { done: true, value: text } });
  return {
    ...context,
    // Asked for a reader by each rendering, and never read: all of it is in the cache.
    get serverHandoffStream() {
      return new ReadableStream<Uint8Array>();
    },
    renderMeta: { ...context.renderMeta, streamCache: { 0: whole } },
  };
}

/** What stands in a page where a part of it was not there yet, such as one that is loaded when it is shown for the first time. */
const partMissing = '<!--$!-->';

/** The page as text, whole: in one go, or, where a part has to be waited for, when all of it is there. */
function rendered(page: ReactNode, nonce: string): Promise<string> {
  const html = renderToString(page);
  if (!html.includes(partMissing)) return Promise.resolve(`<!DOCTYPE html>${html}`);
  return new Promise((resolve, reject) => {
    const { pipe } = renderToPipeableStream(page, {
      nonce,
      onAllReady: () => void text(pipe(new PassThrough())).then(resolve, reject),
      onShellError: reject,
      onError: (error) => log.error({ err: error }, 'render'),
    });
  });
}

/** Renders the whole page, then puts the styles that it used into its head: no flash, and the page works before any script. */
export default async function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  load: RouterContextProvider,
): Promise<Response> {
  // An act that arrives later is sent without a page around it, and answered without one (offline/browser.ts).
  if (request.method === 'POST' && request.headers.get('accept') === 'application/json') {
    const done = Object.values(context.staticHandlerContext.actionData ?? {})[0] as unknown;
    return Response.json(done ?? null, { status, headers: { 'Cache-Control': 'no-store' } });
  }
  const { nonce, away } = load.get(here);
  if (away) return awayResponse();
  const whole = await withItsData(ofThisPage(context));
  const html = await rendered(
    <CacheProvider value={cache}>
      <Nonce value={nonce}>
        <ServerRouter context={whole} url={request.url} nonce={nonce} />
      </Nonce>
    </CacheProvider>,
    nonce,
  );
  const { extractCriticalToChunks, constructStyleTagsFromChunks } = createEmotionServer({ ...cache, nonce });
  const styles = constructStyleTagsFromChunks(extractCriticalToChunks(html));
  headers.set('Content-Type', 'text/html; charset=utf-8');
  headers.set('Cache-Control', 'no-store');
  return new Response(html.replace('</head>', `${styles}</head>`), { status, headers });
}

const awayResponse = () => new Response(awayAnswer.body, awayAnswer);

/** A page that asks for its data alone is told the same. */
export const handleDataRequest: HandleDataRequestFunction = (response, { context }) =>
  (context as RouterContextProvider).get(here).away ? awayResponse() : response;

/** Unexpected errors of loaders, actions and renders go to the log under the reference that the error page shows. */
export const handleError: HandleErrorFunction = (error, { context, request }) => {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  const asked = (context as RouterContextProvider).get(here);
  // The router takes away what an error was before the page is rendered.
  if (isAway(error)) asked.away = true;
  log[asked.away ? 'warn' : 'error']({ err: error, reference: asked.requestId }, asked.away ? 'The database does not answer.' : 'unexpected');
};
