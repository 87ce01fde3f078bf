import type { Problem } from '../units';
import { comparisonsIn, type Condition, subjectOf } from './condition';
import type { Family, Feature, LampPattern, LampSegment } from './documents';
import { lintFaults } from './lintFaults';
import { type Expression, parseExpression } from './expression';
import { placeholdersIn } from './text';
import { anotherKey } from './verdictText';
import { changes, instrumentVerdicts, symptoms } from './vocabulary';
import { lintSentences } from './lintSentences';

/**
 * What a schema can't see in a family: names that point nowhere, and defaults outside the usual range.
 * @param known ids of procedures and cautions that exist
 */
export function lintFamily(
  family: Family,
  known: { procedures: ReadonlySet<string>; cautions: ReadonlySet<string>; features?: readonly Feature[] },
): Problem[] {
  const problems: Problem[] = [];
  const links = new Set(family.chain.map((l) => l.id));
  const lamps = new Set(family.lamps.map((l) => l.id));
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const unknown = (path: string, what: string, name: string, allowed: Iterable<string>) =>
    problems.push({
      code: 'unknownName',
      path,
      message: lintSentences.unknownInFamily(what, name, [...allowed].join(', ') || lintSentences.noneDefined),
    });
  const checkCondition = (condition: Condition | undefined, path: string) => {
    for (const comparison of condition ? comparisonsIn(condition) : []) {
      const { subject, name } = subjectOf(comparison);
      if (subject === 'param' && !(name in family.params)) unknown(path, lintSentences.parameter, name, Object.keys(family.params));
      if (subject === 'link' && !links.has(name)) unknown(path, lintSentences.link, name, links);
      if (subject === 'run' && !known.procedures.has(name)) unknown(path, lintSentences.procedure, name, known.procedures);
      if (subject === 'changed' && !(name in changes)) unknown(path, lintSentences.change, name, Object.keys(changes));
      if (subject === 'symptom' && !(name in symptoms)) unknown(path, lintSentences.symptom, name, Object.keys(symptoms));
      if (subject === 'evidence') {
        const test = tests.get(name);
        if (!test) unknown(path, lintSentences.test, name, tests.keys());
        else if (typeof comparison.is === 'string' && !(comparison.is in test.outcomes))
          unknown(path, lintSentences.outcomeOf(name), comparison.is, Object.keys(test.outcomes));
      }
    }
  };

  for (const list of ['chain', 'lamps', 'tests', 'verdicts'] as const) {
    const seen = new Set<string>();
    family[list].forEach(({ id }, i) => {
      if (seen.has(id)) problems.push({ code: 'twice', path: `${list}[${i}].id`, message: lintSentences.idTwice(id, list) });
      seen.add(id);
    });
  }
  for (const [name, param] of Object.entries(family.params)) {
    const path = `params.${name}.default`;
    if ('oneOf' in param) {
      if (!param.oneOf.includes(param.default)) unknown(path, lintSentences.value, param.default, param.oneOf);
    } else if (param.default < param.min || param.default > param.max) {
      problems.push({
        code: 'outOfRange',
        path,
        message: lintSentences.outOfRange(param.default, param.min, param.max),
      });
    }
  }
  family.lamps.forEach((lamp, i) => {
    for (const { expression, path } of lampExpressions(lamp)) {
      const name = parseExpression(expression)?.param;
      const param = name === undefined ? undefined : family.params[name];
      if (name !== undefined && (!param || 'oneOf' in param))
        unknown(
          `lamps[${i}].${path}`,
          lintSentences.number,
          name,
          Object.entries(family.params).flatMap(([n, p]) => ('oneOf' in p ? [] : [n])),
        );
    }
    for (const name of placeholdersIn(lamp.title))
      if (!(name in family.params)) unknown(`lamps[${i}].title`, lintSentences.parameter, name, Object.keys(family.params));
  });
  family.chain.forEach((link, i) => checkCondition(link.when, `chain[${i}].when`));
  family.tests.forEach((test, i) => {
    if (!test.perKey && Object.values(test.outcomes).some((o) => o.abilities))
      problems.push({
        code: 'keyMissing',
        path: `tests[${i}].outcomes`,
        message: lintSentences.abilityWithoutKey(test.id),
      });
  });
  family.lamps.forEach((lamp, i) => {
    if (!lamp.means) return;
    const test = tests.get(lamp.means.test);
    if (!test) unknown(`lamps[${i}].means.test`, lintSentences.test, lamp.means.test, tests.keys());
    else if (!(lamp.means.outcome in test.outcomes))
      unknown(`lamps[${i}].means.outcome`, lintSentences.outcome, lamp.means.outcome, Object.keys(test.outcomes));
  });
  family.tests.forEach((test, i) => {
    if (test.instrument) {
      const { kind, as } = test.instrument;
      for (const [verdict, outcome] of Object.entries(as)) {
        const path = `tests[${i}].instrument.as.${verdict}`;
        if (!(instrumentVerdicts[kind] as readonly string[]).includes(verdict))
          unknown(path, lintSentences.verdictOf(kind), verdict, instrumentVerdicts[kind]);
        if (!(outcome in test.outcomes)) unknown(path, lintSentences.outcomeOf(test.id), outcome, Object.keys(test.outcomes));
      }
    }
    test.cautions.forEach((c, k) => known.cautions.has(c) || unknown(`tests[${i}].cautions[${k}]`, lintSentences.caution, c, known.cautions));
    for (const [id, outcome] of Object.entries(test.outcomes)) {
      const path = `tests[${i}].outcomes.${id}`;
      if (outcome.lamp !== undefined && !lamps.has(outcome.lamp)) unknown(`${path}.lamp`, lintSentences.lightPattern, outcome.lamp, lamps);
      outcome.says.forEach((s, k) => {
        if (!links.has(s.link)) unknown(`${path}.says[${k}].link`, lintSentences.link, s.link, links);
        checkCondition(s.when, `${path}.says[${k}].when`);
      });
    }
  });
  family.verdicts.forEach((v, i) => {
    checkCondition(v.when, `verdicts[${i}].when`);
    v.steps?.forEach((step, j) =>
      step.until?.forEach((name, k) => {
        if (name !== anotherKey && !tests.has(name))
          unknown(`verdicts[${i}].steps[${j}].until[${k}]`, lintSentences.test, name, [anotherKey, ...tests.keys()]);
      }),
    );
  });
  family.next.forEach((rule, i) => {
    checkCondition(rule.when, `next[${i}].when`);
    if ('test' in rule && !tests.has(rule.test)) unknown(`next[${i}].test`, lintSentences.test, rule.test, tests.keys());
    if ('procedure' in rule && !known.procedures.has(rule.procedure))
      unknown(`next[${i}].procedure`, lintSentences.procedure, rule.procedure, known.procedures);
  });
  problems.push(...lintFaults(family, known));
  if (known.features) problems.push(...checkFeatures(family, known.features));
  return problems;
}

/** Shares are written to two or three digits; a sum that misses one by more is a slip. */
const sumTolerance = 0.005;

function checkFeatures(family: Family, features: readonly Feature[]): Problem[] {
  const problems: Problem[] = [];
  const byId = new Map(features.map((f) => [f.id, f]));
  for (const [name, shares] of Object.entries(family.features)) {
    const path = `features.${name}`;
    const feature = byId.get(name);
    if (!feature) {
      problems.push({ code: 'unknownName', path, message: lintSentences.unknownFeature(name, [...byId.keys()].join(', ')) });
      continue;
    }
    for (const value of Object.keys(shares))
      if (!(value in feature.values))
        problems.push({
          code: 'unknownName',
          path: `${path}.${value}`,
          message: lintSentences.unknownFeatureValue(value, Object.keys(feature.values).join(', ')),
        });
    const sum = Object.values(shares).reduce((a, b) => a + b, 0);
    if (Math.abs(sum - 1) > sumTolerance)
      problems.push({
        code: 'sum',
        path,
        message: lintSentences.sharesSum(sum.toFixed(3)),
      });
  }
  return problems;
}

/** Every number of a pattern that may be a parameter, with its place. */
export function lampExpressions(lamp: LampPattern): { expression: Expression; path: string }[] {
  const walk = (segments: readonly LampSegment[], path: string): { expression: Expression; path: string }[] =>
    segments.flatMap((segment, i) => {
      const at = `${path}[${i}]`;
      if ('on' in segment) return [{ expression: segment.on, path: `${at}.on` }];
      if ('off' in segment) return [{ expression: segment.off, path: `${at}.off` }];
      if ('repeat' in segment) return walk(segment.repeat, `${at}.repeat`);
      return [{ expression: segment.times, path: `${at}.times` }, ...walk(segment.flashes, `${at}.flashes`)];
    });
  return walk(lamp.segments ?? [], 'segments');
}
