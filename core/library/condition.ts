import { type Expression, evaluateExpression, type ParamValues } from './expression';

/** What a condition may ask about. Which of them can be answered depends on where the condition stands (docs/formats.md). */
export const conditionSubjects = ['param', 'answer', 'counter', 'evidence', 'changed', 'symptom', 'link', 'run'] as const;
export type ConditionSubject = (typeof conditionSubjects)[number];

export type Fact = string | number | boolean;

/** `{answer: lit, is: dark}`; without a comparison: "is known and not false". */
export type Comparison = Partial<Record<ConditionSubject, string>> & { is?: Fact; lt?: Expression; gt?: Expression; atLeast?: Expression };
export type Condition = Comparison | { all: Condition[] } | { any: Condition[] } | { not: Condition };

export type FactLookup = (subject: ConditionSubject, name: string) => Fact | undefined;

/** The subject and name a comparison asks about. */
export function subjectOf(comparison: Comparison): { subject: ConditionSubject; name: string } {
  for (const subject of conditionSubjects) {
    const name = comparison[subject];
    if (name !== undefined) return { subject, name };
  }
  throw new Error(`Condition without a subject: ${JSON.stringify(comparison)}`);
}

/** Whether a condition holds. A comparison with a fact that is not known does not hold. */
export function holds(condition: Condition, facts: FactLookup, params: ParamValues): boolean {
  if ('all' in condition) return condition.all.every((c) => holds(c, facts, params));
  if ('any' in condition) return condition.any.some((c) => holds(c, facts, params));
  if ('not' in condition) return !holds(condition.not, facts, params);
  const { subject, name } = subjectOf(condition);
  const fact = subject === 'param' ? params[name] : facts(subject, name);
  if (condition.is !== undefined) return fact === condition.is;
  if (condition.lt !== undefined) return typeof fact === 'number' && fact < evaluateExpression(condition.lt, params);
  if (condition.gt !== undefined) return typeof fact === 'number' && fact > evaluateExpression(condition.gt, params);
  if (condition.atLeast !== undefined) return typeof fact === 'number' && fact >= evaluateExpression(condition.atLeast, params);
  return fact !== undefined && fact !== false;
}

/** Every comparison inside a condition, for lint. */
export function comparisonsIn(condition: Condition): Comparison[] {
  if ('all' in condition) return condition.all.flatMap(comparisonsIn);
  if ('any' in condition) return condition.any.flatMap(comparisonsIn);
  if ('not' in condition) return comparisonsIn(condition.not);
  return [condition];
}
