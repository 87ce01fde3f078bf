import { parseYaml } from '../../content/reader';
import type { Result } from '../../core/units';
import { Refused } from '../expected';
import { readCaseFile } from './caseFile';
import { encodePhoto } from './picture';

/**
 * Everything that is read of a file from outside: bytes or text in, plain data out, and no database. They run in a process of their own
 * (files.ts), so what comes back is data, a refusal too.
 */
export const readings = {
  yaml: (text: string): Result<unknown> => parseYaml(text),
  caseFile: readCaseFile,
  photo: encodePhoto,
};
export type Readings = typeof readings;
export type Answer<T> = { value: T } | { refused: { status: Refused['status']; problems: Refused['problems'] } };

export async function answer<T>(work: () => T | Promise<T>): Promise<Answer<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    if (error instanceof Refused) return { refused: { status: error.status, problems: error.problems } };
    throw error;
  }
}

/** @throws Refused when that is what the answer says */
export function unfold<T>(said: Answer<T>): T {
  if ('refused' in said) throw new Refused(said.refused.status, said.refused.problems);
  return said.value;
}
