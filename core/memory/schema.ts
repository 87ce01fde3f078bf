import Joi from 'joi';
import { checked, id, shortText, text, version } from '../library/schema';
import { parseWith } from '../library/parseWith';
import { failed, type Result } from '../units';
import { mostAddress, mostBytes } from './image';
import type { Layout } from './layout';
import { lintLayout } from './lintLayout';

const place = Joi.number().integer().min(0).max(mostBytes);
const length = Joi.number().integer().min(1).max(mostBytes);
/** Most slots, and most fields, areas, mirrors and checksums of a layout. */
const [mostSlots, mostParts] = [1000, 60];
const part = { id: id.required(), title: shortText.required(), at: place.required(), bytes: length.required() };
const parts = (item: Joi.ObjectSchema) => Joi.array().items(item).max(mostParts).unique('id').default([]);

const layoutSchema = Joi.object({
  kind: Joi.string().valid('layout').required(),
  id: id.required(),
  version: version.required(),
  title: shortText.required(),
  family: id.required(),
  source: text.required(),
  checked: checked.required(),
  base: Joi.number().integer().min(0).max(mostAddress).default(0),
  bytes: length.required(),
  order: Joi.string().valid('high', 'low').required(),
  empty: Joi.number().integer().min(0).max(255).required(),
  slots: Joi.object({
    at: place.required(),
    bytes: length.max(4096).required(),
    count: Joi.number().integer().min(1).max(mostSlots).required(),
    first: Joi.number().integer().min(0).max(1000).required(),
  }).required(),
  fields: parts(
    Joi.object({
      ...part,
      kind: Joi.string().valid('state', 'identity', 'role', 'band', 'counter', 'secret', 'other').required(),
      values: Joi.object()
        .pattern(/^[a-z][a-zA-Z0-9]{0,20}$/, Joi.number().integer().min(0))
        .min(1)
        .max(40),
    }),
  ).min(1),
  areas: parts(Joi.object({ ...part, kind: Joi.string().valid('counter', 'secret', 'other').required() })),
  mirrors: parts(Joi.object({ ...part, from: place.required() })),
  checksums: parts(
    Joi.object({
      ...part,
      kind: Joi.string().valid('sum', 'xor', 'crc16').required(),
      each: Joi.string().valid('slot'),
      over: Joi.object({ at: place.required(), bytes: length.required() }).required(),
      inverted: Joi.boolean(),
    }),
  ),
});

/** A layout from a file or a form: its form, and that it fits in itself. */
export function parseLayout(data: unknown): Result<Layout> {
  const parsed = parseWith<Layout>(layoutSchema, data);
  if (!parsed.ok) return parsed;
  const problems = lintLayout(parsed.value);
  return problems.length > 0 ? failed(...problems) : parsed;
}
