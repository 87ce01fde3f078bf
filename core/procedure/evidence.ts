import { leafAt, type Program } from './program';
import type { RunEvent } from './events';
import type { RunState } from './state';

/** Evidence that an event adds to the case: said with an answer, or with the stop it led to. */
export function evidenceOf(program: Program, before: RunState, after: RunState, event: RunEvent): { test: string; outcome: string; key: string }[] {
  const found: { test: string; outcome: string; key: string }[] = [];
  if (event.type === 'answered' && event.remark !== 'late') {
    const { step, loops } = leafAt(program, event.step);
    const each = program.nodes.find((n) => n.op === 'enter' && 'each' in n.loop && loops.includes(n.id));
    const key = each?.op === 'enter' ? after.keys[before.counters[each.id] ?? 1] : after.keys[0];
    const said = 'answers' in step ? step.answers[event.answer]?.evidence : undefined;
    if (said) found.push({ ...said, key: key ?? '' });
  }
  if (before.status === 'running' && after.status === 'stopped' && after.stop?.name) {
    const stop = program.procedure.stops[after.stop.name]?.evidence;
    if (stop) found.push({ ...stop, key: after.keys[0] ?? '' });
  }
  return found;
}
