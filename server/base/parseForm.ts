import { formBounds } from '../../core/library/bounds';
import { parseWith } from '../../core/library/parseWith';
import { Refused } from './expected';
import { type Fields, type Field, type Out, shape } from './field';

/** Reads a form by its fields. @throws Refused 400 with every problem, each with its field */
export function parseForm<F extends Fields>(fields: F, data: unknown) {
  return parseWhole(shape(fields), data);
}

/** The same for what is more than a list of fields. */
export function parseWhole<F extends Field<unknown>>(form: F, data: unknown): Out<F> {
  const parsed = parseWith<Out<F>>(form.required(), data, formBounds, 'typed');
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}
