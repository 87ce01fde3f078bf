import Joi from 'joi';
import { type CommandBody, interruptions, maxReason } from '../../core/procedure';
import { id } from '../base/fields';
import { line, optionalLine, parseForm, text } from '../base/parseForm';

export const parseStartRun = (data: unknown) => parseForm<{ procedure: string }>(Joi.object({ procedure: id.required() }), data);

/** What the run screen sends; times are checked here, their meaning in core. */
export type RunCommand = { id: string; expectedSeq: number; occurredAt: number } & CommandBody;
const envelope = { id: id.required(), expectedSeq: Joi.number().integer().min(1).required(), occurredAt: Joi.number().min(0).required() };
const step = id.required();
const reason = text(maxReason).allow('').required();
const runForms: Record<string, Joi.ObjectSchema> = {
  answer: Joi.object({ ...envelope, type: Joi.any(), step, answer: id.required(), value: Joi.number(), note: line(maxReason).empty('') }),
  waive: Joi.object({ ...envelope, type: Joi.any(), step, reason }),
  interrupt: Joi.object({
    ...envelope,
    type: Joi.any(),
    what: Joi.string()
      .valid(...interruptions)
      .required(),
    note: optionalLine(maxReason),
  }),
  number: Joi.object({
    ...envelope,
    type: Joi.any(),
    name: id.required(),
    value: line(60).required(),
    source: line(maxReason).required(),
    confirmed: Joi.boolean().default(false),
  }),
  takeBack: Joi.object({ ...envelope, type: Joi.any(), event: id.required() }),
  stop: Joi.object({ ...envelope, type: Joi.any(), reason }),
};
const runCommand = Object.entries(runForms).reduce<Joi.Schema>(
  (otherwise, [type, form]) => Joi.alternatives().conditional('.type', { is: type, then: form, otherwise }),
  Joi.object({
    type: Joi.string()
      .valid(...Object.keys(runForms))
      .required(),
  }).unknown(),
);
export const parseRunCommand = (data: unknown): RunCommand => parseForm<RunCommand>(runCommand, data);
