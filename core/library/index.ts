export {
  type Caution,
  type CautionList,
  type Checked,
  type ChoiceParam,
  type DocumentPin,
  type Family,
  type LampMoment,
  type LampPattern,
  type LampSegment,
  type LinkDefinition,
  type NextRule,
  type NumberParam,
  type Outcome,
  type Param,
  type Profile,
  type Statement,
  type TestDefinition,
  type Verdict,
} from './documents';
export {
  type Comparison,
  comparisonsIn,
  type Condition,
  conditionSubjects,
  type ConditionSubject,
  type Fact,
  type FactLookup,
  holds,
  subjectOf,
} from './condition';
export { evaluateExpression, type Expression, type ParamValue, type ParamValues, parseExpression } from './expression';
export { closedBecause, type Effect, effects, gates, type OnRecord, warnedBecause } from './gates';
export { formatParams, type ResolvedParam, resolveParams, usualRange, valuesOf } from './params';
export { fillText, placeholdersIn } from './text';
export { lampTimeline, type LampSpan } from './lampTimeline';
export { lintFamily } from './lintFamily';
export {
  type Ability,
  abilities,
  abilityResults,
  type AbilityResult,
  authorityKinds,
  changes,
  keyRoles,
  type KeyRole,
  mainFirst,
  symptoms,
} from './vocabulary';
