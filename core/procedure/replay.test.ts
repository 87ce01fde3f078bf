import { session, shipped } from '../../content/session.testing';
import { resolveParams, valuesOf } from '../library';
import { compile, replay, saidBy, tell } from '.';

const program = compile(shipped.procedures.get('relearn-ignition-on')!);
const params = resolveParams(shipped.families.get('transponder-dwell')!, shipped.profiles.get('tarn-gantry'));
const open = { record: { authority: true, keysAbsent: [] }, mayWaive: true };
type Lines = Parameters<typeof replay>[3];
const run = (lines: Lines, at?: number, circumstances = open) => {
  const result = replay(program, params, valuesOf(params), lines, circumstances, at);
  if (!result.ok) throw new Error(result.problems[0]!.message);
  return result.value;
};
const start: Lines[number] = { at: 0, type: 'start', keys: ['A'] };

describe('replay', () => {
  test('an empty run stands at its first step, due', () => {
    expect(run([start])).toEqual({
      state: 'running',
      step: 'rested',
      due: [{ attention: 'due', instruction: 'Measure the battery, rested.', secondsLeft: null }],
      verdict: 'Measure the battery, rested.',
      refused: [],
    });
  });
  test('a stop ends it with its reason, and what follows is refused', () => {
    expect(
      run([start, { at: 1, type: 'stop', reason: 'rain' }, { at: 2, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 }]),
    ).toMatchObject({
      state: 'stopped',
      step: null,
      due: [],
      verdict: 'rain',
      refused: [{ line: 2, code: 'notRunning' }],
    });
  });
  test('a waiver needs the right, a reason, and a step that allows it', () => {
    const waive = (reason: string) => ({ at: 2, type: 'waive', step: 'rested', reason }) as const;
    const low = { at: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12 } as const;
    expect(run([start, low, waive('supply connected')])).toMatchObject({ step: 'loads', refused: [] });
    expect(run([start, low, waive('supply connected')], undefined, { ...open, mayWaive: false })).toMatchObject({
      step: 'rested',
      refused: [{ code: 'notAllowed' }],
    });
    expect(run([start, low, waive('x'.repeat(501))])).toMatchObject({ step: 'rested', refused: [{ code: 'reasonMissing' }] });
    expect(run([start, { at: 1, type: 'waive', step: 'loads', reason: 'no' }])).toMatchObject({ refused: [{ code: 'wrongStep' }] });
  });
  test('an event of the file is taken back by its line', () => {
    expect(
      run([start, { at: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 }, { at: 2, type: 'takeBack', event: 'e1' }]),
    ).toMatchObject({ step: 'rested', refused: [] });
  });
  test('answers that do not exist are refused with those that do', () => {
    expect(run([start, { at: 1, type: 'answer', step: 'rested', answer: 'lampOut' }]).refused).toEqual([
      { line: 1, code: 'unknownAnswer', message: '"lampOut" is not an answer here. Use one of: measured.' },
    ]);
  });
});

describe('telling a run', () => {
  test('each event stands with the instruction of its moment, its round and its words', () => {
    const s = session({ keys: ['A', 'B'] });
    s.prepare();
    for (let i = 0; i < 3; i += 1) s.round();
    s.pass(8);
    for (const answer of ['done', 'runs', 'done', 'done']) s.answer(answer);
    s.pass(3);
    s.answer('done');
    s.answer('out');
    const told = tell(program, params, s.events);
    expect(told[0]).toMatchObject({ instruction: '', said: 'Run started', retracted: false });
    expect(told[1]).toMatchObject({ instruction: 'Measure the battery, rested.', said: '12.7 V' });
    expect(told.filter((t) => t.instruction.startsWith('Turn tag A on.')).map((t) => t.round)).toEqual(['1', '2', '3']);
    expect(told.filter((t) => t.instruction.includes('tag B')).map((t) => `${t.instruction} ${t.said}`)).toEqual([
      'Put tag B in and turn it on. Tag is in and on',
      'What does the light do with tag B? Lit for some seconds, then out',
    ]);
    expect(told.every((t) => !/\{|\}/.test(t.instruction))).toBe(true);
  });
  test('what was taken back is marked, and the taking back is told too', () => {
    const s = session();
    s.answer('measured', 12.7);
    s.send({ type: 'takeBack', event: s.events.at(-1)!.id });
    s.answer('measured', 12.5);
    expect(tell(program, params, s.events).map((t) => [t.said, t.retracted])).toEqual([
      ['Run started', false],
      ['12.7 V', true],
      ['Undone', false],
      ['12.5 V', false],
    ]);
  });
  test('every kind of event has words', () => {
    const s = session();
    s.answer('measured', 12);
    s.send({ type: 'waive', step: 'rested', reason: 'supply' });
    s.send({ type: 'interrupt', what: 'left' });
    s.send({ type: 'stop', reason: 'rain' });
    expect(s.events.map((e) => saidBy(program, e, valuesOf(params)))).toEqual(['Run started', '12 V', 'Waived', 'stepped away', 'Stopped']);
  });
});
