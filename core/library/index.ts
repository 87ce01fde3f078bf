export {
  type Caution,
  type CautionList,
  type Checked,
  type ChoiceParam,
  type CommonParts,
  type DocumentPin,
  type ChanceRow,
  type CustomerStatement,
  type Prove,
  type Family,
  type FaultDefinition,
  type Feature,
  type FeatureList,
  type LampPattern,
  type LampSegment,
  type LinkDefinition,
  type NewKeySpec,
  type NextRule,
  type NumberParam,
  type Outcome,
  type Param,
  type KnownValue,
  type Profile,
  type Showing,
  type Statement,
  type TestDefinition,
  type TestInstrument,
  type Verdict,
  type VerdictStep,
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
export { checkParamValue, checkProfile, isUnusual, usesLadder } from './checkProfile';
export { type ComparedParam, type ComparedSide, compareProfiles } from './compareProfiles';
export { areAlike, type ContentFigures, contentFigures } from './contentFigures';
export { evaluateExpression, type Expression, type ParamValue, type ParamValues, parseExpression } from './expression';
export { closedBecause, type Effect, effectNames, effects, gates, type OnRecord, warnedBecause, withKeys } from './gates';
export { effectWords, formatParams, paramWords, type ResolvedParam, resolveParams, usualRange, valuesOf } from './params';
export { type SearchEntry, searchEntries, type SearchHit } from './searchEntries';
export { fillText, placeholdersIn } from './text';
export { type LaidLamp, type LaidSegment, laySegments, resolveLamps } from './resolveLamps';
export { flashesPerSecond, lampTimeline, type LampSpan } from './lampTimeline';
export { cautionProblems, type DangerName, dangers, missingCautions } from './dangers';
export { trainingsOf } from './trainings';
export { isPutBack } from './documents';
export { lintFamily } from './lintFamily';
export { type CommonLookup, mergeCommon } from './mergeCommon';
export {
  type Ability,
  abilities,
  abilityResults,
  type AbilityResult,
  arrivals,
  type Aspect,
  aspects,
  authorityKinds,
  changes,
  chipMemories,
  type ChipMemory,
  counterQuantity,
  counters,
  type FaultGroup,
  faultGroups,
  howOften,
  keyExtents,
  keyKinds,
  type KeyKind,
  keyRoles,
  type KeyRole,
  type LampMoment,
  lampMoments,
  mainFirst,
  measurementWords,
  type ModuleHold,
  moduleHolds,
  type PartName,
  partNames,
  partKinds,
  symptoms,
  type TriageRole,
  instrumentVerdicts,
  type InstrumentKind,
  testPlaces,
  type TestPlace,
  triageRoles,
} from './vocabulary';
export { anotherKey, verdictText } from './verdictText';
export { withoutChances } from './withoutChances';
export { renameIds, renameIdsInRows } from './renamed';
export { everyFamily, serves, withNumbers } from './serves';
