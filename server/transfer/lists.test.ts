import type Joi from 'joi';
import { columnsOf, lists } from './lists';

/** Names that a row may have, as its schema says. */
function namesOf(row: Joi.Schema): string[] {
  const described = row.describe() as { keys?: object; matches?: { then: { keys: object } }[] };
  return Object.keys(described.keys ?? described.matches![0]!.then.keys).sort();
}

test.each(Object.entries(lists))('%s: every column goes out, and every name of a row is a column', (_name, list) => {
  const columns = columnsOf(list)
    .map(([, name]) => name)
    .sort();
  expect(columns.length).toBeGreaterThan(2);
  expect(namesOf(list.row)).toEqual(columns);
});
