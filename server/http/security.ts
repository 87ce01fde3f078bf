import { randomBytes } from 'node:crypto';
import { isIP } from 'node:net';
import { hostname } from 'node:os';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';

/** A fresh nonce for each answer; scripts and styles of the page carry it. */
export const nonce: RequestHandler = (_request, response, next) => {
  response.locals.nonce = randomBytes(16).toString('base64');
  next();
};

/**
 * What else runs beside scripts of ours: on a page, those with its nonce; in a worker, whose policy is that of its own file, WebAssembly (bench/bursts). No page may run it.
 */
const mayRun = (url: string, response: Response): string => (url.startsWith('/assets/') ? "'wasm-unsafe-eval'" : `'nonce-${response.locals.nonce}'`);

/** Headers that keep other people's pages and scripts out. `styleSrcAttr` stays open: interface parts set measured positions as style attributes. */
export const headers = (secure: boolean): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", (request, response) => mayRun(request.url ?? '', response as Response)],
        styleSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        frameAncestors: ["'none'"],
        formAction: ["'self'"],
        baseUri: ["'none'"],
        objectSrc: ["'none'"],
        upgradeInsecureRequests: secure ? [] : null,
      },
    },
    referrerPolicy: { policy: 'same-origin' },
    strictTransportSecurity: secure,
  });

/** Largest body of any form or command, bytes. */
export const maxBody = 256 * 1024;

/** A short page in plain words for what is refused before the router sees it. */
function refuse(response: Response, status: number, message: string): void {
  response.status(status).type('text/plain').set('Cache-Control', 'no-store').send(`${message}\n`);
}

/**
 * Requests that no browser makes of a page of ours: another form of address than a path, signs that no address has, a path that is no text, no host
 * or one that is none.
 */
export const wellFormed: RequestHandler = (request, response, next) => {
  if (!methods.has(request.method)) return refuse(response, 405, 'Refused: a page is asked for by GET, and actions are sent by POST.');
  const { url } = request;
  const path = url.split('?', 1)[0]!;
  let said: string;
  try {
    said = decodeURIComponent(path);
  } catch {
    return refuse(response, 400, 'Refused: this address can’t be read. It was cut off or changed on its way; copy it again.');
  }
  // eslint-disable-next-line no-control-regex -- those signs are what is looked for
  if (!url.startsWith('/') || url.length > maxAddress || /[\u0000-\u001f\u007f\\]/.test(said) || /%00/.test(url))
    return refuse(response, 400, 'Refused: this is not an address of Bloodstone. Open it by its pages.');
  next();
};
const methods = new Set(['GET', 'HEAD', 'POST']);
/** Longer than any address of ours, with everything that is supposed in it. */
const maxAddress = 8 * 1024;

/** How a host is written: a name or an address, and a port that there is. */
function readHost(text: string | undefined): { host: string; name: string } | undefined {
  if (text === undefined || !/^(\[[0-9a-fA-F:.]+\]|[A-Za-z0-9.-]{1,253})(:\d{1,5})?$/.test(text)) return undefined;
  try {
    const { host, hostname } = new URL(`http://${text}/`);
    return { host, name: hostname };
  } catch {
    return undefined;
  }
}

const isAddress = (name: string): boolean => isIP(name.replace(/^\[|\]$/g, '')) !== 0;

/**
 * Only the host that is set in BLOODSTONE_URL; without one only addresses in digits, this machine's name and `localhost`: a page elsewhere that
 * has its own name point here reads nothing (DNS rebinding). What a proxy says of the host counts only from the addresses of
 * BLOODSTONE_PROXIES. The router reads the same headers, so what does not count is taken out.
 */
export const knownHost =
  ({ address, host }: { address?: string | undefined; host: string }): RequestHandler =>
  (request, response, next) => {
    const trusted = (request.app.get('trust proxy fn') as (address: string | undefined, hop: number) => boolean)(request.socket.remoteAddress, 0);
    if (!trusted)
      for (const name of ['x-forwarded-host', 'x-forwarded-proto', 'x-forwarded-port', 'x-forwarded-for', 'forwarded']) delete request.headers[name];
    const forwarded = request.headers['x-forwarded-host'];
    const stated = readHost(forwarded === undefined ? request.headers.host : String(forwarded).split(',', 1)[0]!.trim());
    const own = [host, hostname(), 'localhost'].map((name) => name.toLowerCase());
    const known = stated && (address ? stated.host === new URL(address).host : isAddress(stated.name) || own.includes(stated.name));
    if (!known)
      return refuse(
        response,
        421,
        address
          ? `Refused: this shop’s Bloodstone is at ${new URL(address).origin}. Open it there.`
          : 'Refused: Bloodstone is not known by this name. Open it by its address in digits, or set BLOODSTONE_URL to the address people use.',
      );
    delete request.headers['x-forwarded-host'];
    request.headers.host = stated.host;
    next();
  };

/** Posts to the doors a minute from one address: many times what a shop's people need. */
const doorsAMinute = 240;
/** Counts what is sent to sign-in, set-up, links and PIN by each address, in memory: it is there against work, wrong tries are counted in the database. */
export const countedDoors = (): RequestHandler =>
  rateLimit({
    windowMs: 60_000,
    limit: doorsAMinute,
    standardHeaders: false,
    legacyHeaders: false,
    skip: (request) => request.method !== 'POST' || !doors.test(request.path),
    validate: false,
    handler: (_request, response) => refuse(response, 429, 'Too many tries from this address. Wait a minute, then try again.'),
  });

/** Acts come only from our own pages: the origin the browser states must be the address people use, or the one asked. */
export const sameOrigin =
  (address: string | undefined): RequestHandler =>
  (request: Request, response: Response, next: NextFunction) => {
    if (request.method === 'GET' || request.method === 'HEAD') return next();
    const origin = request.headers.origin;
    const allowed = address ? new URL(address).origin : `${request.protocol}://${request.headers.host}`;
    if (origin !== allowed) return refuse(response, 403, 'Refused: this request did not come from a page of this shop’s Bloodstone.');
    next();
  };

/** Addresses that take a file, with the largest body each. The files themselves are held to less (server/cases/photos.ts, server/transfer/). */
const fileBodies: readonly [RegExp, number][] = [
  [/^\/cases\/\d+\/photos(\.data)?$/, 9 * 1024 * 1024],
  [/^\/cases\/\d+\/vault(\.data)?$/, 18 * 1024 * 1024],
  [/^\/cases\/import(\.data)?$/, 65 * 1024 * 1024],
  [/^\/library\/import(\.data)?$/, 1100 * 1024],
  [/^\/shop\/learned(\.data)?$/, 600 * 1024],
];

/** What people send who are not signed in yet is short. */
const doors = /^\/(sign-in|set-up|unlock|join\/[^/]*)(\.data)?$/;
const maxDoorBody = 16 * 1024;

/** Bodies must say their length and keep to the limit. */
export const limitedBody: RequestHandler = (request, response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const most = fileBodies.find(([path]) => path.test(request.path))?.[1] ?? (doors.test(request.path) ? maxDoorBody : maxBody);
  const length = request.headers['content-length'];
  if (length === undefined) return refuse(response, 411, 'Refused: the request does not say how long it is.');
  if (!(Number(length) <= most)) return refuse(response, 413, `Refused: ${most / 1024} kB at most.`);
  next();
};

/** What a refused request still sends is taken for so long, ms; then its connection is cut. */
const drainMs = 10_000;

/**
 * A request that is answered before its body was read (nobody is signed in, nothing is taken there) leaves the rest of the body on its connection: it is
 * read away, so that the next request on the same connection is heard.
 */
export const drained: RequestHandler = (request, response, next) => {
  response.once('finish', () => {
    if (request.complete) return;
    // Whoever began to read it holds the stream back; nobody is left to read it now.
    request.removeAllListeners('data');
    request.resume();
    const cut = setTimeout(() => request.socket.destroy(), drainMs);
    cut.unref();
    request.once('close', () => clearTimeout(cut));
  });
  next();
};
