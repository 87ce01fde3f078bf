import { formBounds } from '../../core/library/bounds';
import { parseWith } from '../../core/library/parseWith';
import { Refused } from './expected';
import { type Fields, type Field, type Out, shape } from './field';

/** Forms that were laid out already, by their fields: that takes longer than reading one. */
const forms = new WeakMap<Fields, Field<unknown>>();

/** Reads a form by its fields. @throws Refused 400 with every problem, each with its field */
export function parseForm<F extends Fields>(fields: F, data: unknown) {
  let form = forms.get(fields);
  if (!form) forms.set(fields, (form = shape(fields).required()));
  return parseWhole(form as ReturnType<typeof shape<F>>, data);
}

/** The same for what is more than a list of fields. */
export function parseWhole<F extends Field<unknown>>(form: F, data: unknown): Out<F> {
  const parsed = parseWith<Out<F>>(form.required(), data, formBounds, 'typed');
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}
