import { LRUCache } from 'lru-cache';
import type { ParamValues } from '../../core/library';
import { compile, minutesOf, type Procedure } from '../../core/procedure';

type Minutes = ReturnType<typeof minutesOf>;

/** Times of a procedure, by the numbers that it names; of so many vehicles at most. */
const kept = new WeakMap<Procedure, LRUCache<string, Minutes>>();
const mostKept = 100;

/** How long a procedure of the library takes with a vehicle's numbers; counted once for each set of them. */
export function keptMinutes(procedure: Procedure, values: ParamValues): Minutes {
  const name = JSON.stringify(procedure.params.map((p) => values[p]));
  let times = kept.get(procedure);
  if (!times) kept.set(procedure, (times = new LRUCache<string, Minutes>({ max: mostKept })));
  const before = times.get(name);
  if (before) return before;
  const minutes = minutesOf(compile(procedure), values);
  times.set(name, minutes);
  return minutes;
}
