import type { Caution } from './documents';

/** What not everybody is trained for, in words, by the caution that stands before it. */
export const trainingsOf = (cautions: ReadonlyMap<string, Caution>): Record<string, string> =>
  Object.fromEntries([...cautions.values()].flatMap(({ id, training }) => (training === undefined ? [] : [[id, training]])));
