import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import { checked, condition, effect, expression, harmless, id, ids, param, reference, shortText, text, version } from '../library/schema';
import type { Result } from '../units';
import { interruptionPolicies, interruptions, kindOrder, type Procedure, type SharedSteps, stepKinds } from './definition';
import { draftKinds, type Written } from './draft/draft';
import { lintSentences } from './lintSentences';

const policy = Joi.string().valid(...interruptionPolicies);
const target = Joi.string().pattern(/^(next|leaveLoop|restartStep|restartCycle|restart|stop\.[a-z][A-Za-z0-9]*)$/, lintSentences.targetForm);
const evidence = Joi.object({ test: id.required(), outcome: id.required() });
const steps = Joi.array().items(Joi.link('#step')).min(1).max(200);
const common = {
  id: id.required(),
  label: Joi.string().trim().min(1).max(24),
  when: condition,
  lamp: id,
  key: Joi.string().valid('last'),
  cautions: ids,
  harmless,
  takes: Joi.number().min(0).max(3600).default(10),
};

const stepForms = {
  do: Joi.object({ ...common, do: text.required(), hint: text, done: shortText.default(lintSentences.done), restartHere: Joi.boolean() }),
  confirm: Joi.object({
    ...common,
    confirm: text.required(),
    hint: text,
    done: shortText.default(lintSentences.yes),
    reads: Joi.string().valid('communicationCodes'),
    waivable: Joi.boolean().default(false),
  }),
  value: Joi.object({
    ...common,
    ask: text.required(),
    hint: text,
    value: Joi.object({
      unit: Joi.string().max(4).allow('').required(),
      whole: Joi.boolean(),
      min: Joi.number().required(),
      max: Joi.number().required(),
      atLeast: expression,
      atMost: expression,
      battery: Joi.string().valid('rested', 'loaded'),
    }).required(),
    unmet: text.required(),
    waivable: Joi.boolean().default(false),
  }),
  wait: Joi.object({
    ...common,
    do: text.required(),
    wait: Joi.object({
      from: Joi.alternatives(
        Joi.array().items(id),
        id.custom((one: string) => [one]),
      ).default([]),
      min: expression.required(),
      max: expression,
      and: Joi.string().valid('lampOut'),
      window: expression,
      amber: expression,
      red: expression,
    })
      .oxor('max', 'and')
      .with('window', 'and')
      .with('amber', ['and', 'red'])
      .with('red', ['and', 'amber'])
      .required(),
    late: target,
    lateSay: text,
    amberSay: text,
    redSay: text,
    redTo: target,
  }),
  hold: Joi.object({
    ...common,
    do: text.required(),
    hint: text,
    hold: Joi.object({ min: expression.required(), max: expression, counted: Joi.boolean().default(true) }).required(),
    late: target,
    lateSay: text,
  }),
  count: Joi.object({
    ...common,
    do: text.required(),
    hint: text,
    count: Joi.object({ n: expression.required(), within: expression }).required(),
    done: shortText.default(lintSentences.countedN),
    other: target,
    otherSay: shortText.default(lintSentences.anotherCount),
    late: target,
    lateSay: text,
  }),
  message: Joi.object({ ...common, ask: text.required(), hint: text, message: id.required(), within: expression, absent: target.required() }),
  twoEntry: Joi.object({
    ...common,
    ask: text.required(),
    hint: text,
    twoEntry: Joi.object({
      length: expression.required(),
      alphabet: Joi.string().valid('decimal', 'hex').required(),
      vault: Joi.boolean().default(false),
    }).required(),
  }),
  file: Joi.object({
    ...common,
    ask: text.required(),
    hint: text,
    file: Joi.object({ sameAs: id, except: Joi.string().trim().min(1).max(40) })
      .with('except', 'sameAs')
      .required(),
    differs: target,
  }),
  reading: Joi.object({
    ...common,
    ask: text.required(),
    hint: text,
    reading: Joi.string().valid('ladder', 'fobCell', 'coil', 'burst').required(),
  }),
  use: Joi.object({ use: reference.required() }),
  observe: Joi.object({
    ...common,
    observe: text.required(),
    hint: text,
    answers: Joi.object()
      .pattern(id, Joi.object({ say: shortText.required(), hint: shortText, to: target.required(), evidence }))
      .min(2)
      .max(9)
      .required(),
  }),
  commitment: Joi.object({
    ...common,
    commitment: text.required(),
    hint: text,
    done: shortText.required(),
    recheck: Joi.array().items(Joi.string().valid('authority', 'keys')).required(),
  }),
  choice: Joi.object({
    ...common,
    choice: Joi.object({ ask: text.required(), param: id }).required(),
    cases: Joi.object()
      .pattern(id, Joi.object({ say: shortText.required(), steps: Joi.array().items(Joi.link('#step')).max(200).default([]) }))
      .min(2)
      .max(9)
      .required(),
  }),
  repeat: Joi.object({
    repeat: Joi.object({
      id: id.required(),
      min: expression.required(),
      max: expression.required(),
      until: Joi.object({ answer: id.required(), is: id.required() }),
      odds: Joi.number().min(0).max(1),
    }).required(),
    when: condition,
    exhausted: target,
    steps: steps.required(),
  }),
  each: Joi.object({
    each: Joi.object({ id: id.required(), keys: Joi.string().valid('further').required() }).required(),
    when: condition,
    steps: steps.required(),
  }),
} satisfies Record<(typeof stepKinds)[number], Joi.ObjectSchema>;

/** None of the known kinds: says which there are. */
const unknownKind = Joi.any().custom(() => {
  throw new Error(`no known kind of step. Known kinds: ${stepKinds.join(', ')}`);
});

/** `wait` and `do` can stand in one step, so the kind is the first of {@link kindOrder} that is there. */
const step = kindOrder
  .toReversed()
  .reduce<Joi.Schema>(
    (otherwise, kind) => Joi.alternatives().conditional(`.${kind}`, { is: Joi.exist(), then: stepForms[kind], otherwise }),
    unknownKind,
  )
  .id('step');

/** Steps of a text as they were confirmed; a form of the shop sends the same. */
const seconds = Joi.number().min(0).max(86_400);
const writtenForm = Joi.object({
  text: Joi.string().allow('').max(20_000).required(),
  noReturn: id,
  steps: Joi.array()
    .items(
      Joi.object({
        id: id.required(),
        kind: Joi.string()
          .valid(...draftKinds)
          .required(),
        text: Joi.string().trim().min(1).max(600).required(),
        line: Joi.number().integer().min(1).max(5000).required(),
        minS: seconds,
        maxS: seconds,
        withinS: seconds,
        n: Joi.number().integer().min(1).max(200),
        max: Joi.number().integer().min(1).max(50),
        from: id,
      }),
    )
    .unique('id')
    .min(1)
    .max(150)
    .required(),
});

const schema = Joi.object({
  kind: Joi.string().valid('procedure').required(),
  id: id.required(),
  version: version.required(),
  title: shortText.required(),
  family: id.required(),
  source: text.required(),
  checked: checked.required(),
  text: text.required(),
  params: ids,
  numbers: Joi.object().pattern(id, param),
  effect: effect.required(),
  keys: Joi.alternatives(Joi.valid('all', 'one'), Joi.object({ learned: Joi.number().integer().min(1).max(4).required() })),
  cautions: ids,
  tools: Joi.array().items(shortText).min(1).max(8).unique(),
  interrupted: Joi.object({ default: policy.required(), ...Object.fromEntries(interruptions.map((i) => [i, policy])) }).required(),
  measure: stepForms.value,
  written: writtenForm,
  copyOf: Joi.object({ id: id.required(), version: version.required() }),
  disconnected: Joi.object({ from: id.required(), until: id.required() }),
  steps: steps.required(),
  stops: Joi.object()
    .pattern(id, Joi.object({ text: text.required(), evidence }))
    .default({}),
}).shared(step);

const sharedSteps = Joi.object({
  kind: Joi.string().valid('steps').required(),
  id: id.required(),
  version: version.required(),
  title: shortText.required(),
  source: text.required(),
  checked: checked.required(),
  params: ids,
  measure: stepForms.value,
  steps: steps.required(),
}).shared(step);

export const parseSharedSteps = (data: unknown): Result<SharedSteps> => parseWith<SharedSteps>(sharedSteps, data);
export const parseProcedure = (data: unknown): Result<Procedure> => parseWith<Procedure>(schema, data);

/** Steps of a text, as a form of the shop sends them. */
export const parseWritten = (data: unknown): Result<Written> => parseWith<Written>(writtenForm, data);
