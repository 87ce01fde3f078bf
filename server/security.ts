import { randomBytes } from 'node:crypto';
import type { NextFunction, Request, RequestHandler, Response } from 'express';
import helmet from 'helmet';

/** A fresh nonce for each answer; scripts and styles of the page carry it. */
export const nonce: RequestHandler = (_request, response, next) => {
  response.locals.nonce = randomBytes(16).toString('base64');
  next();
};

/** Headers that keep other people's pages and scripts out. `styleSrcAttr` stays open: interface parts set measured positions as style attributes. */
export const headers = (secure: boolean): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", (_request, response) => `'nonce-${(response as Response).locals.nonce}'`],
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

/** Acts come only from our own pages: the origin the browser states must be the address people use, or the one asked. */
export const sameOrigin =
  (address: string | undefined): RequestHandler =>
  (request: Request, response: Response, next: NextFunction) => {
    if (request.method === 'GET' || request.method === 'HEAD') return next();
    const origin = request.headers.origin;
    const allowed = [address ? new URL(address).origin : undefined, `${request.protocol}://${request.headers.host}`];
    if (origin === undefined || !allowed.includes(origin))
      return refuse(response, 403, 'Refused: this request did not come from a page of this shop’s Bloodstone.');
    next();
  };

/** Addresses that take a file, with the largest body each. The files themselves are held to less (server/photos.ts, server/transfer/). */
const fileBodies: readonly [RegExp, number][] = [
  [/^\/cases\/\d+\/photos(\.data)?$/, 9 * 1024 * 1024],
  [/^\/cases\/import(\.data)?$/, 65 * 1024 * 1024],
  [/^\/library\/import(\.data)?$/, 1100 * 1024],
];

/** Bodies must say their length and keep to the limit. */
export const limitedBody: RequestHandler = (request, response, next) => {
  if (request.method === 'GET' || request.method === 'HEAD') return next();
  const most = fileBodies.find(([path]) => path.test(request.path))?.[1] ?? maxBody;
  const length = request.headers['content-length'];
  if (length === undefined) return refuse(response, 411, 'Refused: the request does not say how long it is.');
  if (!(Number(length) <= most)) return refuse(response, 413, `Refused: ${most / 1024} kB at most.`);
  next();
};
