import pino from 'pino';

/** Structured log: one JSON line an entry, with the request's id where there is one. Secrets and personal data don't go in. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'),
  base: undefined,
  redact: ['req.headers.cookie', 'req.headers.authorization'],
});
