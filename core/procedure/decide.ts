import { closedBecause, evaluateExpression, type OnRecord, type ParamValues } from '../library';
import { formatLeft, formatQuantity, never } from '../units';
import { factsProblem } from './battery';
import { interruptions, kindOf, type LeafStep, type ValueStep, type WaitStep } from './definition';
import type { Command, Decision, EventBody, Refusal, RunEvent } from './events';
import { answersOf, noteNeeded } from './answers';
import { valuesAt } from './numbers';
import { resultProblem } from './results';
import { leafAt, type Program } from './program';
import { present, type RunState } from './state';
import { actTimes, isShortened, type WaitBehind, waitTimes } from './times';
import { sentences } from './sentences';

/** What the server knows besides the run. */
export interface Circumstances {
  record: OnRecord;
  /** The actor may waive a technical precondition. */
  mayWaive: boolean;
}

const refuse = (code: Refusal['code'], message: string): Decision => ({ ok: false, refusal: { code, message } });

/** Longest reason or note a run takes, characters. */
export const maxReason = 500;

/**
 * Whether a command is accepted, and as which events. Pure: nothing is changed.
 * @param now receipt, milliseconds of the case's clock; the moment of the act is held between the last event and this
 */
export function decide(program: Program, began: ParamValues, state: RunState, command: Command, now: number, circumstances: Circumstances): Decision {
  const params = valuesAt(began, state);
  const at = Math.min(Math.max(command.occurredAt, state.lastAt), Math.max(now, state.lastAt));
  const here = present(program, params, state, at);
  if (command.expectedSeq !== state.seq && command.type !== 'note') {
    return refuse('stale', sentences.someoneWasFaster(whereNow(program, here.state)));
  }
  const accept = (body: EventBody): Decision => {
    const event: RunEvent = { id: command.id, seq: state.seq, actor: command.actor, occurredAt: at, receivedAt: Math.max(now, at), ...body };
    return { ok: true, events: [event] };
  };

  if (command.type === 'takeBack') {
    const last = state.history.at(-1);
    if (!last || last.type === 'started') return refuse('nothingToTakeBack', sentences.nothingToTakeBack);
    if (state.history.length <= state.committed) return refuse('pastCommitment', sentences.pastCommitment);
    if (last.id !== command.event) return refuse('stale', sentences.newerEntry);
    return accept({ type: 'retracted', event: last.id });
  }
  // What came too late for a run that has ended is kept with it.
  if (state.status !== 'running' && !(command.type === 'note' && command.late)) {
    return refuse('notRunning', state.status === 'finished' ? sentences.runFinished : sentences.runStopped);
  }

  switch (command.type) {
    case 'stop': {
      const reason = command.reason.trim();
      if (reason === '') return refuse('reasonMissing', sentences.stopReasonMissing);
      if (reason.length > maxReason) return refuse('reasonMissing', sentences.reasonTooLong(reason.length, maxReason));
      return accept({ type: 'stopped', reason });
    }
    case 'interrupt': {
      if (!interruptions.includes(command.what))
        return refuse('unknownAnswer', sentences.unknownInterruption(String(command.what), interruptions.join(', ')));
      const { interrupted } = program.procedure;
      const note = command.note?.trim().slice(0, maxReason);
      return accept({
        type: 'interrupted',
        step: here.state.step,
        what: command.what,
        policy: interrupted[command.what] ?? interrupted.default,
        ...(note ? { note } : {}),
      });
    }
    case 'number': {
      const { name, value } = command;
      const source = command.source.trim();
      if (!program.procedure.params.includes(name)) return refuse('badValue', sentences.unknownNumber(name, program.procedure.params.join(', ')));
      if (source === '' || source.length > maxReason) return refuse('reasonMissing', sentences.sourceMissing(maxReason));
      return accept({ type: 'number', name, value, source, ...(command.confirmed === true ? { confirmed: true } : {}) });
    }
    case 'battery': {
      const wrong = factsProblem(command.facts);
      return wrong ? refuse('badValue', wrong) : accept({ type: 'battery', facts: command.facts });
    }
    case 'note': {
      const note = command.note.trim();
      if (note === '' || note.length > maxReason) return refuse('noteMissing', sentences.noteEmpty(maxReason));
      return accept({ type: 'noted', step: here.state.step, note, ...(command.late ? { late: true } : {}) });
    }
    case 'waive': {
      const wrong = wrongStep(program, here.state, command.step);
      if (wrong) return wrong;
      const { step } = leafAt(program, command.step);
      if (!('waivable' in step) || !step.waivable) return refuse('notAllowed', sentences.notWaivable);
      if (!circumstances.mayWaive) return refuse('notAllowed', sentences.onlyLeadWaives);
      const reason = command.reason.trim();
      if (reason === '' || reason.length > maxReason) return refuse('reasonMissing', sentences.waiverReasonMissing(maxReason));
      return accept({ type: 'waived', step: command.step, reason });
    }
    case 'answer': {
      const wrong = wrongStep(program, here.state, command.step);
      if (wrong) return wrong;
      return answer(program, params, { ...here, at }, command, circumstances, accept);
    }
    default:
      return never(command);
  }
}

function whereNow(program: Program, state: RunState): string {
  if (state.status !== 'running') return state.status === 'finished' ? sentences.nowFinished : sentences.nowStopped;
  return sentences.nowAt(leafTitle(leafAt(program, state.step).step));
}

/** The instruction of a step as plain text, for messages and logs. */
export function leafTitle(step: LeafStep): string {
  if ('ask' in step) return step.ask;
  if ('observe' in step) return step.observe;
  if ('choice' in step) return step.choice.ask;
  if ('commitment' in step) return step.commitment;
  if ('confirm' in step) return step.confirm;
  return step.do;
}

function wrongStep(program: Program, state: RunState, stepId: string): Decision | undefined {
  if (state.step === stepId && state.status === 'running') return undefined;
  return refuse('wrongStep', sentences.wrongStep(whereNow(program, state)));
}

function answer(
  program: Program,
  params: ParamValues,
  here: { state: RunState; behind?: WaitBehind; at: number },
  command: Extract<Command, { type: 'answer' }>,
  circumstances: Circumstances,
  accept: (body: EventBody) => Decision,
): Decision {
  const { at } = here;
  const { step } = leafAt(program, command.step);
  const note = command.note?.trim() ?? '';
  const body = {
    type: 'answered' as const,
    step: command.step,
    answer: command.answer,
    ...(note === '' ? {} : { note }),
    ...(command.result === undefined ? {} : { result: command.result }),
  };
  const begun = here.state.seen.begunAt !== undefined;
  const allowed = Object.keys(answersOf(step, begun, isShortened(step, here.state, params, at)));
  if (!allowed.includes(command.answer)) return refuse('unknownAnswer', sentences.unknownAnswer(command.answer, allowed.join(', ')));

  if (note.length > maxReason) return refuse('noteMissing', sentences.noteTooLong(note.length, maxReason));
  if (command.result !== undefined) {
    const wrong = resultProblem(step, command.answer, command.result, here.state.answers, params);
    if (wrong) return refuse('badValue', wrong);
  } else if (noteNeeded(command.answer) && note === '') return refuse('noteMissing', sentences.noteMissing);
  const latest = here.behind?.times.maxAt;
  if (latest !== undefined && at > latest) return accept({ ...body, remark: 'late' });
  switch (kindOf(step)) {
    case 'wait':
      return answerWait(step as WaitStep, params, here.state, at, body, accept);
    case 'value':
      return answerValue(step as ValueStep, params, command.value, body, accept);
    case 'hold':
    case 'count':
    case 'message': {
      // Only what is meant as done is measured; another count or no text is an answer of its own.
      if (!['release', 'done', 'shown'].includes(command.answer)) return accept(body);
      const times = actTimes(step, here.state, params);
      if (times?.minAt !== undefined && at < times.minAt) return accept({ ...body, remark: 'short' });
      return times?.maxAt !== undefined && at > times.maxAt ? accept({ ...body, remark: 'over' }) : accept(body);
    }
    case 'commitment': {
      const shut = 'commitment' in step && step.recheck.includes('authority') ? closedBecause(program.procedure.effect, circumstances.record) : [];
      return shut.length > 0 ? refuse('gateClosed', shut.join(' ')) : accept(body);
    }
    default:
      return accept(body);
  }
}

function answerWait(
  step: WaitStep,
  params: ParamValues,
  state: RunState,
  at: number,
  body: { type: 'answered'; step: string; answer: string },
  accept: (body: EventBody) => Decision,
): Decision {
  const times = waitTimes(step, state, params);
  if (body.answer === 'timeOver') return accept(body);
  if (step.wait.and !== 'lampOut') {
    return refuse('tooEarly', sentences.tooEarly(formatLeft(times.minAt - at)));
  }
  if (body.answer === 'stillOn') return accept(body);
  if (at >= times.minAt) return accept(times.redAt !== undefined && at >= times.redAt ? { ...body, remark: 'momentUnseen' } : body);
  const confirmed = state.seen.questionedAt !== undefined;
  return accept({ ...body, remark: at >= times.trustedFrom || confirmed ? 'early' : 'questioned' });
}

function answerValue(
  step: ValueStep,
  params: ParamValues,
  value: number | undefined,
  body: { type: 'answered'; step: string; answer: string },
  accept: (body: EventBody) => Decision,
): Decision {
  const { unit, min, max } = step.value;
  if (value === undefined || !Number.isFinite(value)) return refuse('badValue', sentences.valueMissing(unit, formatQuantity((min + max) / 2, '')));
  if (step.value.whole && !Number.isInteger(value)) return refuse('badValue', sentences.valueNotWhole(formatQuantity(value, unit)));
  if (value < min || value > max) {
    return refuse('badValue', sentences.valueImpossible(formatQuantity(value, unit), formatQuantity(min, unit), formatQuantity(max, unit)));
  }
  const { atLeast, atMost } = step.value;
  const met =
    (atLeast === undefined || value >= evaluateExpression(atLeast, params)) && (atMost === undefined || value <= evaluateExpression(atMost, params));
  return accept(met ? { ...body, value } : { ...body, value, remark: 'unmet' });
}
