import { refused, type Refused } from '../base/expected';

/** Codes of PostgreSQL (its class 08, 57P01 to 57P05: the server ends, has crashed, is starting; 57014: it took too long) and of the machine, where the server can't be reached; 53300: no connection is free. */
const codes = /^(08...|57P0[1-5]|57014|53300|ECONNREFUSED|ECONNRESET|ETIMEDOUT|EHOSTUNREACH|ENETUNREACH|ENOTFOUND|EAI_AGAIN)$/;
/** The driver's own words, which have no code. */
const words =
  /Connection terminated|timeout exceeded when trying to connect|connection timeout|Query read timeout|Client has encountered a connection error|not queryable/i;

/** Whether something failed because the database's server was away, and not because of what was asked. */
export function isAway(error: unknown): boolean {
  for (let e = error; e instanceof Error; e = e.cause) {
    if (codes.test(String((e as { code?: unknown }).code)) || words.test(e.message)) return true;
    if (e instanceof AggregateError && e.errors.some(isAway)) return true;
  }
  return false;
}

export const awayText = 'The database does not answer. Try again in a moment. What you send again is done once, even if it was saved already.';
export const away = (): Refused => refused(503, 'databaseAway', awayText);
