import { Refused } from '../base/expected';

/** What a reading says, as it goes between two processes: a refusal is data too. */
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
