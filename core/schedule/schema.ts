import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import type { Result } from '../units';
import type { Instance } from './instance';
import { mostCases, mostSteps } from './limits';

const minutes = Joi.number().strict().min(0).max(10_000);
const name = Joi.string().trim().min(1).max(80);
const holds = Joi.array().items(name).max(8);

const step = Joi.alternatives().conditional(Joi.ref('.kind'), {
  is: 'wait',
  then: Joi.object({ kind: Joi.valid('wait').required(), minutes: minutes.required(), maxLateMinutes: minutes, holds }),
  otherwise: Joi.object({ kind: Joi.valid('attended', 'wait').required(), minutes: minutes.required(), holds }),
});

const schema = Joi.object({
  technicians: Joi.alternatives()
    .conditional(Joi.array(), {
      then: Joi.array()
        .items(Joi.object({ id: name.required(), busyMinutes: minutes }))
        .min(1)
        .max(12)
        .unique('id'),
      otherwise: Joi.number().strict().integer().min(1).max(12),
    })
    .required(),
  cases: Joi.array()
    .items(
      Joi.object({
        id: name.required(),
        steps: Joi.array().items(step).max(mostSteps).required(),
        promiseInMinutes: minutes,
        technicians: Joi.array().items(name).min(1).max(12),
        holding: holds,
      }),
    )
    .max(mostCases)
    .unique('id')
    .required(),
});

/** A schedule file (docs/formats.md). */
export const parseInstance = (data: unknown): Result<Instance> => parseWith<Instance>(schema, data);
