import Joi from 'joi';
import { changes, symptoms } from '../library';
import { parseWith } from '../library/parseWith';
import { checked, condition, id, shortText, text, version } from '../library/schema';
import type { Problem, Result } from '../units';
import { comparisonsIn, type Condition, subjectOf } from '../library';
import { callCauses, type CallSheet, derivedAnswers } from './callSheet';
import { lintSentences } from './lintSentences';

const share = Joi.number().greater(0).max(1).required();
const byCause = Joi.object(Object.fromEntries(callCauses.map((c) => [c, share])));
const lines = (fields: Joi.PartialSchemaMap) =>
  Joi.array()
    .items(Joi.object({ ...fields, when: condition }))
    .min(1)
    .max(40)
    .required();
const say = text.required();

const callSchema = Joi.object({
  kind: Joi.string().valid('call').required(),
  id: id.required(),
  version: version.required(),
  source: text.required(),
  checked: checked.required(),
  before: byCause.required(),
  questions: Joi.array()
    .items(
      Joi.object({
        id: id.invalid(...derivedAnswers).required(),
        ask: text.required(),
        without: Joi.array().items(id).min(1).max(60).unique(),
        values: Joi.object()
          .pattern(
            id.invalid('cantSay'),
            Joi.object({
              say: shortText.required(),
              p: byCause,
              symptoms: Joi.array().items(Joi.string().valid(...Object.keys(symptoms))),
              changed: Joi.string().valid(...Object.keys(changes)),
            }),
          )
          .min(2)
          .max(20)
          .required(),
      }),
    )
    .min(1)
    .max(20)
    .unique('id')
    .required(),
  immobilizer: Joi.object({
    refused: byCause.required(),
    accepted: byCause.required(),
    silent: byCause.required(),
    notClear: byCause.required(),
  }).required(),
  visit: lines({ kind: Joi.string().valid('come', 'tow', 'drive', 'ask').required(), say }),
  tries: lines({ say }),
  bring: lines({ who: Joi.string().valid('caller', 'us').required(), say }),
  jobs: lines({
    title: shortText.required(),
    minutes: Joi.array().ordered(Joi.number().min(0).required(), Joi.number().positive().max(6000).required()).length(2).required(),
  }),
});

export function parseCall(data: unknown): Result<CallSheet> {
  const parsed = parseWith<CallSheet>(callSchema, data);
  if (!parsed.ok) return parsed;
  const problems = lintCall(parsed.value);
  return problems.length > 0 ? { ok: false, problems } : parsed;
}

/** Shares are written to two digits; a sum that misses one by more is a slip. */
const sumTolerance = 0.005;

/** What a schema can't see: shares that don't add up, conditions that ask for what nobody answers, a visit without a last resort. */
function lintCall(sheet: CallSheet): Problem[] {
  const problems: Problem[] = [];
  const sums = (path: string, rows: readonly Partial<Record<string, number>>[], name: string) => {
    const sum = rows.reduce((all, row) => all + (row[name] ?? 0), 0);
    if (Math.abs(sum - 1) > sumTolerance) problems.push({ code: 'sum', path, message: lintSentences.sum(name, sum.toFixed(3)) });
  };
  sums(
    'before',
    callCauses.map((c) => ({ all: sheet.before[c] })),
    'all',
  );
  sheet.questions.forEach((q, i) => {
    const rows = Object.values(q.values);
    const told = rows.flatMap((v) => v.p ?? []);
    if (told.length === 0) return;
    if (told.length < rows.length)
      problems.push({
        code: 'missing',
        path: `questions[${i}].values`,
        message: lintSentences.someWithoutChance,
      });
    else for (const c of callCauses) sums(`questions[${i}].values`, told, c);
  });
  const values = new Map(sheet.questions.map((q) => [q.id, Object.keys(q.values)]));
  const check = (when: Condition | undefined, path: string) => {
    for (const comparison of when ? comparisonsIn(when) : []) {
      const { subject, name } = subjectOf(comparison);
      const allowed = values.get(name);
      if (subject !== 'answer') problems.push({ code: 'subject', path, message: lintSentences.notAnAnswer(subject) });
      else if (!allowed && !(derivedAnswers as readonly string[]).includes(name))
        problems.push({
          code: 'unknownName',
          path,
          message: lintSentences.unknownQuestion(name, [...values.keys(), ...derivedAnswers].join(', ')),
        });
      else if (allowed && typeof comparison.is === 'string' && !allowed.includes(comparison.is))
        problems.push({ code: 'unknownName', path, message: lintSentences.unknownAnswer(comparison.is, allowed.join(', ')) });
    }
  };
  for (const list of ['visit', 'tries', 'bring', 'jobs'] as const) sheet[list].forEach((line, i) => check(line.when, `${list}[${i}].when`));
  sheet.jobs.forEach((job, i) => {
    if (job.minutes[0] > job.minutes[1])
      problems.push({
        code: 'order',
        path: `jobs[${i}].minutes`,
        message: lintSentences.order(job.minutes[0], job.minutes[1]),
      });
  });
  if (sheet.visit.at(-1)!.when)
    problems.push({
      code: 'missing',
      path: 'visit',
      message: lintSentences.lastLineConditional,
    });
  return problems;
}
