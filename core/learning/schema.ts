import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import { failed, type Result } from '../units';
import type { Exchange } from './exchange';
import { sentences } from './sentences';

const count = Joi.number().integer().min(0).max(1_000_000);
const sums = Joi.number().integer().min(0).max(Number.MAX_SAFE_INTEGER);
const name = /^[a-z][A-Za-z0-9]{0,59}$/;
const upTo = (most: number, schema: Joi.Schema, form: RegExp = name) => Joi.object().pattern(form, schema).max(most);

const exchanged = Joi.object({
  causes: upTo(200, count.min(1)).required(),
  tests: upTo(
    300,
    Joi.object({
      n: count.required(),
      off: count.max(Joi.ref('n')).required(),
      timed: count.required(),
      tenths: sums.required(),
      squares: sums.required(),
    }),
  ).required(),
  fixes: upTo(200, Joi.object({ timed: count.required(), tenths: sums.required(), squares: sums.required() })).required(),
});

const exchange = Joi.object({
  form: Joi.string().valid('bloodstone learned').required(),
  version: Joi.number().valid(1).required(),
  shop: Joi.string().trim().max(80).allow('').required(),
  exportedAt: Joi.string().isoDate().required(),
  families: upTo(60, exchanged, /^[a-z][a-z0-9-]{0,59}$/).required(),
});

/** Largest file that is read, bytes. */
export const mostExchangeBytes = 500_000;

/** Reads what another shop has exported. */
export function readExchange(text: string): Result<Exchange> {
  if (text.length > mostExchangeBytes) return failed({ code: 'large', path: 'file', message: sentences.tooLarge(mostExchangeBytes / 1000) });
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch {
    return failed({ code: 'json', path: 'file', message: sentences.notJson });
  }
  return parseWith<Exchange>(exchange, data);
}
