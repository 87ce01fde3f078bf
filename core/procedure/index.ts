export { type Branches, branchesOf, cautionsOf } from './branches';
export { answersOf } from './answers';
export { type BatteryFacts, factLimits, typicalFacts } from './battery';
export { type Cue, cuesOf, type Heard, heardNow } from './cues';
export { type Circumstances, decide, leafTitle, maxReason } from './decide';
export { mergeSteps } from './mergeSteps';
export {
  type Interruption,
  interruptionPolicies,
  type InterruptionPolicy,
  interruptions,
  type KeysOfRun,
  type LeafStep,
  type Procedure,
  type SharedSteps,
  type Step,
  stepKinds,
  type Target,
} from './definition';
export type { Actor, Command, CommandBody, Decision, EventBody, Refusal, Remark, RunEvent } from './events';
export {
  addedAfter,
  type EditLine,
  figureSaid,
  type Lead,
  lineInWords,
  linesOf,
  moved,
  movedBy,
  redirected,
  refigured,
  type Reworded,
  reworded,
  targetInWords,
  targetsFor,
  waySaid,
  without,
} from './edit';
export { type LintProblem, type LintReport, lint, lintErrors, minutesOf } from './lint';
export { type GivenNumber, lacking, numbersGiven, paramsAt, valuesAt } from './numbers';
export { compile, leafAt, type Program } from './program';
export { apply, fold, present, type RunState } from './state';
export { actTimes, waitTimes, type WaitTimes } from './times';
export {
  type Attention,
  stepsAhead,
  type StepAhead,
  outline,
  type RunView,
  type SequenceMark,
  type ShownAnswer,
  type ShownWait,
  view,
  type ViewInput,
  glance,
  type Glance,
} from './view';
export { reserveOf, type ReserveSaid, type RunReserve, sayReserve } from './reserve';
export { cellIsWeak, freshCell, type Instrument, type StepResult } from './results';
export { paceHere, type Paces, pacesOf } from './paces';
export { extraCycle, extraTries, type ExtraTries, oddsHere } from './odds';
export { saidBy, tell, type ToldEvent } from './words';
export { evidenceOf } from './evidence';
export { type KeyHere, keysRefused, keysWarned, proposedKeys } from './runKeys';
export { replay, type ReplayReport } from './replay';
export { lacksFigures, procedureOf, repeatedFromLine, type WrittenHead } from './draft/build';
export { type Draft, type DraftKind, draftKinds, draftOf, type DraftStep, type Written, type WrittenStep } from './draft/draft';
