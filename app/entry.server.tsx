import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import createEmotionServer from '@emotion/server/create-instance';
import { PassThrough } from 'node:stream';
import { renderToPipeableStream } from 'react-dom/server';
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

/** Renders the whole page into a buffer, then puts the styles that it used into its head: no flash, and the page works before any script. */
export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  load: RouterContextProvider,
): Promise<Response> {
  // An act that arrives later is sent without a page around it, and answered without one (offline/browser.ts).
  if (request.method === 'POST' && request.headers.get('accept') === 'application/json') {
    const done = Object.values(context.staticHandlerContext.actionData ?? {})[0] as unknown;
    return Promise.resolve(Response.json(done ?? null, { status, headers: { 'Cache-Control': 'no-store' } }));
  }
  const { nonce, away } = load.get(here);
  if (away) return Promise.resolve(awayResponse());
  return new Promise((resolve, reject) => {
    const { pipe } = renderToPipeableStream(
      <CacheProvider value={cache}>
        <Nonce value={nonce}>
          <ServerRouter context={ofThisPage(context)} url={request.url} nonce={nonce} />
        </Nonce>
      </CacheProvider>,
      {
        nonce,
        onAllReady() {
          const chunks: Buffer[] = [];
          const body = new PassThrough();
          body.on('data', (chunk: Buffer) => chunks.push(chunk));
          body.on('end', () => {
            const html = Buffer.concat(chunks).toString('utf8');
            const { extractCriticalToChunks, constructStyleTagsFromChunks } = createEmotionServer({ ...cache, nonce });
            const styles = constructStyleTagsFromChunks(extractCriticalToChunks(html));
            headers.set('Content-Type', 'text/html; charset=utf-8');
            headers.set('Cache-Control', 'no-store');
            resolve(new Response(html.replace('</head>', `${styles}</head>`), { status, headers }));
          });
          pipe(body);
        },
        onShellError: reject,
        onError(error) {
          log.error({ err: error }, 'render');
        },
      },
    );
  });
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
