import { type BatteryFacts, lint, reserveOf, type RunReserve, sayReserve, typicalFacts } from '../core/procedure';
import { predict } from '../core/reserve';
import { session, shipped } from './session.testing';

const facts: BatteryFacts = { type: 'agm', capacityAh: 80, ageYears: 1, temperatureC: 20, loadAmps: 7, supplyAmps: 0 };

/** A relearn in which the battery was measured, at rest and after a minute with the ignition on. */
function measured(rested: number, loaded?: number) {
  const run = session();
  run.answer('measured', rested);
  if (loaded === undefined) return run;
  run.answer('done');
  run.answer('done');
  run.pass(60);
  run.answer('measured', loaded);
  return run;
}
const reserve = (run: ReturnType<typeof session>): RunReserve => reserveOf(run.program, run.values, run.state())!;
const said = (run: ReturnType<typeof session>, at = run.now()) => sayReserve(reserve(run), at);

test('nothing is said before the battery was measured, when that was waived, and after the run', () => {
  const run = session();
  expect(reserveOf(run.program, run.values, run.state())).toBeUndefined();
  run.send({ type: 'waive', step: 'rested', reason: 'a maintainer is on' });
  expect(reserveOf(run.program, run.values, run.state())).toBeUndefined();
  const stopped = measured(12.6);
  stopped.send({ type: 'stop', reason: 'another day' });
  expect(reserveOf(stopped.program, stopped.values, stopped.state())).toBeUndefined();
});

test('from the rested voltage on a typical battery is reckoned with, against the limit of the procedure and for the rest of the run', () => {
  const run = measured(12.6);
  const found = reserve(run);
  const { supplyAmps: _none, ...typical } = typicalFacts;
  expect(found).toMatchObject({ typical: true, restedVolts: 12.6, readings: [], limitVolts: Number(run.values.loadMin) });
  expect(found.predicted).toEqual(
    predict(
      { ...typical, openCircuitVolts: 12.6, limitVolts: found.limitVolts },
      { minutes: found.neededMinutes, from: 0, draws: [{ fromMinute: 0, amps: 8 }] },
    ),
  );
  // Three waits of 560 s and what lies between: more than half an hour is not needed, less than 25 min would not do.
  expect(found.neededMinutes).toBeGreaterThan(25);
  expect(found.neededMinutes).toBeLessThan(40);
});

test('what is entered counts from the beginning, and what was measured under load is fitted', () => {
  const run = measured(12.8, 12.55);
  const before = reserve(run);
  run.send({ type: 'battery', facts });
  const after = reserve(run);
  expect(after).toMatchObject({ typical: false, facts, readings: [{ minutes: 1, volts: 12.55 }] });
  expect(after.predicted.minutesSure).toBeGreaterThan(before.predicted.minutesSure);
  run.send({ type: 'takeBack', event: run.events.at(-1)!.id });
  expect(reserve(run)).toMatchObject({ typical: true });
});

test('a healthy battery is enough, with the minutes that are left', () => {
  const run = measured(12.8, 12.6);
  run.send({ type: 'battery', facts });
  expect(said(run)).toMatchObject({ attention: 'none', text: expect.stringMatching(/^Battery: enough for \d+ minutes\.$/) });
  const minutes = (at: number) => Number(/\d+/.exec(said(run, at).text)![0]);
  expect(minutes(run.now()) - minutes(run.now() + 10 * 60_000)).toBe(10);
});

test('one that will not last is said before it fails: amber, red five minutes before, and aloud then', () => {
  const run = measured(12.45, 12.1);
  const found = reserve(run);
  expect(found.predicted.verdict).toBe('goWithSupply');
  expect(found.sureUntil).toBeGreaterThan(run.now() + 5 * 60_000);
  expect(found.sureUntil).toBeLessThan(found.endsAt);
  const { attention, text, alarm } = said(run);
  expect(attention).toBe('amber');
  expect(text).toMatch(/^Battery: good for at least \d+ minutes, and the work needs \d+\. Connect a maintainer of at least \d+ A\.$/);
  expect(alarm).toEqual({
    at: found.sureUntil - 5 * 60_000,
    say: expect.stringMatching(/^Battery is getting low\. Connect a maintainer of \d+ amps\.$/),
  });
  expect(said(run, alarm!.at - 1).attention).toBe('amber');
  expect(said(run, alarm!.at).attention).toBe('red');
});

test('a maintainer that is connected holds it, from then on', () => {
  const run = measured(12.45, 12.1);
  run.pass(60);
  run.send({ type: 'battery', facts: { ...typicalFacts, supplyAmps: 0 } });
  run.pass(60);
  run.send({ type: 'battery', facts: { ...typicalFacts, supplyAmps: 15 } });
  expect(said(run)).toEqual({ attention: 'none', text: 'Battery: the maintainer holds it.' });
});

test('nearly flat is said so, whatever the work', () => {
  const run = measured(12.05);
  // Under the least for the job: the run stays at the measurement and says what to do.
  expect(run.shown().step).toBe('rested');
  expect(said(run).text).toBe('Battery: nearly flat. Charge it before you go on.');
  expect(said(run).attention).toBe('red');
});

test('while the battery is off the vehicle nothing draws on it, and that part of the way needs nothing', () => {
  const run = session({ procedure: shipped.procedures.get('write-slot')!, keys: ['N'] });
  run.ready(12.7, 12.4);
  const before = reserve(run);
  run.send({ type: 'answer', step: 'label', answer: 'ticked', note: 'label' });
  run.answer('done');
  expect(reserve(run).disconnected).toBe(false);
  run.pass(60);
  run.answer('done');
  expect(said(run)).toEqual({ attention: 'none', text: 'Battery: disconnected, so it loses nothing now.' });
  const off = reserve(run);
  run.pass(2 * 3600);
  run.answer('done');
  // Two hours on the bench: not a minute of the reserve is gone.
  expect(Math.abs(reserve(run).predicted.minutesSure - off.predicted.minutesSure)).toBeLessThan(0.2);
  expect(before.neededMinutes).toBeLessThan(20);
});

test('a battery that was charged and measured again starts afresh', () => {
  const run = measured(12.05);
  run.pass(3600);
  run.answer('measured', 12.7);
  expect(reserve(run)).toMatchObject({ restedVolts: 12.7, readings: [] });
});

test.each([
  [{ ...facts, type: 'lithium' as never }, '"lithium" is not a type of battery. Use one of: flooded, agm.'],
  [{ ...facts, capacityAh: 3 }, '3 Ah is not possible here. Type a value from 4 Ah to 400 Ah.'],
  [{ ...facts, loadAmps: NaN }, 'NaN A is not possible here. Type a value from 0 A to 200 A.'],
  [{ ...facts, supplyAmps: -1 }, '-1 A is not possible here. Type a value from 0 A to 200 A.'],
])('facts that can’t be: %j', (wrong, message) => {
  expect(measured(12.6).send({ type: 'battery', facts: wrong })).toEqual({ ok: false, refusal: { code: 'badValue', message } });
});

describe('every procedure longer than five minutes asks for the battery at rest', () => {
  test.each([...shipped.procedures.values()].map((p) => [p.id, p] as const))('%s', (_id, procedure) => {
    const { values } = session({ procedure });
    const report = lint(procedure, values, { cautions: new Set(shipped.cautions.keys()) });
    expect(report.problems.filter((p) => p.severity === 'error')).toEqual([]);
    const asks = procedure.steps.some((s) => 'value' in s && s.value.battery === 'rested');
    expect([report.expectedMinutes > 5 && !asks, asks && procedure.measure === undefined && procedure.id !== 'check-infrared-key']).toEqual([
      false,
      false,
    ]);
  });
  test('the lint refuses one that does not, and a battery in another unit', () => {
    const procedure = shipped.procedures.get('relearn-ignition-on')!;
    const { values } = session({ procedure });
    const known = { cautions: new Set(shipped.cautions.keys()) };
    const without = {
      ...procedure,
      steps: procedure.steps.map((s) => ('value' in s ? { ...s, value: { ...s.value, battery: undefined as never } } : s)),
    };
    expect(lint(without, values, known).problems).toContainEqual(
      expect.objectContaining({
        code: 'noReserve',
        message: expect.stringContaining('A procedure of more than 5 min asks for the battery at rest first'),
      }),
    );
    const inOhms = { ...procedure, steps: procedure.steps.map((s) => ('value' in s ? { ...s, value: { ...s.value, unit: 'Ω' } } : s)) };
    expect(lint(inOhms, values, known).problems).toContainEqual(expect.objectContaining({ message: 'The battery is measured in V, not in Ω.' }));
  });
});

test('the same state is reckoned once; every other one anew, and after many others the same again', () => {
  const run = measured(12.8, 12.6);
  const at = (minutes: number) => reserveOf(run.program, run.values, { ...run.folded(), lastAt: run.now() + minutes * 60_000 })!.predicted;
  const first = at(0);
  expect(at(0)).toBe(first);
  const others = Array.from({ length: 120 }, (_, i) => at(i + 1));
  expect(new Set(others.map((p) => p.endVolts)).size).toBeGreaterThan(20);
  expect(at(0)).not.toBe(first);
  expect(at(0)).toEqual(first);
});
