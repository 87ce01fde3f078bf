import { leafAt, type Program } from './program';
import type { RunEvent } from './events';
import type { RunState } from './state';
import { keyAt } from './words';

/** Evidence that an event adds to the case: said with an answer, or with the stop it led to. */
export function evidenceOf(program: Program, before: RunState, after: RunState, event: RunEvent): { test: string; outcome: string; key: string }[] {
  const found: { test: string; outcome: string; key: string }[] = [];
  if (event.type === 'answered' && event.remark !== 'late') {
    const { step } = leafAt(program, event.step);
    const said = 'answers' in step ? step.answers[event.answer]?.evidence : undefined;
    if (said) found.push({ ...said, key: keyAt(program, { ...before, step: event.step }) });
  }
  if (before.status === 'running' && after.status === 'stopped' && after.stop?.name) {
    const stop = program.procedure.stops[after.stop.name]?.evidence;
    if (stop) found.push({ ...stop, key: after.keys[0] ?? '' });
  }
  return found;
}
