import { DrizzleQueryError } from 'drizzle-orm/errors';
import pino from 'pino';

/**
 * What is told of an error. A failed query names its statement and the database's reason, never the values that were sent with it, nor the database's
 * own account of them: they are names, numbers and pictures of people.
 */
export function toldOf(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { type: typeof error };
  const frames = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  const cause = error.cause as { code?: unknown; constraint?: unknown; table?: unknown; severity?: unknown } | undefined;
  if (error instanceof DrizzleQueryError)
    return {
      type: 'query',
      statement: error.query.slice(0, 300),
      code: cause?.code,
      constraint: cause?.constraint,
      table: cause?.table,
      frames: frames.slice(0, 12),
    };
  // The database's own errors, without an act around them: their text may quote a value.
  const { code, severity } = error as { code?: unknown; severity?: unknown };
  const message = severity === undefined ? error.message.split('\n', 1)[0]!.slice(0, 200) : 'the database refused';
  return {
    type: error.name,
    message,
    ...(code === undefined ? {} : { code }),
    frames: frames.slice(0, 12),
    ...(error.cause instanceof Error ? { cause: toldOf(error.cause) } : {}),
  };
}

/** The address of a request as the log may hold it: without what was searched for, and without the token of a one-time link. */
export const toldAddress = (url: string): string =>
  url
    .split('?', 1)[0]!
    .replace(/^\/(join|take)\/[^/]*/, '/$1/…')
    .slice(0, 200);

/** Structured log: one JSON line an entry, with the request's id where there is one. Secrets and personal data don't go in. */
export const log = pino({
  level: process.env.LOG_LEVEL ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'),
  base: null,
  redact: ['req.headers.cookie', 'req.headers.authorization'],
  serializers: { err: toldOf },
});
