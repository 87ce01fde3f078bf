import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import { checked, id, shortText, text, version } from '../library/schema';
import type { Problem, Result } from '../units';
import { codeFindings, type CodeList, relevances } from './documents';
import { readCode } from './code';
import { lintSentences } from './lintSentences';

const code = Joi.string().pattern(/^[PCBU][0-3][0-9A-F]{3}$/, lintSentences.codeForm);
const topicName = id.required();

const schema = Joi.object({
  kind: Joi.string().valid('codes').required(),
  id: id.required(),
  version: version.required(),
  source: text.required(),
  checked: checked.required(),
  title: shortText.required(),
  maker: shortText,
  profiles: Joi.array().items(id).max(200).unique().default([]),
  topics: Joi.object()
    .pattern(
      id,
      Joi.object({
        title: shortText.required(),
        relevance: Joi.string()
          .valid(...relevances)
          .required(),
        why: text.required(),
        finding: Joi.string().valid(...codeFindings),
        tests: Joi.array().items(id).max(20).unique().default([]),
      }),
    )
    .default({}),
  ranges: Joi.array()
    .items(Joi.object({ from: code.required(), to: code.required(), topic: topicName, title: shortText.required() }))
    .max(200)
    .default([]),
  codes: Joi.object()
    .pattern(code, Joi.object({ text: shortText.required(), topic: topicName }))
    .min(1)
    .required(),
});

/** A list of codes; each is one of the standard where no maker is named, and one of a maker where one is. */
export function parseCodes(data: unknown): Result<CodeList> {
  const parsed = parseWith<CodeList>(schema, data);
  if (!parsed.ok) return parsed;
  const { codes, maker, ranges } = parsed.value;
  const problems: Problem[] = Object.keys(codes).flatMap((c) => {
    const owner = readCode(c)!.owner;
    if ((owner === 'maker') === (maker !== undefined)) return [];
    return [{ code: 'owner', path: `codes.${c}`, message: maker === undefined ? lintSentences.isMakers(c) : lintSentences.isStandard(c) }];
  });
  ranges.forEach(({ from, to }, i) => {
    if (from > to) problems.push({ code: 'order', path: `ranges[${i}]`, message: lintSentences.backwards(from, to) });
  });
  return problems.length > 0 ? { ok: false, problems } : parsed;
}
