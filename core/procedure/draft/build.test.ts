import {
  compile,
  decide,
  draftOf,
  fold,
  lacksFigures,
  lint,
  type Procedure,
  procedureOf,
  repeatedFromLine,
  type RunEvent,
  view,
  type Written,
  type WrittenStep,
} from '..';
import { parseProcedure } from '../schema';
import { cases } from './cases.testing';
import { putAway } from './putAway.testing';

const head = { id: 'shop-x', version: 1, title: 'X', family: 'f', source: 'Folder 3, page 12', checked: null, effect: 'none' as const, cautions: [] };
const writtenOf = (text: string): Written => ({ text, steps: draftOf(text).steps.map((s, i): WrittenStep => ({ ...s, id: `s${i + 1}` })) });
const steps = (...list: (Partial<WrittenStep> & Pick<WrittenStep, 'kind' | 'text'>)[]): Written => ({
  text: '',
  steps: list.map((s, i) => ({ id: `s${i + 1}`, line: i + 1, ...s })),
});
function built(written: Written, more: object = {}): Procedure {
  const parsed = parseProcedure(procedureOf({ ...head, ...more }, written));
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join(' '));
  return parsed.value;
}
const cautions = new Set([
  'serviceFirst',
  'window',
  'flat',
  'park',
  'people',
  'exhaust',
  'brakeHeld',
  'airbag',
  'supplyOff',
  'static',
  'hotTip',
  'battery',
  'fuel',
  'highTension',
  'bridge',
]);
const problems = (procedure: Procedure) => lint(procedure, {}, { cautions }).problems;

/** Follows a run with the good answers; what was shown at each step. */
function walk(procedure: Procedure, keys = ['A', 'B']): string[] {
  const program = compile(procedure);
  const actor = { id: 'x', name: 'X' };
  const events: RunEvent[] = [{ id: 'e0', seq: 0, actor, occurredAt: 0, receivedAt: 0, type: 'started', keys }];
  const record = { authority: true, keysAbsent: [] };
  let now = 0;
  const shown: string[] = [];
  for (let i = 0; i < 400; i += 1) {
    const state = fold(program, {}, events);
    const v = view({ program, params: {}, values: {}, record }, state, now);
    if (v.status !== 'running') return [...shown, v.status];
    const [first] = v.answers;
    if (!first || first.id === 'release') now = Math.max(now, v.wait?.until ?? now) + 1;
    if (!first) continue;
    shown.push(`${v.round ? `${v.round}: ` : ''}${v.instruction}`);
    const value = v.value ? { value: 12.6 } : {};
    const id = `e${events.length}`;
    const decision = decide(
      program,
      {},
      state,
      { id, expectedSeq: state.seq, occurredAt: now, actor, type: 'answer', step: v.step, answer: first.id, ...value },
      now,
      { record, mayWaive: false },
    );
    if (!decision.ok) throw new Error(decision.refusal.message);
    events.push(...decision.events);
  }
  throw new Error(`It does not end: ${shown.slice(-4).join(' / ')}`);
}

test.each([...cases, ...putAway].map((c) => [c.name, c.text] as const))(
  '%s: becomes a procedure without an error, which can be followed to its end',
  (_name, text) => {
    const written = writtenOf(text);
    const procedure = built(written);
    expect(problems(procedure).filter((p) => p.severity === 'error')).toEqual([]);
    const seen = walk(procedure);
    expect(seen.at(-1)).toBe('finished');
    // Every sentence that asks for an act or an answer was shown.
    for (const s of written.steps)
      if (s.kind !== 'wait' || lacksFigures(s)) expect(seen.join('\n')).toContain(s.text.replaceAll('{', '(').replaceAll('}', ')'));
  },
);

test.each([
  ['1. Key on.\n2. Key off.\n3. Repeat steps 1 and 2 twice.', 'Repeat steps 1 and 2 twice.', 1],
  ['a) Ignition on.\nb) Ignition off.\nc) Repeat step b.', 'Repeat step b.', 2],
  ['Step 1: on\nStep 2: off\n\nRepeat step 2.', 'Repeat step 2.', 2],
  ['1. Key on.\n2. Repeat.', 'Repeat.', undefined],
  ['1. Key on.\nRepeat step 9.', 'Repeat step 9.', undefined],
])('where a repetition begins: %j', (text, sentence, line) => expect(repeatedFromLine(text, sentence)).toBe(line));

describe('kinds', () => {
  const kindsOf = (written: Written, more?: object) =>
    built(written, more).steps.map((s) =>
      Object.keys(s).find((k) => ['do', 'wait', 'hold', 'count', 'observe', 'repeat', 'each', 'confirm', 'commitment', 'value'].includes(k)),
    );
  test('a wait counts from the act before it, and its upper bound from there too', () => {
    const { steps: s } = built(
      steps(
        { kind: 'do', text: 'Turn the key on.' },
        { kind: 'wait', text: 'Wait 10 to 12 minutes.', minS: 200, maxS: 280 },
        { kind: 'do', text: 'Turn the key off.' },
      ),
    );
    expect(s[1]).toMatchObject({ wait: { from: ['s1'], min: 200, max: 280 }, late: 'restart' });
  });
  test('a limit is a time in which its own act must be done', () => {
    const procedure = built(steps({ kind: 'do', text: 'Key out.' }, { kind: 'limit', text: 'Within 15 seconds insert the next key.', withinS: 15 }));
    expect(procedure.steps.slice(1)).toMatchObject([
      { id: 's2By', wait: { from: ['s1'], min: 0, max: 15 } },
      { id: 's2', do: 'Within 15 seconds insert the next key.' },
    ]);
  });
  test('a step without the figures of its kind is a plain one', () => {
    for (const kind of ['wait', 'hold', 'count', 'limit'] as const) {
      expect(lacksFigures({ kind, text: 'x', line: 1 })).toBe(true);
      expect(built(steps({ kind, text: 'Do it.' })).steps).toMatchObject([{ do: 'Do it.', done: 'Done' }]);
    }
  });
  test('a repeat holds what it begins with up to itself, n times in all, each time with its sentence', () => {
    const written = steps(
      { kind: 'do', text: 'Shut the door.' },
      { kind: 'do', text: 'Key on.' },
      { kind: 'do', text: 'Key off.' },
      { kind: 'repeat', text: 'Repeat two more times.', n: 3, from: 's2' },
      { kind: 'observe', text: 'Is the light out?' },
    );
    expect(walk(built(written))).toEqual([
      'Shut the door.',
      ...[1, 2, 3].flatMap((n) => [`Cycle ${n}: Key on.`, `Cycle ${n}: Key off.`, `Cycle ${n}: Repeat two more times.`]),
      'Is the light out?',
      'finished',
    ]);
  });
  test('a text that ends in a wait ends in an act, which is recorded', () => {
    const last = (text: string) => built(writtenOf(text)).steps.at(-1)!;
    expect(last('Turn the key on.\nWait 10 minutes.')).toMatchObject({ confirm: 'The last wait has ended.' });
    expect(last('Turn the key on. Wait 10 minutes. Repeat three times.')).toMatchObject({ repeat: { min: 4 } });
    expect(last('Wait 10 minutes.\nTurn the key off.')).toMatchObject({ do: 'Turn the key off.' });
  });
  test('a repeat may hold another', () => {
    const written = steps(
      { kind: 'do', text: 'a.' },
      { kind: 'repeat', text: 'Twice.', n: 2 },
      { kind: 'do', text: 'b.' },
      { kind: 'repeat', text: 'All of it twice.', n: 2, from: 's1' },
    );
    expect(walk(built(written)).filter((s) => s.endsWith('a.'))).toHaveLength(4);
  });
  test('each further key by its tag', () => {
    const procedure = built(steps({ kind: 'do', text: 'Learn it.' }, { kind: 'each', text: 'Repeat for each further key, at most 4.', max: 4 }));
    expect(walk(procedure, ['A', 'B', 'C']).slice(1)).toEqual([
      'Tag B: Repeat for each further key, at most 4.',
      'Tag C: Repeat for each further key, at most 4.',
      'finished',
    ]);
  });
  test('an effect with a gate needs its point of no return; it stands before its step, once, also in front of a repeat', () => {
    const written = steps({ kind: 'do', text: 'Key on.' }, { kind: 'do', text: 'Key off.' }, { kind: 'repeat', text: 'Three times in all.', n: 3 });
    const lacking = problems(built(written, { effect: 'replacesKeys' })).map((p) => p.code);
    expect(lacking).toContain('noCommitment');
    const whole = { ...written, noReturn: 's2' };
    expect(kindsOf(whole, { effect: 'replacesKeys' })).toEqual(['commitment', 'repeat']);
    expect(problems(built(whole, { effect: 'replacesKeys' }))).toEqual([]);
    expect(kindsOf(whole)).toEqual(['repeat']);
  });
  test('cautions stand where the words ask for them', () => {
    const procedure = built(steps({ kind: 'do', text: 'Start the engine.' }));
    expect(procedure.steps[0]).toMatchObject({ cautions: ['park', 'people', 'exhaust'] });
  });
  test('more than five minutes: the battery first, the cycles counted in', () => {
    const wait = (minS: number) =>
      steps({ kind: 'do', text: 'Key on.' }, { kind: 'wait', text: 'Wait.', minS }, { kind: 'repeat', text: 'Three times in all.', n: 3 });
    expect(built(wait(40)).steps).toHaveLength(1);
    expect(built(wait(95)).steps[0]).toMatchObject({ id: 'restedBattery', value: { battery: 'rested' } });
    expect(problems(built(wait(95)))).toEqual([]);
  });
  test('braces of a text are no names', () => {
    expect(built(steps({ kind: 'do', text: 'Select {key} on the tool.' })).steps).toMatchObject([{ do: 'Select (key) on the tool.' }]);
  });
});
