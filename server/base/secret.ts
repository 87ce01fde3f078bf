import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import pLimit from 'p-limit';
import { refused } from './expected';

const derive = promisify(scrypt) as (
  secret: string,
  salt: Buffer,
  length: number,
  options: { N: number; r: number; p: number; maxmem: number },
) => Promise<Buffer>;

/** Cost of one hash: memory is 128 · N · r bytes. */
export interface Cost {
  N: number;
  r: number;
  p: number;
}
/** 32 MiB and three passes: one of the settings for scrypt in the OWASP password storage cheat sheet. */
export const cost: Cost = { N: 2 ** 15, r: 8, p: 3 };

const length = 32;

/** The same letters typed on another keyboard are the same password. */
const bytes = (secret: string) => secret.normalize('NFKC');

/** Hashes that are worked on at once, and that may wait: each takes memory and one of the few threads that files need as well. */
const atOnce = pLimit(2);
const mostWaiting = 60;

/** @throws Refused 429 when so many wait that nobody would be served */
const run = (secret: string, salt: Buffer, { N, r, p }: Cost) => {
  if (atOnce.pendingCount >= mostWaiting) throw refused(429, 'busy', 'Too many people are signing in right now. Wait a few seconds, then try again.');
  return atOnce(() => derive(bytes(secret), salt, length, { N, r, p, maxmem: 256 * N * r }));
};

/** A hash to store: `scrypt$N$r$p$salt$hash`, with a salt of its own. */
export async function hashSecret(secret: string, use: Cost = cost): Promise<string> {
  const salt = randomBytes(16);
  const hash = await run(secret, salt, use);
  return ['scrypt', use.N, use.r, use.p, salt.toString('base64'), hash.toString('base64')].join('$');
}

/**
 * Whether the secret belongs to the hash, compared in constant time. Without a hash the same work is done for nothing, so that the time does
 * not tell whether there is one.
 */
export async function verifySecret(secret: string, stored: string | null, use: Cost = cost): Promise<boolean> {
  const [, N, r, p, salt, hash] = (stored ?? ['scrypt', use.N, use.r, use.p, 'AAAAAAAAAAAAAAAAAAAAAA==', ''].join('$')).split('$');
  const expected = Buffer.from(hash!, 'base64');
  const found = await run(secret, Buffer.from(salt!, 'base64'), { N: Number(N), r: Number(r), p: Number(p) });
  return timingSafeEqual(found, expected.length === length ? expected : Buffer.alloc(length)) && stored !== null;
}

/** 256 random bits for a link or a cookie. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** What is stored of a token: nobody who reads the database can use it. */
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('hex');
