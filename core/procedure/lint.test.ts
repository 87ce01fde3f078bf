import { compile, lint, type Procedure, replay } from '.';
import { parseProcedure } from './schema';

const base = {
  kind: 'procedure',
  id: 'x',
  version: 1,
  title: 'X',
  family: 'f',
  source: 's',
  checked: null,
  text: 't',
  effect: 'none',
  interrupted: { default: 'goOn' },
  params: [] as string[],
};
const values = { dwell: 100, off: 5, cycles: 2 };

function parse(more: Record<string, unknown>): Procedure {
  const parsed = parseProcedure({ ...base, ...more });
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join('\n'));
  return parsed.value;
}
const problems = (more: Record<string, unknown>) =>
  lint(parse(more), values, { cautions: new Set(['park']) }).problems.map((p) => `${p.severity} ${p.path}: ${p.message}`);
const done = { id: 'a', do: 'Do it.' };

test('a clean procedure has no problems', () => expect(problems({ steps: [done] })).toEqual([]));

const volts = { id: 'v', ask: 'Measure.', value: { unit: 'V', min: 6, max: 16, atLeast: 12 }, unmet: 'Too low.' };
const measured = { interrupted: { default: 'goOn', supplyLow: 'measure' }, measure: { ...volts, id: 'm' } };

test('a measurement for a battery that gets low is no problem', () => expect(problems({ ...measured, steps: [volts] })).toEqual([]));

test.each<[string, Record<string, unknown>, string]>([
  [
    'several keys where one takes part',
    { keys: 'one', steps: [{ each: { id: 'e', keys: 'further' }, steps: [done] }] },
    'error steps[0].each: The procedure takes one key, so nothing is done with each of several. Set keys: all, or take the loop out.',
  ],
  [
    'a wait that nothing follows',
    { steps: [done, { id: 'w', do: 'Wait.', wait: { from: 'a', min: 10 } }] },
    'error steps[1]: Nobody acts after this wait, so nothing records the end of the run. Put a step after it.',
  ],
  [
    'a wait behind which all may be skipped',
    {
      steps: [
        { id: 'o', observe: 'See?', answers: { yes: { say: 'Yes', to: 'next' }, no: { say: 'No', to: 'next' } } },
        { id: 'w', do: 'Wait.', wait: { min: 10 } },
        { ...done, when: { answer: 'o', is: 'yes' } },
      ],
    },
    'error steps[1]: Nobody acts after this wait, so nothing records the end of the run. Put a step after it.',
  ],
  [
    'a wait at the end of the last cycle',
    {
      steps: [
        {
          repeat: { id: 'r', min: 1, max: 2, until: { answer: 'o', is: 'yes' } },
          exhausted: 'stop.none',
          steps: [
            { id: 'o', observe: 'See?', answers: { yes: { say: 'Yes', to: 'next' }, no: { say: 'No', to: 'next' } } },
            { id: 'w', do: 'Wait.', wait: { from: 'o', min: 10 } },
          ],
        },
        done,
      ],
      stops: { none: { text: 'No.' } },
    },
    'error steps[0].steps[1]: Nobody acts after this wait, so nothing records the end of the run. Put a step after it.',
  ],
  [
    'a measurement that is not there',
    { interrupted: { default: 'restart', supplyLow: 'measure' }, steps: [done] },
    'error interrupted.supplyLow: The interruption asks for a measurement, but there is none. Add measure.',
  ],
  [
    'a measurement that nothing leads to',
    { measure: volts, interrupted: { default: 'restart' }, steps: [done] },
    'warning measure: No interruption leads to measure. Remove it or lead to it.',
  ],
  [
    'a measurement with the id of a step',
    { ...measured, measure: { ...volts, id: 'a' }, steps: [done] },
    'error measure.id: "a" appears twice. Give each step and loop its own id.',
  ],
  [
    'a battery that was measured and may get low',
    { steps: [volts] },
    'error interrupted.supplyLow: The battery is measured before, so a voltage that gets low can’t just go on. Use measure or a restart.',
  ],
  [
    'an answer with the id of one that asks for a note',
    { steps: [{ id: 'o', observe: '?', answers: { same: { say: 'a', to: 'next' }, b: { say: 'b', to: 'next' } } }] },
    'error steps[0].answers.same: "same" is an answer that asks for a note. Give it another id.',
  ],
  [
    'a loop left where there is none',
    { steps: [{ id: 'o', observe: '?', answers: { a: { say: 'a', to: 'leaveLoop' }, b: { say: 'b', to: 'next' } } }] },
    'error steps[0].answers.a.to: This step is in no loop. Use next.',
  ],
  ['an id twice', { steps: [done, done] }, 'error steps[1].id: "a" appears twice. Give each step and loop its own id.'],
  [
    'an unknown caution',
    { steps: [{ ...done, cautions: ['fire'] }] },
    'error steps[0].cautions[0]: Caution "fire" does not exist here. Use one of: park.',
  ],
  [
    'a target that is no stop',
    { steps: [{ id: 'o', observe: '?', answers: { a: { say: 'a', to: 'stop.gone' }, b: { say: 'b', to: 'next' } } }] },
    'error steps[0].answers.a.to: Stop "gone" does not exist here. Use one of: (none).',
  ],
  [
    'a stop nothing leads to',
    { steps: [done], stops: { never: { text: 't' } } },
    'warning stops.never: Nothing leads to stop "never". Remove it or lead to it.',
  ],
  [
    'an undeclared parameter',
    { steps: [{ id: 'w', do: 'Wait.', wait: { min: '$dwell' } }] },
    'error steps[0].wait.min: "$dwell" is not among the procedure\'s params. Add it there.',
  ],
  [
    'a parameter of no family',
    { params: ['gone'], steps: [{ id: 'w', do: 'Wait.', wait: { min: '$gone' } }] },
    'error steps[0].wait.min: System type "f" has no number "gone". Use one of: dwell, off, cycles.',
  ],
  ['a parameter never used', { params: ['dwell'], steps: [done] }, 'warning params[0]: Parameter "dwell" is never used. Remove it or use it.'],
  [
    'limits in the wrong order',
    {
      params: ['dwell'],
      steps: [{ id: 'w', do: 'Wait.', wait: { min: '$dwell', and: 'lampOut', amber: 60, red: 60 }, redSay: 'r', redTo: 'restart' }],
    },
    'error steps[0].wait: amber and red: 60 s is not below 60 s. Correct one of them.',
  ],
  [
    'a window as long as the wait',
    { params: ['dwell'], steps: [{ id: 'w', do: 'Wait.', wait: { min: '$dwell', and: 'lampOut', window: 100 } }] },
    'error steps[0].wait: window and min: 100 s is not below 100 s. Correct one of them.',
  ],
  [
    'an upper limit without a consequence',
    { steps: [{ id: 'w', do: 'Wait.', wait: { min: 1, max: 2 } }, done] },
    'error steps[0].late: The wait has an upper limit, but nothing says where a late answer leads. Add late.',
  ],
  [
    'a second limit without a meaning',
    { steps: [{ id: 'w', do: 'Wait.', wait: { min: 9, and: 'lampOut', amber: 1, red: 2 } }] },
    'error steps[0]: The wait has a stop time. Add redSay (what it means) and redTo (where "still on" leads).',
  ],
  [
    'rounds the wrong way round',
    { steps: [{ repeat: { id: 'r', min: 3, max: 2 }, steps: [done] }] },
    'error steps[0].repeat: min 3 is above max 2. Swap them.',
  ],
  [
    'a loop that asks an unknown step',
    { steps: [{ repeat: { id: 'r', min: 1, max: 2, until: { answer: 'gone', is: 'x' } }, exhausted: 'next', steps: [done] }] },
    'error steps.repeat.until.answer: Step "gone" does not exist here. Use one of: a.',
  ],
  [
    'a wait from an unknown step',
    { steps: [{ id: 'w', do: 'Wait.', wait: { min: 1, from: 'gone' } }] },
    'error steps[0].wait.from[0]: Step "gone" does not exist here. Use one of: w.',
  ],
  [
    'an unknown placeholder',
    { steps: [{ id: 'a', do: 'Take {thing}.' }] },
    'error steps[0]: Placeholder "thing" does not exist here. Use one of: key, main, round.',
  ],
  [
    'a replacing sequence without a point of no return',
    { effect: 'replacesKeys', steps: [done] },
    'error steps: The effect is "replacesKeys", but no step is a commitment. Mark the point of no return.',
  ],
  [
    'two places to restart',
    {
      steps: [
        { ...done, restartHere: true },
        { id: 'b', do: 'x', restartHere: true },
      ],
    },
    'error steps: More than one step has restartHere. Keep one.',
  ],
  [
    'a condition on an unknown loop',
    { steps: [{ ...done, when: { counter: 'gone', atLeast: 1 } }] },
    'error steps[0].when: Loop "gone" does not exist here. Use one of: keys.',
  ],
])('%s', (_what, more, message) => expect(problems(more)).toContain(message));

test('minutes: waits of the shortest good way, and with hands and a second key', () => {
  const procedure = parse({
    params: ['dwell', 'off', 'cycles'],
    steps: [
      {
        repeat: { id: 'r', min: '$cycles', max: 4, until: { answer: 's', is: 'runs' } },
        exhausted: 'next',
        steps: [
          { id: 'on', do: 'On.', takes: 10 },
          { id: 'w', do: 'Wait.', wait: { min: '$dwell', from: 'on' }, takes: 0 },
          {
            id: 's',
            observe: '?',
            when: { counter: 'r', atLeast: '$cycles' },
            answers: { runs: { say: 'runs', to: 'next' }, no: { say: 'no', to: 'next' } },
            takes: 20,
          },
        ],
      },
      { each: { id: 'k', keys: 'further' }, steps: [{ id: 'put', do: 'Put {key} in.', takes: 30 }] },
      { id: 'rest', do: 'Rest.', wait: { min: '$off' }, takes: 0 },
      { id: 'end', do: 'End.', takes: 0 },
    ],
  });
  // 2 × 100 s + 5 s = 205 s; with 2 × 10 s, 20 s and 30 s of hands 275 s
  expect(lint(procedure, values, { cautions: new Set() })).toEqual({ problems: [], minMinutes: 3.4, expectedMinutes: 4.6 });
});

describe('the schema', () => {
  const said = (steps: unknown[]) => {
    const parsed = parseProcedure({ ...base, steps });
    return parsed.ok ? [] : parsed.problems.map((p) => `${p.path}: ${p.message}`);
  };
  test('an unknown kind of step lists the known ones', () => {
    expect(said([{ id: 'b', shout: { min: 1 } }])).toEqual([
      'steps[0]: The file has {"id":"b","shout":{"min":1}}: no known kind of step. Known kinds: do, confirm, value, wait, observe, hold, count, message, twoEntry, file, reading, repeat, each, choice, commitment, use.',
    ]);
  });
  test.each<[string, unknown, string]>([
    ['an unknown field', { ...done, colour: 1 }, 'steps[0].colour: "colour" is not a field that is known here. Remove it or correct its name.'],
    ['a missing text', { id: 'a', confirm: '' }, 'steps[0].confirm: Nothing is written here. Write something.'],
    ['one answer only', { id: 'a', observe: '?', answers: { x: { say: 'x', to: 'next' } } }, 'steps[0].answers: Too few entries. Give at least 2.'],
    [
      'arithmetic',
      { id: 'a', do: 'x', wait: { min: '$dwell*2' } },
      'steps[0].wait.min: The file has "$dwell*2": expected a number, or $parameter with an optional + or - number.',
    ],
    [
      'a target of nowhere',
      { id: 'a', observe: '?', answers: { x: { say: 'x', to: 'home' }, y: { say: 'y', to: 'next' } } },
      'steps[0].answers.x.to: The file has "home". Write next, leaveLoop, restartStep, restartCycle, restart or stop.NAME.',
    ],
    [
      'an upper limit together with a lamp',
      { id: 'a', do: 'x', wait: { min: 1, max: 2, and: 'lampOut' } },
      'steps[0].wait: Only one of these is allowed: max, and. Keep one.',
    ],
  ])('%s', (_what, step, message) => expect(said([step])).toContain(message));
  test('every kind inside every nesting keeps its own errors', () => {
    expect(
      said([
        {
          repeat: { id: 'r', min: 1, max: 2 },
          steps: [
            {
              choice: { ask: '?' },
              id: 'c',
              cases: { p: { say: 'p', steps: [{ id: 'q', value: { unit: 'V', min: 1 }, ask: 'v', unmet: 'u' }] }, r: { say: 'r' } },
            },
          ],
        },
      ]),
    ).toEqual(['steps[0].steps[0].cases.p.steps[0].value.max: "max" is missing. Add it.']);
  });
});

test.each([
  ['hand', 'h'],
  ['tool', 't'],
])('a choice that a parameter decides is not asked: %s', (way, step) => {
  const procedure = parse({
    params: ['way'],
    steps: [
      {
        id: 'c',
        choice: { ask: '?', param: 'way' },
        cases: { hand: { say: 'h', steps: [{ id: 'h', do: 'hand' }] }, tool: { say: 't', steps: [{ id: 't', do: 'tool' }] } },
      },
      done,
    ],
  });
  const replayed = (lines: Parameters<typeof replay>[3]) => {
    const result = replay(compile(procedure), {}, { way }, lines, { record: { authority: true, keysAbsent: [] }, mayWaive: true });
    return result.ok ? result.value.step : result.problems;
  };
  expect(replayed([{ at: 0, type: 'start', keys: ['A'] }])).toBe(step);
  expect(
    replayed([
      { at: 0, type: 'start', keys: ['A'] },
      { at: 1, type: 'answer', step, answer: 'done' },
    ]),
  ).toBe('a');
});
