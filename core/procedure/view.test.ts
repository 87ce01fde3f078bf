import { session, shipped } from '../../content/session.testing';
import { stepsAhead } from '.';

const run = (keys = ['A', 'B']) => {
  const s = session({ keys });
  s.prepare();
  return s;
};
const labels = (s: ReturnType<typeof session>) => s.shown().sequence.map((m) => `${m.label}${m.commitment ? ' !' : ''} ${m.place}`);

test('the thin line shows the whole run, with the point of no return before the start', () => {
  const s = run();
  expect(labels(s)).toEqual([
    'Ready past',
    'Off now',
    'On ahead',
    'Wait 1 ahead',
    'Off ahead',
    'On ahead',
    'Wait 2 ahead',
    'Off ahead',
    'On ahead',
    'Wait 3 ahead',
    'Off ahead',
    'Start ! ahead',
    'Tag B ahead',
  ]);
  s.round();
  expect(labels(s).slice(0, 5)).toEqual(['Ready past', 'Off past', 'On past', 'Wait 1 past', 'Off now']);
});

test('a fourth round is drawn when it is begun', () => {
  const s = run(['A']);
  for (let i = 0; i < 3; i += 1) s.round();
  s.pass(8);
  s.answer('done');
  s.answer('cranks');
  // Turning the key off after a failed start stands on no good way: the line stays at the start.
  expect(labels(s).slice(-2)).toEqual(['Off past', 'Start ! now']);
  s.answer('done');
  expect(labels(s).filter((l) => l.startsWith('Wait'))).toEqual(['Wait 1 past', 'Wait 2 past', 'Wait 3 past', 'Wait 4 ahead']);
});

test('a step that asks the case for something says so, and only that step', () => {
  const s = session({ keys: ['A'] });
  s.ready();
  const asked: [string, string | undefined][] = [];
  for (const answer of ['done', 'new', 'done', 'done']) {
    asked.push([s.state().step, s.shown().reads]);
    s.answer(answer);
    s.pass(5);
  }
  expect(asked.filter(([, reads]) => reads !== undefined)).toEqual([['codesNew', 'communicationCodes']]);
});

test('what is ahead, for a plan over several cars: the rest of the wait with its limit, then hands, and what follows', () => {
  const s = run(['A']);
  s.pass(8);
  s.answer('done');
  s.answer('lit');
  s.pass(200);
  const params = { program: s.program, values: s.values };
  const steps = stepsAhead(params, s.state(), s.now());
  expect(steps.map((step) => [step.kind, Math.round(step.minutes * 60)])).toEqual([
    ['wait', 360],
    // off 5, rest 8, on 5, lamp 5
    ['attended', 23],
    ['wait', 555],
    ['attended', 23],
    ['wait', 555],
    // off 5, rest 8, cautions 15, start 20
    ['attended', 48],
  ]);
  const { wait } = s.shown();
  const red = (wait!.redAt! - wait!.until) / 1000;
  expect(steps[0]!.maxLateMinutes).toBeCloseTo(red / 60, 6);
  // Once the wait is over, what is left of its limit is shorter, and never less than nothing.
  s.pass(360 + 30);
  expect(stepsAhead(params, s.state(), s.now())[0]).toMatchObject({ kind: 'wait', minutes: 0, maxLateMinutes: expect.closeTo((red - 30) / 60, 6) });
  s.pass(10_000);
  expect(stepsAhead(params, s.state(), s.now())[0]).toMatchObject({ minutes: 0, maxLateMinutes: 0 });
});

test('words are filled in, and hints say what an answer will do', () => {
  const s = run(['C', 'A']);
  s.pass(8);
  expect(s.shown()).toMatchObject({ instruction: 'Turn tag C on. Do not start.', round: 'Cycle 1', key: 'C' });
  s.answer('done');
  s.answer('lit');
  expect(s.shown().answers.map((a) => a.hint)).toEqual(['It is early: you will be asked twice', 'As expected']);
  s.pass(500);
  expect(s.shown().answers[0]!.hint).toBe('A little early: noted');
  s.pass(210);
  expect(s.shown().answers[1]!.hint).toBe('Stop and diagnose');
});

test('a requirement is said with its unit, and the last value after a failed one', () => {
  const s = session();
  expect(s.shown().value).toEqual({ unit: 'V', min: 6, max: 16, required: 'at least 12.4 V' });
  s.answer('measured', 12.1);
  expect(s.shown().value).toMatchObject({ last: 12.1 });
});

test('a requirement that is calculated from a number is said with its value, never as it is written', () => {
  const s = session({ procedure: shipped.procedures.get('write-slot')!, keys: ['A'] });
  s.ready();
  s.answer('ticked', undefined, 'label');
  s.answer('done');
  s.answer('done');
  s.pass(90);
  s.answer('done');
  s.answer('bench');
  expect(s.shown().value?.required).toBe('at least 11.9 V, at most 12.5 V');
});
