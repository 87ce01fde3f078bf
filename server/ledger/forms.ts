import Joi from 'joi';
import { longestLookS } from '../../core/lamp';
import { type LampMoment, lampMoments } from '../../core/library';
import { id, tag } from '../base/fields';
import { optionalLine, parseForm, quantity } from '../base/parseForm';
import { type RepairActionKind, repairActionKinds } from '../db/schema';

/** Forms of what is recorded in a case: tests, repairs, lights that were watched. */

export interface NewEvidence {
  test: string;
  outcome: string;
  key?: string;
  note: string;
  replaces?: string;
  /** How long it took. */
  minutes?: number;
}
/** A tenth of a minute is as fine as anybody counts, and a day is longer than any test. */
const minutes = quantity({ unit: 'min', min: 0, max: 1440 })
  .custom((n: number) => Math.round(n * 10) / 10)
  .empty('');
export const parseEvidence = (data: unknown) =>
  parseForm<NewEvidence>(
    Joi.object({ test: id.required(), outcome: id.required(), key: tag.empty(''), note: optionalLine(500), replaces: id.empty(''), minutes }),
    data,
  );

/** Something done about a fault. */
export interface NewRepairAction {
  kind: RepairActionKind;
  fault: string;
  key?: string;
  result: 'works' | 'fails' | 'done';
  note: string;
  replaces?: string;
  minutes?: number;
}
export const parseRepairAction = (data: unknown) =>
  parseForm<NewRepairAction>(
    Joi.object({
      kind: Joi.string()
        .valid(...repairActionKinds)
        .required(),
      fault: id.required(),
      key: tag.empty(''),
      result: Joi.string()
        .when('kind', { is: 'repair', then: Joi.valid('works', 'fails', 'done'), otherwise: Joi.valid('works', 'fails') })
        .required(),
      note: optionalLine(500),
      replaces: id.empty(''),
      minutes,
    }),
    data,
  );

/** A lamp that was watched, as the bench sends it. Without lights and length it was judged by eye to be none of the family's patterns. */
export interface NewLook {
  case: number;
  key?: string;
  moment: LampMoment;
  origin: 'tapped' | 'file' | 'eye';
  file: string;
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
}
/** More lights than a look that was kept can hold. */
const mostLights = 3000;
/** Lights of a new look: each is weighed under every pattern of every system, on the thread that answers pages. Flashing four times a second these are 100 s. */
const mostNewLights = 400;
const seconds = Joi.number().min(0).max(longestLookS);
const lights = (most: number) => Joi.array().items(Joi.array().ordered(seconds.required(), seconds.required()).length(2)).max(most).default([]);
export const lookFields = {
  moment: Joi.string()
    .valid(...lampMoments)
    .required(),
  lit: lights(mostLights),
  litAtEnd: Joi.boolean().default(false),
  lengthS: seconds.default(0),
};
export const parseLook = (data: unknown) =>
  parseForm<NewLook>(
    Joi.object({
      ...lookFields,
      lit: lights(mostNewLights),
      case: Joi.number().integer().min(1).max(999_999_999).required(),
      key: tag.empty(''),
      origin: Joi.string().valid('tapped', 'file', 'eye').required(),
      file: optionalLine(160),
    }),
    data,
  );

/** A light in a video that was watched and tapped along. */
export const film = Joi.object({ ...lookFields, lit: lights(mostNewLights), lengthS: seconds.greater(0).required() });
