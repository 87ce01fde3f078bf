import { adviseCall, type CallSheet, priceOf } from '.';
import { parseCall } from './schema';

const third = { refused: 1 / 3, power: 1 / 3, beyond: 1 / 3 };
const written = {
  kind: 'call',
  id: 'sheet',
  version: 1,
  source: 's',
  checked: null,
  before: { refused: 0.5, power: 0.2, beyond: 0.3 },
  questions: [
    {
      id: 'dash',
      ask: 'Dash?',
      values: {
        lit: { say: 'Lit', p: { refused: 0.9, power: 0.1, beyond: 0.8 } },
        dark: { say: 'Dark', p: { refused: 0.1, power: 0.9, beyond: 0.2 } },
      },
    },
    {
      id: 'lamp',
      ask: 'Lamp?',
      values: {
        flashes: { say: 'Flashes', p: { refused: 0.8, power: 0.5, beyond: 0.2 } },
        out: { say: 'Out', p: { refused: 0.2, power: 0.5, beyond: 0.8 } },
      },
    },
    { id: 'where', ask: 'Where?', values: { home: { say: 'Home' }, road: { say: 'Road' } } },
  ],
  immobilizer: { refused: { refused: 0.9, power: 0.05, beyond: 0.05 }, accepted: third, silent: third, notClear: third },
  visit: [
    { kind: 'come', say: 'Go.', when: { answer: 'where', is: 'road' } },
    { kind: 'tow', say: 'Tow.', when: { answer: 'sounds', is: 'beyond' } },
    { kind: 'ask', say: 'Ask.' },
  ],
  tries: [{ say: 'Always.' }, { say: 'Ring only.', when: { answer: 'family', is: 'ring' } }],
  bring: [
    { who: 'caller', say: 'Keys.' },
    { who: 'us', say: 'Battery.', when: { answer: 'sounds', is: 'power' } },
  ],
  jobs: [
    { title: 'Look', minutes: [20, 60] },
    { title: 'Way', minutes: [30, 60], when: { answer: 'visit', is: 'come' } },
  ],
};
const sheet = (): CallSheet => {
  const parsed = parseCall(structuredClone(written));
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
};

describe('what a call comes to', () => {
  test('worked by hand: dark dash', () => {
    // refused 0.5 × 0.1 = 0.05, power 0.2 × 0.9 = 0.18, beyond 0.3 × 0.2 = 0.06; together 0.29.
    const advice = adviseCall(sheet(), { answers: { dash: 'dark' } });
    expect(advice.beliefs.map((b) => b.cause)).toEqual(['power', 'beyond', 'refused']);
    expect(advice.beliefs[0]!.p).toBeCloseTo(0.18 / 0.29, 12);
    expect(advice.beliefs.reduce((sum, b) => sum + b.p, 0)).toBeCloseTo(1, 12);
    expect(advice.sounds).toBe('power');
    // Against the rest: 0.9 over (0.5 × 0.1 + 0.3 × 0.2) / 0.8 = 0.1375, 8.16 dB.
    expect(advice.speaks).toEqual([{ ask: 'Dash?', say: 'Dark', decibans: expect.closeTo(10 * Math.log10(0.9 / 0.1375), 9) }]);
    expect(advice.bring).toEqual({ caller: ['Keys.'], us: ['Battery.'] });
  });
  test('nothing said is what is usual, and is not clear', () => {
    const advice = adviseCall(sheet(), { answers: {} });
    expect(advice.beliefs.map((b) => b.p)).toEqual([0.5, 0.3, 0.2]);
    expect(advice).toMatchObject({ sounds: 'notClear', speaks: [], visit: { kind: 'ask', say: 'Ask.' }, tries: ['Always.'], minutes: [20, 60] });
  });
  test('answers that nobody offers, and names of every object, say nothing', () => {
    for (const dash of ['', 'purple', 'constructor', '__proto__'])
      expect(adviseCall(sheet(), { answers: { dash } }).beliefs.map((b) => b.p)).toEqual([0.5, 0.3, 0.2]);
  });
  test('the immobilizer’s word takes the place of the lamp in general words', () => {
    const loose = adviseCall(sheet(), { answers: { lamp: 'flashes' } }).beliefs[0]!.p;
    const known = adviseCall(sheet(), { answers: { lamp: 'flashes' }, immobilizer: { kind: 'refused', say: 'Rapid flashing' }, family: 'ring' });
    // 0.5 × 0.9 over 0.45 + 0.2 × 0.05 + 0.3 × 0.05 = 0.475.
    expect(known.beliefs[0]!.p).toBeCloseTo(0.45 / 0.475, 12);
    expect(loose).toBeCloseTo(0.4 / 0.56, 12);
    expect(known.speaks.map((s) => s.say)).toEqual(['Rapid flashing']);
    expect(known.tries).toEqual(['Always.', 'Ring only.']);
  });
  test('both sides of the limit from which it sounds like something', () => {
    // 0.5 × 0.8 = 0.4 of 0.4 + 0.1 + 0.06 = 0.56: 0.714. With 'out': 0.3 × 0.8 = 0.24 of 0.44: 0.545.
    expect(adviseCall(sheet(), { answers: { lamp: 'flashes' } }).sounds).toBe('refused');
    expect(adviseCall(sheet(), { answers: { lamp: 'out' } }).sounds).toBe('notClear');
  });
  test('the first visit that holds, and what follows from it', () => {
    const advice = adviseCall(sheet(), { answers: { where: 'road' } });
    expect(advice.visit).toEqual({ kind: 'come', say: 'Go.' });
    expect(advice.jobs.map((j) => j.title)).toEqual(['Look', 'Way']);
    expect(advice.minutes).toEqual([50, 120]);
  });
  test('the order of answers does not matter', () => {
    const one = adviseCall(sheet(), { answers: { dash: 'lit', lamp: 'out' } });
    expect(adviseCall(sheet(), { answers: { lamp: 'out', dash: 'lit' } })).toEqual(one);
  });
});

test.each([
  [[50, 120], 84, [70, 168]],
  [[0, 60], 84, [0, 84]],
  [[50, 120], 0, null],
] as const)('labour of %j min at %d an hour is %j', (minutes, rate, price) => expect(priceOf(minutes, rate)).toEqual(price));

describe('a sheet that is wrong is named with its place', () => {
  const wrong = (change: (sheet: typeof written) => void) => {
    const copy = structuredClone(written);
    change(copy);
    const parsed = parseCall(copy);
    return parsed.ok ? [] : parsed.problems.map((p) => `${p.path}: ${p.message}`);
  };
  test.each<[string, (s: typeof written) => void, string]>([
    [
      'shares',
      (s) => (s.questions[0]!.values.lit = { say: 'Lit', p: { refused: 0.8, power: 0.1, beyond: 0.8 } }),
      'questions[0].values: The shares of "refused" add up to 0.900, expected 1. Correct them.',
    ],
    ['priors', (s) => (s.before.refused = 0.6), 'before: The shares of "all" add up to 1.100, expected 1. Correct them.'],
    [
      'half told',
      (s) => (s.questions[0]!.values.lit = { say: 'Lit' } as never),
      'questions[0].values: Some answers have p and some don’t. Give p to each, or to none.',
    ],
    [
      'a question',
      (s) => (s.visit[0]!.when = { answer: 'wher', is: 'road' }),
      'visit[0].when: Question "wher" does not exist here. Use one of: dash, lamp, where, sounds, family, visit.',
    ],
    [
      'an answer',
      (s) => (s.visit[0]!.when = { answer: 'where', is: 'moon' }),
      'visit[0].when: Answer "moon" does not exist here. Use one of: home, road.',
    ],
    [
      'a subject',
      (s) => (s.tries[1]!.when = { param: 'dwell' } as never),
      'tries[1].when: A call knows answers only, and "param" is none. Ask for an answer.',
    ],
    ['minutes', (s) => (s.jobs[0]!.minutes = [60, 20]), 'jobs[0].minutes: From 60 to 20 runs backwards. Write the smaller one first.'],
    [
      'no last resort',
      (s) => s.visit.pop(),
      'visit: The last line has a condition. End with one that holds always, so that there is an answer each time.',
    ],
  ])('%s', (_what, change, message) => expect(wrong(change)).toEqual([message]));
});
