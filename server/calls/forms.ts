import Joi from 'joi';
import { line, optionalLine, parseForm, text } from '../base/parseForm';
import { film } from '../ledger/forms';
import type { CallForm } from './calls';

/** What was said on the phone; nothing of it is needed, since callers hang up. */
export const parseCall = (data: unknown) =>
  parseForm<CallForm>(
    Joi.object({
      customer: optionalLine(80),
      phone: optionalLine(40),
      vehicle: optionalLine(120),
      plate: optionalLine(16),
      words: text(2000).allow('').default(''),
      system: Joi.string()
        .pattern(/^(family|profile):[A-Za-z0-9-]{1,60}$/, 'one of the system types in the list')
        .allow('')
        .default(''),
      answers: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, line(60))
        .max(40)
        .default({}),
      film: film.empty(Joi.valid(null)).default(null),
    }),
    data,
  );
