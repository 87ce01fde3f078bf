import type { BatteryFacts } from './battery';
import type { StepResult } from './results';
import type { Interruption, InterruptionPolicy } from './definition';

/** Who acted. Rights are the server's; the run only needs to know whether a precondition may be waived. */
export interface Actor {
  id: string;
  name: string;
}

/** What a person says or asks for. `expectedSeq` is the run's length as that person saw it. */
export type Command = { id: string; expectedSeq: number; occurredAt: number; actor: Actor } & CommandBody;
export type CommandBody =
  | { type: 'answer'; step: string; answer: string; value?: number; note?: string; result?: StepResult }
  | { type: 'waive'; step: string; reason: string }
  | { type: 'interrupt'; what: Interruption; note?: string }
  /** A number of this vehicle was looked up, with where. */
  | {
      type: 'number';
      name: string;
      value: number | string;
      source: string;
      /** It is outside the usual range, and was asked again. */ confirmed?: boolean;
    }
  /** What is known of the battery, and whether a maintainer is connected. */
  | { type: 'battery'; facts: BatteryFacts }
  /** Something worth knowing the next time; it changes nothing, so it is taken whatever was recorded meanwhile. */
  | { type: 'note'; note: string; /** What was answered without a connection, and came after somebody else's answers. */ late?: true }
  | { type: 'takeBack'; event: string }
  | { type: 'stop'; reason: string };

/** What was accepted. The list of events is append-only; everything a screen shows is derived from it and the definition. */
export type RunEvent = {
  /** The command's id: made by the browser, so a repeated delivery is harmless. */
  id: string;
  seq: number;
  actor: Actor;
  /** Milliseconds of the case's clock; between the previous event and `receivedAt`. */
  occurredAt: number;
  receivedAt: number;
} & EventBody;
export type EventBody =
  | { type: 'started'; keys: string[] }
  | { type: 'answered'; step: string; answer: string; value?: number; note?: string; result?: StepResult; remark?: Remark }
  | { type: 'waived'; step: string; reason: string }
  | { type: 'interrupted'; step: string; what: Interruption; policy: InterruptionPolicy; note?: string }
  | { type: 'number'; name: string; value: number | string; source: string; confirmed?: true }
  | { type: 'battery'; facts: BatteryFacts }
  | { type: 'noted'; step: string; note: string; late?: true }
  | { type: 'retracted'; event: string }
  | { type: 'stopped'; reason: string };

/** A fact that `decide` found at the moment of the answer; stored, so that it can be read without computing it again. */
export type Remark =
  /** Lamp out long before the time: asked again, the wait goes on. */
  | 'questioned'
  /** Lamp out before the time was over: noted, the wait goes on. */
  | 'early'
  /** Past the second limit when the lamp was seen out: the moment itself was not seen. */
  | 'momentUnseen'
  /** The wait before this step ran past its upper limit. */
  | 'late'
  /** The value does not meet the requirement. */
  | 'unmet'
  /** Let go before the hold was long enough: it does not count. */
  | 'short'
  /** Held, counted or waited for longer than the step's own limit. */
  | 'over';

export interface Refusal {
  code:
    | 'stale'
    | 'notRunning'
    | 'wrongStep'
    | 'unknownAnswer'
    | 'tooEarly'
    | 'badValue'
    | 'notAllowed'
    | 'gateClosed'
    | 'pastCommitment'
    | 'nothingToTakeBack'
    | 'reasonMissing'
    | 'noteMissing';
  message: string;
}

export type Decision = { ok: true; events: RunEvent[] } | { ok: false; refusal: Refusal };
