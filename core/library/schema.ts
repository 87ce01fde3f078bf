import Joi from 'joi';
import type { Result } from '../units';
import { parseWith } from './parseWith';
import { conditionSubjects } from './condition';
import type { CautionList, CommonParts, Family, FeatureList, Profile } from './documents';
import { dangerNames } from './dangers';
import { effects } from './gates';
import { parseExpression } from './expression';
import { renameIds } from './renamed';
import {
  abilities,
  aspects,
  changes,
  chipMemories,
  faultGroups,
  instrumentVerdicts,
  keyKinds,
  lampMoments,
  moduleHolds,
  partNames,
  proofs,
  symptoms,
  testPlaces,
  triageRoles,
} from './vocabulary';
import { lintSentences } from './lintSentences';

/** Building blocks that every form of content shares. */
export const id = Joi.string()
  .pattern(/^[a-z][A-Za-z0-9]*(-[a-z0-9]+)*$/, lintSentences.idForm)
  .max(60);
/** Texts are shown as they are written; what looks like mark-up was meant for something else. */
const plain = (value: string): string => {
  if (/<[a-z!/?]/i.test(value)) throw new Error('markup such as HTML is not shown; write plain text without “<”');
  return value;
};
export const text = Joi.string().trim().min(1).max(2000).custom(plain);
export const shortText = Joi.string().trim().min(1).max(160).custom(plain);
/** Where a number comes from: document and page, in as many words as a run takes for it. */
export const sourceText = Joi.string().trim().min(1).max(500).custom(plain);
export const version = Joi.number().integer().min(1).max(100000);
export const expression = Joi.any().custom((value: unknown) => {
  if ((typeof value !== 'number' && typeof value !== 'string') || !parseExpression(value))
    throw new Error('expected a number, or $parameter with an optional + or - number');
  return value;
});
export const checked = Joi.object({
  by: shortText.required(),
  on: Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/, lintSentences.dateForm)
    .required(),
}).allow(null);
export const effect = Joi.string().valid(...effects);
export const ids = Joi.array().items(id).max(60).default([]);

const fact = Joi.alternatives(Joi.string().max(60), Joi.number(), Joi.boolean()).options({ convert: false });
const comparison = Joi.object({
  ...Object.fromEntries(conditionSubjects.map((subject) => [subject, id])),
  is: fact,
  lt: expression,
  gt: expression,
  atLeast: expression,
})
  .xor(...conditionSubjects)
  .oxor('is', 'lt', 'gt', 'atLeast');
export const condition = Joi.alternatives()
  .conditional('.all', { is: Joi.exist(), then: Joi.object({ all: Joi.array().items(Joi.link('#condition')).min(1).required() }) })
  .conditional('.any', { is: Joi.exist(), then: Joi.object({ any: Joi.array().items(Joi.link('#condition')).min(1).required() }) })
  .conditional('.not', { is: Joi.exist(), then: Joi.object({ not: Joi.link('#condition').required() }), otherwise: comparison })
  .id('condition');

const head = (kind: string) => ({
  kind: Joi.string().valid(kind).required(),
  id: id.required(),
  version: version.required(),
  source: text.required(),
  checked: checked.required(),
});

export const param = Joi.alternatives().conditional('.oneOf', {
  is: Joi.exist(),
  then: Joi.object({ label: shortText.required(), oneOf: Joi.array().items(id).min(2).unique().required(), default: id.required() }),
  otherwise: Joi.object({
    label: shortText.required(),
    unit: Joi.string().valid('s', 'V', 'A', lintSentences.s, 'Ω', 'min', '').required(),
    min: Joi.number().required(),
    max: Joi.number().required(),
    default: Joi.number().required(),
    copied: Joi.string().valid('hex', 'decimal').when('unit', { is: '', otherwise: Joi.forbidden() }),
  }),
});

/** A time of a lamp: seconds, or a parameter. */
const lampSeconds = Joi.alternatives().conditional(Joi.number(), { then: Joi.number().positive().max(3600), otherwise: expression });
const segment = Joi.alternatives()
  .conditional('.repeat', {
    is: Joi.exist(),
    then: Joi.object({ repeat: Joi.array().items(Joi.link('#segment')).min(1).max(20).required() }),
    otherwise: Joi.alternatives().conditional('.flashes', {
      is: Joi.exist(),
      then: Joi.object({ flashes: Joi.array().items(Joi.link('#segment')).min(1).max(4).required(), times: expression.required() }),
      otherwise: Joi.object({ on: lampSeconds, off: lampSeconds }).xor('on', 'off'),
    }),
  })
  .id('segment');

const statement = Joi.object({
  link: id.required(),
  state: Joi.string().valid('holds', 'doubtful', 'broken').required(),
  weight: Joi.string().valid('direct', 'hint').required(),
  when: condition,
});

const ability = Joi.string().valid(...Object.keys(abilities));

const outcome = Joi.object({
  say: shortText.required(),
  lamp: id,
  says: Joi.array().items(statement).max(20).default([]),
  provesAll: Joi.boolean(),
  frees: Joi.boolean(),
  abilities: Joi.object().pattern(ability, Joi.string().valid('yes', 'no')).min(1),
});

/** How often something is so, 0 to 1. */
const chance = Joi.number().min(0).max(1);
const chances = Joi.object().pattern(id, chance).min(1);
const chanceRow = Joi.alternatives().conditional(Joi.array(), {
  then: Joi.array()
    .items(Joi.object({ when: condition, p: chances.required() }))
    .min(1)
    .max(9),
  otherwise: chances,
});
/** `default`, a fault, or `aspect.state`. */
const rowName = Joi.string().pattern(/^[a-z][A-Za-z0-9]*([.][a-z][A-Za-z0-9]*)?$/, lintSentences.rowForm);

/** A test, or one outcome of a test: `detectorProven.works`. */
const afterName = Joi.string().pattern(/^[a-z][A-Za-z0-9]*([.][a-z][A-Za-z0-9]*)?$/, lintSentences.testForm);

const showing = Joi.object(
  Object.fromEntries(
    Object.entries(aspects).map(([name, states]) => {
      const state = Joi.string().valid(...states);
      return [
        name,
        Joi.alternatives().conditional(Joi.object(), { then: Joi.object().pattern(state, Joi.number().greater(0).max(1)).min(1), otherwise: state }),
      ];
    }),
  ),
);
const money = Joi.number().min(0).max(100_000);
/** Acts that a text only names. */
export const harmless = Joi.array()
  .items(Joi.string().valid(...dangerNames))
  .min(1)
  .unique();
const fault = Joi.object({
  id: id.required(),
  title: shortText.required(),
  link: id.required(),
  group: Joi.string()
    .valid(...Object.keys(faultGroups))
    .required(),
  prior: Joi.number().greater(0).max(1_000_000).required(),
  priorSource: text,
  lifts: Joi.object().pattern(Joi.string().valid(...Object.keys(changes), ...Object.keys(symptoms)), Joi.number().greater(0).max(1000)),
  like: id,
  shows: showing,
  perKey: Joi.boolean(),
  looks: text.required(),
  cure: Joi.object({
    do: text.required(),
    minutes: Joi.number().greater(0).max(10_000).required(),
    money,
    penalty: money,
    procedure: id,
    part: Joi.string().valid(...partNames),
    or: Joi.object({
      title: shortText.required(),
      do: text.required(),
      minutes: Joi.number().greater(0).max(10_000).required(),
      money: money.required(),
      holds: Joi.number().greater(0).less(1).required(),
      risk: text.required(),
    }),
    after: Joi.object({ tests: Joi.array().items(id).min(1).max(10).unique().required(), why: text.required() }),
    effect,
    cautions: Joi.array().items(id).min(1).max(60).unique(),
    harmless,
    unless: Joi.array().items(afterName).min(1).max(12).unique(),
  }).required(),
  prove: Joi.object({
    say: text.required(),
    putBack: Joi.boolean(),
    how: Joi.string().valid(...Object.keys(proofs)),
    starts: Joi.number().integer().min(1).max(50),
    waitMin: Joi.number().min(1).max(2880),
  }).required(),
});

const instrument = Joi.object({
  kind: Joi.string()
    .valid(...Object.keys(instrumentVerdicts))
    .required(),
  as: Joi.object().pattern(id, id).min(1).required(),
  hit: Joi.when('kind', { is: 'trials', then: shortText.required(), otherwise: Joi.forbidden() }),
  atLeast: Joi.when('kind', { is: 'trials', then: Joi.number().integer().min(1).max(1000).required(), otherwise: Joi.forbidden() }),
});

const test = Joi.object({
  id: id.required(),
  title: shortText.required(),
  do: text.required(),
  minutes: Joi.number().positive().max(600).required(),
  perKey: Joi.boolean().default(false),
  where: Joi.string().valid(...testPlaces),
  triage: Joi.array()
    .items(Joi.string().valid(...triageRoles))
    .min(1)
    .unique(),
  tools: Joi.array().items(shortText).default([]),
  effect: effect.required(),
  cautions: ids,
  harmless,
  outcomes: Joi.object().pattern(id, outcome).min(2).max(9).required(),
  p: Joi.object().pattern(rowName, chanceRow).min(1),
  humanError: Joi.number().min(0).max(0.4),
  independent: Joi.boolean(),
  recorded: Joi.boolean().valid(true),
  live: Joi.when('where', { is: 'scanTool', then: Joi.boolean().valid(true), otherwise: Joi.forbidden() }),
  money,
  penalty: money,
  needs: Joi.object({
    keys: Joi.string().valid('second'),
    after: Joi.array().items(afterName).min(1).max(9).unique(),
    unless: Joi.array().items(afterName).min(1).max(12).unique(),
  }).min(1),
  instrument,
  same: id,
});

const statementOfCustomer = Joi.object({
  symptom: Joi.string()
    .valid(...Object.keys(symptoms))
    .required(),
  reliability: Joi.number().greater(0).less(1).required(),
  p: Joi.object()
    .pattern(
      rowName,
      Joi.alternatives().conditional(Joi.array(), {
        then: Joi.array()
          .items(Joi.object({ when: condition, p: chance.required() }))
          .min(1)
          .max(9),
        otherwise: chance,
      }),
    )
    .min(1)
    .required(),
});

const nextRule = Joi.object({
  why: text.required(),
  when: condition,
  test: id,
  again: Joi.boolean(),
  procedure: id,
  verify: Joi.boolean().valid(true),
})
  .xor('test', 'procedure', 'verify')
  .with('again', 'test');

/** How often a value is found, a part of one. */
const share = Joi.number().greater(0).max(1);

const oneOf = (allowed: Record<string, string>) =>
  Joi.array()
    .items(Joi.string().valid(...Object.keys(allowed)))
    .min(1)
    .unique();
const newKey = Joi.object({
  kinds: oneOf(keyKinds),
  chips: Joi.array().items(shortText).min(1),
  bands: Joi.array().items(shortText).min(1),
  memories: oneOf(chipMemories),
});

/** `start@1`: a document of common parts, in one version. */
export const reference = Joi.string().pattern(/^[a-z][A-Za-z0-9]*(-[a-z0-9]+)*@[1-9]\d{0,4}$/, lintSentences.referenceForm);

const familySchema = Joi.object({
  ...head('family'),
  use: Joi.array().items(reference).max(10).unique().default([]),
  title: shortText.required(),
  text: Joi.object({
    what: text.required(),
    how: text.required(),
    advice: Joi.array().items(text).default([]),
    misses: Joi.array().items(text).default([]),
    papers: Joi.object({
      found: text.pattern(/\$cause\b/, lintSentences.sentenceWith('$cause')).required(),
      proven: text.pattern(/\$keys\b/, lintSentences.sentenceWith('$keys')).required(),
    }),
  }).required(),
  params: Joi.object().pattern(id, param).required(),
  chain: Joi.array()
    .items(
      Joi.object({ id: id.required(), title: shortText.required(), perKey: Joi.boolean().default(false), when: condition, how: text.required() }),
    )
    .min(2)
    .max(20)
    .required(),
  lamps: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        title: shortText.required(),
        moment: Joi.string()
          .valid(...lampMoments)
          .required(),
        segments: Joi.array().items(segment).min(1).max(20),
        message: shortText,
        decisiveS: Joi.number().positive().max(3600).required(),
        meaning: text,
        act: text,
        means: Joi.object({ test: id.required(), outcome: id.required() }),
      }).xor('segments', 'message'),
    )
    .default([]),
  tests: Joi.array().items(test).min(1).required(),
  verdicts: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        when: condition.required(),
        kind: Joi.string().valid('leave', 'act', 'look', 'cured', 'unknown').required(),
        say: text.required(),
        steps: Joi.array()
          .items(Joi.object({ do: shortText.required(), until: Joi.array().items(id).min(1).max(4).unique() }))
          .min(1)
          .max(4),
      }),
    )
    .default([]),
  next: Joi.array().items(nextRule).min(1).required(),
  // Documents of before the list existed mean the abilities that were judged then.
  verify: Joi.array().items(ability).min(1).unique().default(['turns', 'remote', 'accepted', 'cranks', 'runs']),
  newKey: newKey.allow(null).default(null),
  modules: Joi.object()
    .pattern(
      id,
      Joi.object({
        title: shortText.required(),
        holds: Joi.array()
          .items(Joi.string().valid(...Object.keys(moduleHolds)))
          .min(1)
          .unique()
          .required(),
      }),
    )
    .default({}),
  features: Joi.object().pattern(id, Joi.object().pattern(id, share).min(1)).default({}),
  faults: Joi.array().items(fault).max(80),
  often: Joi.object().pattern(id, Joi.number().min(0).max(1_000_000)),
  fixedBy: Joi.object().pattern(id, id),
  without: Joi.array().items(id).min(1).max(30).unique(),
  statements: Joi.array().items(statementOfCustomer).max(20),
  elsewhere: Joi.object({ prior: Joi.number().greater(0).less(1).required(), minutes: Joi.number().min(0).required(), money: money.required() }),
  fixed: Joi.array().items(id).min(1).max(60).unique(),
});

const featuresSchema = Joi.object({
  ...head('features'),
  features: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        ask: text.required(),
        error: Joi.number().min(0.001).max(0.4).required(),
        lookedUp: Joi.boolean().default(false),
        // `cantSee` is the answer of whoever has none.
        values: Joi.object().pattern(id.invalid('cantSee'), shortText).min(2).max(20).required(),
      }),
    )
    .min(1)
    .max(60)
    .unique('id')
    .required(),
});

const commonSchema = Joi.object({
  ...head('common'),
  use: Joi.array().items(reference).max(10).unique().default([]),
  tests: Joi.array().items(test).max(60).unique('id').default([]),
  faults: Joi.array().items(fault).max(80).unique('id'),
  pictures: Joi.object().pattern(id, showing),
  statements: Joi.array().items(statementOfCustomer).max(20).unique('symptom'),
}).or('tests', 'faults', 'statements');

const profileSchema = Joi.object({
  ...head('profile'),
  title: shortText.required(),
  family: id.required(),
  values: Joi.object()
    .pattern(
      id,
      Joi.object({
        value: Joi.alternatives(Joi.number(), Joi.string().max(60)).options({ convert: false }).required(),
        source: sourceText.required(),
        by: shortText.required(),
      }),
    )
    .default({}),
  newKey,
  seen: Joi.object().pattern(id, id).max(60),
  ladder: id,
});

const cautionsSchema = Joi.object({
  ...head('cautions'),
  cautions: Joi.array()
    .items(Joi.object({ id: id.required(), say: text.required(), confirm: Joi.boolean().required(), training: text }))
    .min(1)
    .unique('id')
    .required(),
});

export const parseFeatures = (data: unknown): Result<FeatureList> => parseWith<FeatureList>(featuresSchema, data);
export const parseCommon = (data: unknown): Result<CommonParts> => parseWith<CommonParts>(commonSchema, renameIds(data));
export const parseFamily = (data: unknown): Result<Family> => parseWith<Family>(familySchema, renameIds(data));
export const parseProfile = (data: unknown): Result<Profile> => parseWith<Profile>(profileSchema, renameIds(data));
export const parseCautions = (data: unknown): Result<CautionList> => parseWith<CautionList>(cautionsSchema, data);
