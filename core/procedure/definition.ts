import type { Written } from './draft/draft';
import type { Condition, DangerName, Effect, Expression, Checked, Param } from '../library';

/**
 * Where the run goes after an answer or a passed limit. `leaveLoop` goes on behind the innermost loop; `stop.NAME` ends the run with that stop's text.
 */
export type Target = 'next' | 'leaveLoop' | 'restartStep' | 'restartCycle' | 'restart' | `stop.${string}`;

/** What may happen to a run from outside, and what a procedure may answer. */
export const interruptions = ['keyOff', 'started', 'supplyLow', 'supplyLost', 'locked', 'left'] as const;
export type Interruption = (typeof interruptions)[number];
/** `measure`: the procedure's own measurement first, while waits go on; then the run is where it was. */
export const interruptionPolicies = ['goOn', 'measure', 'restartStep', 'restartCycle', 'restart', 'stop'] as const;
export type InterruptionPolicy = (typeof interruptionPolicies)[number];

/**
 * The keys of a run: every key, the main one first; the one that it is about; or so many learned keys and then the new ones. The first is `{main}` in the
 * words, the last what `key: last` names.
 */
export type KeysOfRun = 'all' | 'one' | { learned: number };

interface StepCommon {
  id: string;
  /** Short name for the thin line of the whole sequence; steps without one are not drawn there. */
  label?: string;
  when?: Condition;
  /** Lamp pattern that should be seen now. */
  lamp?: string;
  /** Outside a list of keys: the last key of the run instead of the first, in the words and in what is recorded. */
  key?: 'last';
  cautions: string[];
  /** Acts that the text only names, so that no caution need stand before them. */
  harmless?: DangerName[];
  /** Attended time, seconds; an estimate for planning only. */
  takes: number;
}

export interface DoStep extends StepCommon {
  do: string;
  hint?: string;
  done: string;
  restartHere?: boolean;
}
export interface ConfirmStep extends StepCommon {
  confirm: string;
  hint?: string;
  done: string;
  /** What the case says of it is shown beside it: whether its last scan has a communication code. */
  reads?: 'communicationCodes';
  /** A lead may waive it with a written reason. */
  waivable: boolean;
}
export interface ValueStep extends StepCommon {
  value: {
    /** Empty for a number without one: of a slot, of keys. */
    unit: string;
    /** Limits of what can be meant at all. */
    min: number;
    max: number;
    whole?: boolean;
    atLeast?: Expression;
    atMost?: Expression;
    /** The vehicle's battery at its posts, at rest or while the ignition is on: its reserve is reckoned from it. */
    battery?: 'rested' | 'loaded';
  };
  ask: string;
  hint?: string;
  /** Said when the value does not meet the requirement. */
  unmet: string;
  waivable: boolean;
}
export interface WaitStep extends StepCommon {
  do: string;
  wait: {
    /** The time counts from the latest of these steps' completion; otherwise from the step's own beginning. */
    from: string[];
    min: Expression;
    /** Only for waits on time alone: the next step must be done before this. */
    max?: Expression;
    and?: 'lampOut';
    /** An early "lamp out" within this many seconds before `min` is noted; earlier ones are questioned. */
    window?: Expression;
    /** First and second limit, seconds after the time is over. */
    amber?: Expression;
    red?: Expression;
  };
  /** What to do when `max` has passed. */
  late?: Target;
  lateSay?: string;
  amberSay?: string;
  /** What a passed second limit means. */
  redSay?: string;
  /** Where "still on" past the second limit leads. */
  redTo?: Target;
}
export interface Answer {
  say: string;
  hint?: string;
  to: Target;
  /** Evidence recorded in the case with this answer. */
  evidence?: { test: string; outcome: string };
}
export interface ObserveStep extends StepCommon {
  observe: string;
  hint?: string;
  answers: Record<string, Answer>;
}
/** Held for a time: begun and let go are two answers, so that the length is measured. */
export interface HoldStep extends StepCommon {
  do: string;
  hint?: string;
  hold: {
    min: Expression;
    max?: Expression;
    /** Counted aloud, because the hands are busy; the default of a screen that can speak. */
    counted: boolean;
  };
  /** Where a hold beyond `max` leads; default: the step again. */
  late?: Target;
  lateSay?: string;
}
/** Something done or seen a number of times: turns of a key, flashes of a lamp. */
export interface CountStep extends StepCommon {
  do: string;
  hint?: string;
  count: {
    n: Expression;
    /** All of them within this many seconds from the first. */
    within?: Expression;
  };
  done: string;
  /** Where another count leads; default: the step again. */
  other?: Target;
  otherSay: string;
  /** Where a count that took longer than `within` leads; default: the step again. */
  late?: Target;
  lateSay?: string;
}
/** A text of the vehicle that must come. */
export interface MessageStep extends StepCommon {
  ask: string;
  hint?: string;
  /** Id of the family's pattern that holds the text. */
  message: string;
  /** Seconds from the beginning of the step in which it must come. */
  within?: Expression;
  /** Where it leads when another text or none comes, or too late. */
  absent: Target;
}
/** Digits that are typed twice, independently of each other. The digits never become part of an event. */
export interface TwoEntryStep extends StepCommon {
  ask: string;
  hint?: string;
  twoEntry: { length: Expression; alphabet: 'decimal' | 'hex'; /** A secret: kept sealed. */ vault: boolean };
}
/** A memory file that was read; with `sameAs` it is compared with the one of an earlier step. */
export interface FileStep extends StepCommon {
  ask: string;
  hint?: string;
  file: { sameAs?: string; /** What may differ from it. */ except?: string };
  /** Where a difference leads; needed with `sameAs`. */
  differs?: Target;
}
/** Something measured with an instrument of the bench. */
export interface ReadingStep extends StepCommon {
  ask: string;
  hint?: string;
  reading: 'ladder' | 'fobCell' | 'coil' | 'burst';
}
/** Steps shared by several procedures, put in when content is read. */
export interface UseStep {
  use: string;
}

export interface CommitmentStep extends StepCommon {
  commitment: string;
  hint?: string;
  done: string;
  /** Asked again of the record at this moment. */
  recheck: ('authority' | 'keys')[];
}
export interface ChoiceStep extends StepCommon {
  choice: { ask: string; param?: string };
  cases: Record<string, { say: string; steps: Step[] }>;
}
export interface RepeatStep {
  repeat: {
    id: string;
    min: Expression;
    max: Expression;
    until?: { answer: string; is: string };
    /** How often one more cycle than `min` brings it, 0 to 1: an estimate of the content. */
    odds?: number;
  };
  when?: Condition;
  /** Where the run goes when `max` rounds are over and `until` is not met. */
  exhausted?: Target;
  steps: Step[];
}
export interface EachStep {
  /** Further keys: all keys of the run after the first. */
  each: { id: string; keys: 'further' };
  when?: Condition;
  steps: Step[];
}

export type LeafStep =
  | DoStep
  | ConfirmStep
  | ValueStep
  | WaitStep
  | ObserveStep
  | HoldStep
  | CountStep
  | MessageStep
  | TwoEntryStep
  | FileStep
  | ReadingStep
  | CommitmentStep
  | ChoiceStep;
export type Step = LeafStep | RepeatStep | EachStep | UseStep;

/** The kinds of step that exist; a step has exactly one of these fields. */
export const stepKinds = [
  'do',
  'confirm',
  'value',
  'wait',
  'observe',
  'hold',
  'count',
  'message',
  'twoEntry',
  'file',
  'reading',
  'repeat',
  'each',
  'choice',
  'commitment',
  'use',
] as const;
export type StepKind = (typeof stepKinds)[number];

/** A wait also has a `do`, so the more telling fields are asked first. */
export const kindOrder: readonly StepKind[] = [
  'wait',
  'value',
  'hold',
  'count',
  'message',
  'twoEntry',
  'file',
  'reading',
  'observe',
  'repeat',
  'each',
  'choice',
  'commitment',
  'confirm',
  'use',
  'do',
];

/** The kind of a parsed step. */
export function kindOf(step: Step): StepKind {
  return kindOrder.find((kind) => kind in step)!;
}

/** Steps that several procedures use (`use: id@version`). */
export interface SharedSteps {
  kind: 'steps';
  id: string;
  version: number;
  title: string;
  source: string;
  checked: Checked;
  params: string[];
  /** Becomes the procedure's, where it has none of its own. */
  measure?: ValueStep;
  steps: Step[];
}

export interface Procedure {
  kind: 'procedure';
  id: string;
  version: number;
  title: string;
  /** Id of a family, or `every`. */
  family: string;
  source: string;
  checked: Checked;
  text: string;
  params: string[];
  /** Numbers that a family need not have; where it has one of the same name, that one counts. */
  numbers?: Record<string, Param>;
  effect: Effect;
  /** Default: all. */
  keys?: KeysOfRun;
  cautions: string[];
  /** Tools that stay connected from its first step to its last. */
  tools?: string[];
  interrupted: { default: InterruptionPolicy } & Partial<Record<Interruption, InterruptionPolicy>>;
  /** Stands outside the way: what an interruption of the policy `measure` asks for. */
  measure?: ValueStep;
  /** A shop's own, made from a text: what it was made of, so that it can be mended. */
  written?: Written;
  /** A shop's own, copied from another one: its notes of runs count here too. */
  copyOf?: { id: string; version: number };
  /** Between these two steps the vehicle's battery is disconnected, so nothing draws on it. */
  disconnected?: { from: string; until: string };
  steps: Step[];
  stops: Record<string, { text: string; evidence?: { test: string; outcome: string } }>;
}
