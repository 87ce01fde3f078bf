import { kindOf, type LeafStep } from './definition';

export interface AnswerWords {
  say: string;
  hint?: string;
}

/**
 * What can be answered at a step: id → words on the button, in the order shown.
 * @param begun whether a hold or a timed count has begun; left out, the answers of both moments are listed
 * @param shortened whether a wait's time is over by a number that was changed meanwhile only; left out, that answer is listed as well
 */
export function answersOf(step: LeafStep, begun?: boolean, shortened?: boolean): Record<string, AnswerWords> {
  switch (kindOf(step)) {
    case 'observe':
      return 'answers' in step ? step.answers : {};
    case 'choice':
      return 'cases' in step ? step.cases : {};
    case 'wait':
      return {
        ...('wait' in step && step.wait.and === 'lampOut' ? { lampOut: { say: 'Light is out' }, stillOn: { say: 'Still on' } } : {}),
        ...(shortened === false ? {} : { timeOver: { say: 'Time’s up by the new number' } }),
      };
    case 'value':
      return { measured: { say: 'Record' } };
    case 'hold':
      return { ...(begun === true ? {} : { begin: { say: 'I hold it now' } }), ...(begun === false ? {} : { release: { say: 'Let go' } }) };
    case 'count': {
      if (!('count' in step)) return {};
      const counted = { done: { say: step.done }, other: { say: step.otherSay } };
      if (step.count.within === undefined) return counted;
      return { ...(begun === true ? {} : { begin: { say: 'I begin now' } }), ...(begun === false ? {} : counted) };
    }
    case 'message':
      return { shown: { say: 'It says so' }, absent: { say: 'Another message, or none' } };
    case 'file':
      return 'file' in step && step.file.sameAs !== undefined
        ? { same: { say: step.file.except ? `Only ${step.file.except} differs` : 'Equal, byte for byte' }, different: { say: 'They differ' } }
        : { ticked: { say: 'Read and saved' } };
    case 'twoEntry':
      return { ticked: { say: 'Typed twice, equal' } };
    case 'reading':
      return { ticked: { say: 'Measured' } };
    default:
      return { done: { say: 'done' in step ? step.done : 'Done' } };
  }
}

/** Answers that say little by themselves: what an instrument found goes with them, or a note of what was done and where the result is. */
export function noteNeeded(answer: string): boolean {
  return answer === 'ticked' || answer === 'same';
}
