import { type Actor, apply, type Command, decide, fold, type Program, type Refusal, type RunEvent, type RunState } from '../../core/procedure';
import type { OnRecord, ParamValues } from '../../core/library';
import type { Pending } from './outbox';

/** A run as a page knows it, and who works on it there. */
export interface RunHere {
  program: Program;
  values: ParamValues;
  events: readonly RunEvent[];
  actor: Actor;
  record: OnRecord;
  mayWaive: boolean;
}

export interface Ahead {
  /** What the answers will be recorded as, as far as this browser can tell; the server decides. */
  events: RunEvent[];
  /** One of them can't be told before the server has read it, so nothing follows it here. */
  held: boolean;
}

/** A run with answers that were not sent yet: each is decided here as the server will, at the moment when it was given. */
export function ahead(run: RunHere, answers: readonly Pending[]): Ahead {
  const { program, values, actor } = run;
  let state = fold(program, values, run.events);
  const events: RunEvent[] = [];
  for (const answer of answers) {
    const decision = decideHere(run, state, answer);
    if (!decision.ok) return { events, held: true };
    for (const event of decision.events) {
      state = apply(program, values, state, event);
      events.push({ ...event, actor });
    }
  }
  return { events, held: false };
}

/** What is wrong with an answer, as far as it can be told here; undefined: it can be given. */
export function refusedHere(run: RunHere, state: RunState, answer: Pending): Refusal | undefined {
  const decision = decideHere(run, state, answer);
  return decision.ok ? undefined : decision.refusal;
}

const unread: Refusal = { code: 'badValue', message: 'A number of the vehicle is read by the server. The run goes on when the connection is back.' };

function decideHere({ program, values, actor, record, mayWaive }: RunHere, state: RunState, answer: Pending) {
  if (answer.type === 'number') return { ok: false as const, refusal: unread };
  const command = { ...answer, actor, expectedSeq: state.seq } as Command;
  return decide(program, values, state, command, answer.occurredAt, { record, mayWaive });
}
