import { shippedContent } from './shipped.testing';
import { everyFamily, type OnRecord, resolveParams, valuesOf, withNumbers } from '../core/library';
import {
  apply,
  type Circumstances,
  type CommandBody,
  compile,
  type Decision,
  decide,
  fold,
  type Procedure,
  type RunEvent,
  view,
} from '../core/procedure';

export const shipped = shippedContent().library;

/** A run driven by hand on a clock of its own, for tests: every accepted event is also kept, so that folding from scratch can be compared. */
export function session(
  options: { procedure?: Procedure; profile?: string; keys?: string[]; record?: OnRecord; mayWaive?: boolean; actor?: string } = {},
) {
  const procedure = options.procedure ?? shipped.procedures.get('relearn-ignition-on')!;
  const program = compile(procedure);
  const profile = options.profile ?? (procedure.family === 'transponder-dwell' ? 'tarn-gantry' : '');
  const family = shipped.families.get(procedure.family === everyFamily ? 'ring' : procedure.family)!;
  const params = resolveParams(withNumbers(family, procedure), shipped.profiles.get(profile));
  const values = valuesOf(params);
  const circumstances: Circumstances = { record: options.record ?? { authority: true, keysAbsent: [] }, mayWaive: options.mayWaive ?? true };
  const actor = { id: 'im', name: 'Ines Marrow' };
  const events: RunEvent[] = [{ id: 'c0', seq: 0, actor, occurredAt: 0, receivedAt: 0, type: 'started', keys: options.keys ?? ['A'] }];
  let state = fold(program, values, events);
  let now = 0;
  let count = 0;

  const send = (body: CommandBody, extra: { occurredAt?: number; expectedSeq?: number } = {}): Decision => {
    count += 1;
    const decision = decide(
      program,
      values,
      state,
      { id: `c${count}`, expectedSeq: extra.expectedSeq ?? state.seq, occurredAt: extra.occurredAt ?? now, actor, ...body },
      now,
      circumstances,
    );
    if (decision.ok) {
      for (const event of decision.events) {
        events.push(event);
        state = apply(program, values, state, event);
      }
    }
    return decision;
  };
  const shown = () => view({ program, params, values, record: circumstances.record }, state, now);
  const must = (decision: Decision) => {
    if (!decision.ok) throw new Error(`${decision.refusal.code}: ${decision.refusal.message}`);
  };
  return {
    program,
    values,
    events,
    send,
    shown,
    state: () => state,
    folded: () => fold(program, values, events),
    /** Lets seconds pass. */
    pass(seconds: number) {
      now += seconds * 1000;
    },
    now: () => now,
    /** Answers the step that is shown now. */
    answer(answer: string, value?: number, note?: string) {
      must(send({ type: 'answer', step: shown().step, answer, ...(value === undefined ? {} : { value }), ...(note === undefined ? {} : { note }) }));
    },
    /** Battery rested and under load, everything off, a window open (content/steps/ready.yaml). */
    ready(rested = 12.7, loaded = 12.3) {
      this.answer('measured', rested);
      this.answer('done');
      this.answer('done');
      this.pass(60);
      this.answer('measured', loaded);
      this.answer('done');
      this.answer('done');
    },
    /** All preconditions of the shipped relearn, up to the key being out. */
    prepare() {
      this.ready();
      for (const answer of ['done', 'new', 'done', 'done']) {
        this.answer(answer);
        this.pass(5);
      }
    },
    /** One good round, ending with the key off. */
    round() {
      this.pass(8);
      this.answer('done');
      this.pass(2);
      this.answer('lit');
      this.pass(560);
      this.answer('lampOut');
      this.pass(1);
      this.answer('done');
    },
  };
}

/** A run in its first dwell, which began at `now`. Tarn Gantry: 560 s, window 60 s, limits 60 s and 150 s after it. */
export function inDwell() {
  const run = session();
  run.prepare();
  run.pass(8);
  run.answer('done');
  run.answer('lit');
  return run;
}
