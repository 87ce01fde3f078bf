export {
  type Act,
  type Cause,
  type Doer,
  type FactName,
  type Hold,
  type HoldingPart,
  holdsSomething,
  type Item,
  items,
  type ModuleName,
  moduleNames,
  type Origin,
  origins,
  type Part,
  type Place,
  places,
  type Replacement,
  type SharedActs,
  stages,
} from './documents';
export { causeAnswers, type Savable, savables, savedAnswers, stepAnswers, type StepState } from './answers';
export { foldJob, type Job, type JobEntry, type JobPart, type JobStep, type Made, type PlanEntry, type Witnessed } from './job';
export { type KnownNames, lintReplacement } from './lintReplacement';
export { mergeActs } from './mergeActs';
export { bothWays, type CannotBring, type Lack, planReplacement, type PlanStep, type ReplacementPlan } from './plan';
export { readAtHand, readReplaced, toolsOf } from './readSituation';
export { factWords, lackWords } from './planWords';
export {
  causeAnswerWords,
  doerWords,
  itemWords,
  moduleWords,
  originWords,
  savableWords,
  savedAnswerWords,
  scanTool,
  stepStateWords,
  unsavedWords,
  variantWords,
  warningWords,
  wayWords,
} from './vocabulary';
export { type AtHand, partOf, replacedParts, type Situation } from './situation';
export { compareVariants, type Mismatch, type Variant, type VariantField, variantFields } from './variant';
export type { PlanWarning } from './warnings';
