import { Counter, Histogram, Registry } from 'prom-client';

/** What this process has counted since it began, for `GET /metrics` (docs/security.md). */
export const counted = new Registry();

/** Acts by how they ended: done; repeated, where the same one had been done; refused; failed. */
export const acts = new Counter({
  name: 'bloodstone_acts_total',
  help: 'Acts, by how they ended.',
  labelNames: ['outcome'] as const,
  registers: [counted],
});

/** How long answers took, by the first part of the address: never a number or a name of the shop. */
export const requests = new Histogram({
  name: 'bloodstone_request_seconds',
  help: 'Time of answers, by the kind of address and status.',
  labelNames: ['method', 'kind', 'status'] as const,
  buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10],
  registers: [counted],
});

const kinds = new Set([
  'cases',
  'calls',
  'bench',
  'library',
  'practice',
  'shop',
  'find',
  'runs',
  'keys',
  'take',
  'assets',
  'clock',
  'live',
  'wall',
  'calendar',
  'session',
  'sign-in',
  'set-up',
  'join',
  'unlock',
]);
/** The kind of an address; anything that is no address of ours is one kind, so that nobody can make more of them. */
export function kindOf(path: string): string {
  const first = /^\/([a-z-]*)/.exec(path)?.[1] ?? '';
  return first === '' && path.split('?')[0] === '/' ? 'floor' : kinds.has(first) ? first : 'other';
}
