import Joi from 'joi';
import { checked, id, shortText, text, version } from '../library/schema';
import { parseWith } from '../library/parseWith';
import { failed, type Result } from '../units';
import type { Ladder } from './ladder';
import { mostSteps } from './ladderFile';
import { lintLadder } from './lintLadder';

const ohms = Joi.number().positive().max(1e9);
const ladderSchema = Joi.object({
  kind: Joi.string().valid('ladder').required(),
  id: id.required(),
  version: version.required(),
  title: shortText.required(),
  source: text.required(),
  checked: checked.required(),
  pellets: Joi.number().valid(1, 2).required(),
  contactOhms: Joi.number().min(0).max(1000),
  ppmPerKelvin: Joi.number().min(-20_000).max(20_000),
  steps: Joi.array()
    .items(
      Joi.object({
        step: Joi.number().integer().min(0).max(9999).required(),
        nominal: ohms.required(),
        low: ohms.required(),
        high: ohms.required(),
      }),
    )
    .min(1)
    .max(mostSteps)
    .required(),
});

/** A ladder from a file or a form: its form, and that its steps can be told apart. */
export function parseLadder(data: unknown): Result<Ladder> {
  const parsed = parseWith<Ladder>(ladderSchema, data);
  if (!parsed.ok) return parsed;
  const errors = lintLadder(parsed.value).filter((p) => p.severity === 'error');
  return errors.length > 0 ? failed(...errors.map(({ code, path, message }) => ({ code, path, message }))) : parsed;
}
