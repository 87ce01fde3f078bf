import { extraTries, fold, oddsHere } from '../core/procedure';
import { session } from './session.testing';

/** A relearn that has made its usual cycles and asks for the start. Tarn Gantry: three cycles. */
function atStart() {
  const run = session();
  run.prepare();
  while (run.shown().step !== 'ready') {
    run.round();
    if (run.shown().step === 'restStart') run.pass(8);
  }
  run.answer('done');
  return run;
}
/** One more cycle, up to the start. */
function extra(run: ReturnType<typeof session>) {
  for (let i = 0; i < 40 && run.shown().step !== 'rest'; i += 1) run.answer(run.shown().answers[0]!.id);
  expect(run.shown().extra).toBeDefined();
  run.round();
  run.pass(8);
  run.answer('done');
}
const tries = (run: ReturnType<typeof session>) => extraTries(run.program, run.values, run.events);

test('the usual cycles are none too many', () => {
  const run = atStart();
  expect(run.shown().step).toBe('start');
  expect(tries(run)).toEqual({ tried: 0, brought: 0 });
  run.answer('runs');
  expect(tries(run)).toEqual({ tried: 0, brought: 0 });
});

test('a start that fails leads to a cycle more, which is told with what is expected of it, and counted', () => {
  const run = atStart();
  run.answer('cranks');
  extra(run);
  run.answer('cranks');
  expect(tries(run)).toEqual({ tried: 1, brought: 0 });
  extra(run);
  run.answer('runs');
  expect(tries(run)).toEqual({ tried: 2, brought: 1 });
  // What was taken back was no try.
  run.send({ type: 'takeBack', event: run.events.at(-1)!.id });
  expect(tries(run)).toEqual({ tried: 1, brought: 0 });
  expect(fold(run.program, run.values, run.events).status).toBe('running');
});

test('it is said where the cycle begins, with its number', () => {
  const run = atStart();
  run.answer('cranks');
  const seen: (object | undefined)[] = [];
  for (let i = 0; i < 6; i += 1) {
    seen.push(run.shown().extra);
    if (run.shown().step === 'rest') break;
    run.answer(run.shown().answers[0]!.id);
  }
  expect(seen.at(-1)).toEqual({ n: 1, odds: 0.3 });
  expect(seen.slice(0, -1).every((s) => s === undefined)).toBe(true);
});

test.each([
  [0.4, 0, 0, 0.4],
  [0.4, 10, 10, 0.7],
  [0.4, 10, 0, 0.2],
  [0.4, 3, 2, 6 / 13],
])('an estimate of %d with %d tries of which %d brought it is %d', (odds, tried, brought, expected) =>
  expect(oddsHere(odds, { tried, brought })).toBeCloseTo(expected, 12),
);
