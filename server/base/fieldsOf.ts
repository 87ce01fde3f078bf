import { isForbiddenName } from '../../core/library/bounds';
import { Refused } from './expected';

/** More fields than any form has. */
const maxFields = 400;

/**
 * A submitted form as nested data: `key.0.tag` becomes `keys`-like lists, a repeated name becomes a list. Files are not taken here. Goes down only
 * into objects made here, which inherit from nothing; a name that would reach a prototype is refused wherever it stands.
 * @throws Refused when there are more fields than any form has, a name is forbidden, or one name means a text and a group at once
 */
export function fieldsOf(form: FormData): Record<string, unknown> {
  const root = group();
  let count = 0;
  for (const [name, value] of form) {
    count += 1;
    if (count > maxFields || typeof value !== 'string') throw notOurForm();
    const parts = name.split('.', maxParts + 1);
    if (parts.length > maxParts || parts.some(isForbiddenName)) throw notOurForm();
    let at = root;
    for (const part of parts.slice(0, -1)) {
      const next = (at[part] ??= group());
      if (!isGroup(next)) throw notOurForm();
      at = next;
    }
    const last = parts.at(-1)!;
    const before = at[last];
    if (isGroup(before)) throw notOurForm();
    if (before === undefined) at[last] = value;
    else if (Array.isArray(before)) before.push(value);
    else at[last] = [before, value];
  }
  return plain(root) as Record<string, unknown>;
}

type Group = Record<string, unknown>;
const group = (): Group => Object.create(null) as Group;
const isGroup = (value: unknown): value is Group => typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === null;
/** Parts of the longest name of a field: `keys.0.told.turns`. */
const maxParts = 4;
const notOurForm = () =>
  new Refused(400, [{ code: 'form', path: '', message: 'This form was not filled in on its own page. Reload the page and fill it in there.' }]);

/** Objects whose names are 0, 1, 2 … become lists. */
function plain(value: unknown): unknown {
  if (Array.isArray(value) || typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [k, plain(v)] as const);
  return entries.length > 0 && entries.every(([k]) => /^\d{1,3}$/.test(k))
    ? entries.sort(([a], [b]) => Number(a) - Number(b)).map(([, v]) => v)
    : Object.fromEntries(entries);
}
