import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import { checked, effect, id, reference, shortText, text, version } from '../library/schema';
import type { Result } from '../units';
import {
  doers,
  items,
  marks,
  moduleNames,
  networkQuiet,
  origins,
  partKinds,
  places,
  type Replacement,
  type SharedActs,
  stages,
  ways,
} from './documents';

const factNames = [networkQuiet, ...['$part', ...moduleNames].flatMap((part) => [...items, ...marks].map((what) => `${part}.${what}`))];
const facts = Joi.array()
  .items(Joi.string().valid(...factNames))
  .max(30)
  .unique()
  .default([]);
const someOrigins = Joi.array()
  .items(Joi.string().valid(...origins))
  .min(1)
  .unique();
const someParts = Joi.array()
  .items(Joi.string().valid(...moduleNames))
  .unique()
  .default([]);
const minutes = Joi.number().min(0).max(100_000);
const count = Joi.number().integer().min(1).max(20);

const act = Joi.object({
  id: id.required(),
  title: shortText.required(),
  why: text.required(),
  stage: Joi.string()
    .valid(...stages)
    .default('reset'),
  back: Joi.string()
    .valid(...ways)
    .required(),
  by: Joi.string()
    .valid(...doers)
    .required(),
  minutes: minutes.required(),
  attended: minutes.max(Joi.ref('minutes')).default(Joi.ref('minutes')),
  tools: Joi.array().items(shortText).max(10).default([]),
  money: Joi.number().min(0).max(1_000_000).default(0),
  risk: text,
  procedure: id,
  place: Joi.string().valid(...places),
  effect: effect.default('none'),
  each: Joi.string().valid(...partKinds),
  any: Joi.string().valid(...partKinds),
  replaced: Joi.object().pattern(Joi.string().valid(...moduleNames), someOrigins.required()),
  together: someParts,
  unlessReplaced: someParts,
  origins: someOrigins.default([...origins]),
  needs: facts,
  gives: facts,
  takes: facts,
  afterItems: Joi.array()
    .items(Joi.string().valid(...items))
    .unique()
    .default([]),
  keys: Joi.object({ learned: count, main: count, master: count }).default({}),
  bench: Joi.boolean().valid(true),
  insteadOf: id,
  untilInstalled: Joi.boolean().valid(true),
  warns: Joi.object({ id: id.required(), say: text.required() }),
}).oxor('each', 'any');

const hold = Joi.object({
  with: facts,
  kept: Joi.array()
    .items(Joi.string().valid(...origins))
    .unique()
    .default([]),
  later: Joi.boolean().valid(true),
  mileage: Joi.boolean().valid(true),
});

const part = Joi.alternatives()
  .conditional('.plain', { is: Joi.exist(), then: Joi.object({ title: shortText.required(), plain: text.required() }) })
  .conditional('.same', {
    is: Joi.exist(),
    then: Joi.object({
      same: Joi.string()
        .valid(...moduleNames)
        .required(),
    }),
  })
  .conditional('.absent', {
    is: Joi.exist(),
    then: Joi.object({ absent: text.required() }),
    otherwise: Joi.object({
      title: shortText.required(),
      electronic: Joi.boolean().default(true),
      holds: Joi.object()
        .pattern(Joi.string().valid(...items), hold)
        .min(1)
        .required(),
      learnsFirst: Joi.boolean().valid(true),
      otherwise: text.required(),
      warns: Joi.array().items(Joi.object({ id: id.required(), origins: someOrigins.required(), say: text.required() })),
    }),
  });

const head = {
  id: id.required(),
  version: version.required(),
  source: text.required(),
  checked: checked.required(),
};
const causes = Joi.array()
  .items(
    Joi.object({
      id: id.required(),
      say: text.required(),
      of: Joi.array()
        .items(Joi.string().valid(...moduleNames))
        .min(1)
        .unique()
        .required(),
    }),
  )
  .max(60)
  .unique('id')
  .default([]);
const acts = Joi.array().items(act).max(60).unique('id');

const replacementSchema = Joi.object({
  kind: Joi.string().valid('replacement').required(),
  ...head,
  use: Joi.array().items(reference).max(5).unique().default([]),
  without: Joi.array().items(id).max(20).unique().default([]),
  mainKeys: Joi.boolean().default(false),
  parts: Joi.object(Object.fromEntries(moduleNames.map((name) => [name, part.required()]))).required(),
  acts: acts.default([]),
  causes,
});
const sharedSchema = Joi.object({ kind: Joi.string().valid('replacement-acts').required(), ...head, acts: acts.min(1).required(), causes });

export const parseReplacement = (data: unknown): Result<Replacement> => parseWith<Replacement>(replacementSchema, data);
export const parseSharedActs = (data: unknown): Result<SharedActs> => parseWith<SharedActs>(sharedSchema, data);
