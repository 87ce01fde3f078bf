import Joi from 'joi';
import { formBounds } from '../../core/library/bounds';
import { parseWith, Said } from '../../core/library/parseWith';
import { type Quantity, readQuantity } from '../../core/units';
import { Refused } from './expected';

/** Signs that no text needs and that do harm in one: control signs, and those that turn the direction of what follows. */
const harmful = {
  line: /\p{Cc}|[\u2028-\u202e\u2066-\u2069]/u,
  text: /(?![\t\n\r])\p{Cc}|[\u202a-\u202e\u2066-\u2069]/u,
};

const clean = (kind: keyof typeof harmful) => (value: string) => {
  const at = value.search(harmful[kind]);
  if (at >= 0) throw new Error(`a character that can’t be saved is at position ${at + 1}; remove it`);
  if (/\p{Surrogate}/u.test(value)) throw new Error('half a character is in it; type it again');
  return value;
};

/** Text of one line, without control signs. */
export const line = (max: number) => Joi.string().trim().max(max).custom(clean('line'));
export const optionalLine = (max: number) => line(max).allow('').default('');
/** Text that may have several lines. */
export const text = (max: number) => Joi.string().trim().max(max).custom(clean('text'));
/** Name of something in a list: compared, never shown. */
export const name = line(80);

/** A number as people write it, with the unit it is asked for in; from a program it may be a number. What can be meant in two ways is asked. */
export const quantity = (to: Quantity): Joi.Schema =>
  Joi.any().custom((value: unknown) => {
    if (typeof value !== 'number' && typeof value !== 'string') throw new Said('This is not a number. Type a number.');
    const read = readQuantity(String(value), to);
    if (!read.ok) throw new Said(read.problems[0]!.message);
    return read.value;
  });

/** @throws Refused 400 with every problem, each with its field */
export function parseForm<T>(schema: Joi.Schema, data: unknown): T {
  const parsed = parseWith<T>(schema, data, formBounds, 'typed');
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}
