/** One thing that is wrong with data from outside: where, and what to do about it. `code` is stable, `message` is for the person. */
export interface Problem {
  code: string;
  /** Where: a path such as `params.dwell.default`, or an empty string for the whole. */
  path: string;
  message: string;
}

/** Core's one convention for bad data: a value or the list of what is wrong. A programmer's error throws instead. */
export type Result<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });
export const failed = (...problems: Problem[]): Result<never> => ({ ok: false, problems });

/** Ends an exhaustive switch: the compiler objects when a case was forgotten; at run time it throws. */
export function never(value: never): never {
  throw new Error(`Unhandled case: ${JSON.stringify(value)}`);
}
