import type { Problem } from '../../core/units';

/** An expected failure on its way to the person: thrown inside a transaction so that nothing of it stays, caught where the answer is made. */
export class Refused extends Error {
  constructor(
    /** HTTP status that fits. */
    readonly status: 400 | 401 | 403 | 404 | 409 | 413 | 429 | 503 | 507,
    readonly problems: Problem[],
  ) {
    super(problems.map((p) => p.message).join(' '));
  }
}

export const refused = (status: Refused['status'], code: string, message: string, path = ''): Refused =>
  new Refused(status, [{ code, path, message }]);
