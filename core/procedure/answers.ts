import { kindOf, type LeafStep } from './definition';

/** What can be answered at a step: id → words on the button, in the order shown. */
export function answersOf(step: LeafStep): Record<string, { say: string; hint?: string }> {
  switch (kindOf(step)) {
    case 'observe':
      return 'answers' in step ? step.answers : {};
    case 'choice':
      return 'cases' in step ? step.cases : {};
    case 'wait':
      return 'wait' in step && step.wait.and === 'lampOut' ? { lampOut: { say: 'Lamp is out' }, stillOn: { say: 'Still on' } } : {};
    case 'value':
      return { measured: { say: 'Record' } };
    default:
      return { done: { say: 'done' in step ? step.done : 'Done' } };
  }
}
