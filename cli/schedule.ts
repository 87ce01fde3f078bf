import { type Plan, planOf } from '../core/schedule';
import { parseInstance } from '../core/schedule/schema';
import { CannotUse } from './fail';
import { readJson } from './readJson';

/** `schedule plan`: the order of touches for several cars. */
export function schedulePlan(file: string): Plan {
  const parsed = parseInstance(readJson(file, '{"technicians":1,"cases":[{"id":"a","steps":[{"kind":"attended","minutes":2}]}]}'));
  if (!parsed.ok) {
    const { path, message } = parsed.problems[0]!;
    throw new CannotUse(`${file}: ${path}: ${message}`);
  }
  return planOf(parsed.value);
}
