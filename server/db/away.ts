import { refused, type Refused } from '../base/expected';

/** Codes of PostgreSQL (its class 08, 57P01 to 57P05: the server ends, has crashed, is starting; 57014: it took too long) and of the machine, where the server can't be reached; 53300: no connection is free. */
const codes = /^(08...|57P0[1-5]|57014|53300|ECONNREFUSED|ECONNRESET|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ENOTFOUND|EAI_AGAIN)$/;
/** The driver's own words, which have no code. */
const words =
  /Connection terminated|timeout exceeded when trying to connect|connection timeout|Query read timeout|Client has encountered a connection error|not queryable/i;

/** Whether an error, what caused it, or one of several in it is meant. */
function within(error: unknown, meant: (e: Error, code: string) => boolean): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    if (meant(e, String((e as { code?: unknown }).code))) return true;
    if (e instanceof AggregateError && e.errors.some((one) => within(one, meant))) return true;
  }
  return false;
}

/** Whether something failed because the database's server was away, and not because of what was asked. */
export const isAway = (error: unknown): boolean => within(error, (e, code) => codes.test(code) || words.test(e.message));

export const awayText = 'The database does not answer. Try again in a moment. What you send again is done once, even if it was saved already.';
/** What a request is answered that came in vain: a page comes back by itself. */
export const awayAnswer = {
  status: 503,
  headers: { 'Content-Type': 'text/plain; charset=utf-8', 'Retry-After': '3', Refresh: '3', 'Cache-Control': 'no-store' },
  body: `${awayText}\n`,
} as const;

/** What somebody is told of an act that the database's server could not do; undefined: it is not that (53100: its disk is full). */
export function refusalOf(error: unknown): Refused | undefined {
  if (isAway(error)) return refused(503, 'databaseAway', awayText);
  if (within(error, (_, code) => code === '53100'))
    return refused(
      507,
      'diskFull',
      'The disk of the database’s server is full. Nothing was saved. Make room on it, then send this again; what you typed stays here.',
    );
}
