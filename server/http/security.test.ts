import type { NextFunction, Request, Response } from 'express';
import { limitedBody, maxBody, sameOrigin } from './security';

/** Runs a guard on a request; the status it refused with, or "passed". */
function ask(
  guard: (request: Request, response: Response, next: NextFunction) => void,
  request: { method?: string; headers?: Record<string, string>; protocol?: string },
): number | 'passed' {
  let outcome: number | 'passed' | undefined;
  const response = {
    status(code: number) {
      outcome = code;
      return response;
    },
    type: () => response,
    set: () => response,
    send: () => response,
  };
  guard(
    { method: 'POST', protocol: 'http', headers: {}, ...request } as unknown as Request,
    response as unknown as Response,
    () => (outcome = 'passed'),
  );
  if (outcome === undefined) throw new Error('The guard neither refused nor passed');
  return outcome;
}

describe('the same origin', () => {
  const host = '127.0.0.1:4600';
  test.each<[string, string | undefined, Record<string, string>, number | 'passed']>([
    ['our own page', undefined, { host, origin: 'http://127.0.0.1:4600' }, 'passed'],
    ['no origin', undefined, { host }, 403],
    ['a privacy-hidden origin', undefined, { host, origin: 'null' }, 403],
    ['another port', undefined, { host, origin: 'http://127.0.0.1:4601' }, 403],
    ['another scheme', undefined, { host, origin: 'https://127.0.0.1:4600' }, 403],
    ['a name that begins like ours', undefined, { host, origin: 'http://127.0.0.1:4600.example.com' }, 403],
    ['the address people use, behind a proxy', 'https://shop.example.com/', { host, origin: 'https://shop.example.com' }, 'passed'],
    ['another one behind the proxy', 'https://shop.example.com', { host, origin: 'https://evil.example.com' }, 403],
  ])('%s', (_what, address, headers, expected) => expect(ask(sameOrigin(address), { headers })).toBe(expected));

  test.each(['GET', 'HEAD'])('%s asks for nothing and needs no origin', (method) => expect(ask(sameOrigin(undefined), { method })).toBe('passed'));
});

describe('the length of a body', () => {
  test.each<[string, Record<string, string>, number | 'passed']>([
    ['none said', {}, 411],
    ['the largest', { 'content-length': String(maxBody) }, 'passed'],
    ['one byte more', { 'content-length': String(maxBody + 1) }, 413],
    ['no number', { 'content-length': 'many' }, 413],
    ['nothing', { 'content-length': '0' }, 'passed'],
  ])('%s', (_what, headers, expected) => expect(ask(limitedBody, { headers })).toBe(expected));
  test('a GET has none', () => expect(ask(limitedBody, { method: 'GET' })).toBe('passed'));
});
