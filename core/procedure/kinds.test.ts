import {
  cellIsWeak,
  type Circumstances,
  type CommandBody,
  compile,
  decide,
  fold,
  lint,
  mergeSteps,
  type RunEvent,
  type SharedSteps,
  type StepResult,
  tell,
  view,
} from '.';
import type { ValueStep } from './definition';
import { parseProcedure, parseSharedSteps } from './schema';

const head = { kind: 'procedure', id: 'p', version: 1, title: 'P', family: 'f', source: 's', checked: null, text: 't', effect: 'none' };
const stops = { no: { text: 'Stopped.' } };
const written = (steps: unknown[], more: object = {}) => {
  const parsed = parseProcedure({ ...head, interrupted: { default: 'goOn' }, steps, stops, ...more });
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join(' '));
  return parsed.value;
};
const last = { id: 'last', confirm: 'Arrived?' };

/** A run of a few steps on a clock moved by hand. */
function run(...steps: unknown[]) {
  const program = compile(written([...steps, last]));
  const actor = { id: 'x', name: 'X' };
  const events: RunEvent[] = [{ id: 'e0', seq: 0, actor, occurredAt: 0, receivedAt: 0, type: 'started', keys: ['A', 'B'] }];
  const circumstances: Circumstances = { record: { authority: true, keysAbsent: [] }, mayWaive: false };
  let now = 0;
  const state = () => fold(program, {}, events);
  const send = (body: CommandBody): string => {
    const id = `e${events.length}`;
    const decision = decide(program, {}, state(), { id, expectedSeq: events.length, occurredAt: now, actor, ...body }, now, circumstances);
    if (!decision.ok) return `${decision.refusal.code}: ${decision.refusal.message}`;
    events.push(...decision.events);
    return 'accepted';
  };
  const shown = () => view({ program, params: {}, values: {}, record: circumstances.record }, state(), now);
  return {
    program,
    events,
    shown,
    at: (seconds: number) => void (now = seconds * 1000),
    say: (answer: string, note?: string) => send({ type: 'answer', step: shown().step, answer, ...(note === undefined ? {} : { note }) }),
    found: (answer: string, result: StepResult) => send({ type: 'answer', step: shown().step, answer, result }),
    value: (value: number) => send({ type: 'answer', step: shown().step, answer: 'measured', value }),
    takeBack: () => send({ type: 'takeBack', event: events.at(-1)!.id }),
    told: () => tell(program, {}, events).map((t) => t.said),
  };
}

describe('hold', () => {
  const hold = { id: 'h', do: 'Hold it.', hold: { min: 2.2, max: 4 }, late: 'stop.no', lateSay: 'Let go too late.' };
  test.each([
    [2.199, { step: 'h', notice: { kind: 'short', text: 'Too short. Do it again, longer.' } }],
    [2.2, { step: 'last', status: 'running' }],
    [4, { step: 'last', status: 'running' }],
    [4.001, { status: 'stopped', stop: { name: 'no', text: 'Stopped.' }, notice: { kind: 'over', text: 'Let go too late.' } }],
  ])('let go after %s s', (seconds, expected) => {
    const r = run(hold);
    r.at(10);
    expect(r.shown().answers.map((a) => a.id)).toEqual(['begin']);
    expect(r.say('release')).toBe('unknownAnswer: "release" is not an answer here. Use one of: begin.');
    expect(r.say('begin')).toBe('accepted');
    expect(r.shown().answers.map((a) => a.id)).toEqual(['release']);
    r.at(10 + seconds);
    expect(r.say('release')).toBe('accepted');
    expect(r.shown()).toMatchObject(expected);
  });
  test('the clock counts to the shortest, then down to the longest, then it is red', () => {
    const r = run(hold);
    expect(r.shown().wait).toBeUndefined();
    r.say('begin');
    expect(r.shown().wait).toMatchObject({ kind: 'least', startedAt: 0, until: 2200 });
    r.at(2.2);
    expect(r.shown()).toMatchObject({ attention: 'due', wait: { kind: 'most', until: 4000 } });
    r.at(4.001);
    expect(r.shown().attention).toBe('red');
  });
  test('too short begins anew; a beginning can be taken back', () => {
    const r = run(hold);
    r.say('begin');
    r.at(1);
    r.say('release');
    expect(r.shown().answers.map((a) => a.id)).toEqual(['begin']);
    r.say('begin');
    expect(r.takeBack()).toBe('accepted');
    expect(r.shown().answers.map((a) => a.id)).toEqual(['begin']);
    r.at(20);
    r.say('begin');
    r.at(23);
    r.say('release');
    expect(r.shown().step).toBe('last');
  });
  test('without a longest time the step is done again when nothing else is said', () => {
    const r = run({ id: 'h', do: 'Hold it.', hold: { min: 1, max: 2 } });
    r.say('begin');
    r.at(3);
    r.say('release');
    expect(r.shown()).toMatchObject({ step: 'h', notice: { kind: 'over', text: 'Too late. It took longer than its limit.' } });
  });
});

describe('count', () => {
  test('seen: the right count goes on, another leads where it says', () => {
    const flashes = { id: 'c', do: 'Count {n} flashes.', count: { n: 4 }, other: 'stop.no' };
    const right = run(flashes);
    expect(right.shown()).toMatchObject({ instruction: 'Count 4 flashes.', answers: [{ say: 'Counted 4' }, { say: 'Another count' }] });
    right.say('done');
    expect(right.shown().step).toBe('last');
    expect(right.told()).toEqual(['Run started', 'Counted 4']);
    const wrong = run(flashes);
    wrong.say('other', 'five');
    expect(wrong.shown()).toMatchObject({ status: 'stopped' });
    expect(wrong.told()).toEqual(['Run started', 'Another count: five']);
  });
  test.each([
    [8, { step: 'last' }],
    [8.001, { step: 'c', notice: { kind: 'over' } }],
  ])('done within 8 s: after %s s', (seconds, expected) => {
    const r = run({ id: 'c', do: 'Turn it.', count: { n: 5, within: 8 } });
    r.at(5);
    r.say('begin');
    expect(r.shown().wait).toMatchObject({ kind: 'most', startedAt: 5000, until: 13_000 });
    r.at(5 + seconds);
    r.say('done');
    expect(r.shown()).toMatchObject(expected);
  });
});

describe('message', () => {
  const step = { id: 'm', ask: 'Wait for the text.', message: 'ready', within: 30, absent: 'stop.no' };
  test.each([
    ['shown', 30, { step: 'last' }],
    ['shown', 30.001, { status: 'stopped', notice: { kind: 'over' } }],
    ['absent', 1, { status: 'stopped' }],
  ])('%s after %s s', (answer, seconds, expected) => {
    const r = run(step);
    expect(r.shown()).toMatchObject({ lamp: 'ready', wait: { kind: 'most', until: 30_000 } });
    r.at(seconds);
    r.say(answer);
    expect(r.shown()).toMatchObject(expected);
  });
});

describe('ticked with a note', () => {
  const first = { id: 'first', ask: 'Read it.', file: {} };
  const second = { id: 'second', ask: 'Read it again.', file: { sameAs: 'first' }, differs: 'restart' };
  const refused = 'noteMissing: Write in a few words what was done and where the result is saved. It goes into the report.';
  test('a file needs a note, so does an equal one; a different one leads back', () => {
    const r = run(first, second);
    expect(r.shown().noted).toEqual(['ticked']);
    expect(r.say('ticked')).toBe(refused);
    expect(r.say('ticked', '   ')).toBe(refused);
    expect(r.say('ticked', 'x'.repeat(501))).toBe('noteMissing: The note is 501 characters long. Use at most 500.');
    expect(r.say('ticked', ' box-1.bin on the shop stick ')).toBe('accepted');
    expect(r.shown()).toMatchObject({ step: 'second', noted: ['same'] });
    r.say('different');
    expect(r.shown().step).toBe('first');
    r.say('ticked', 'box-2.bin');
    expect(r.say('same')).toBe(refused);
    r.say('same', 'box-3.bin');
    expect(r.shown().step).toBe('last');
    expect(r.told()).toEqual([
      'Run started',
      'Read and saved: box-1.bin on the shop stick',
      'They differ',
      'Read and saved: box-2.bin',
      'Equal, byte for byte: box-3.bin',
    ]);
  });
  test.each([
    [{ id: 't', ask: 'Type it.', twoEntry: { length: 9, alphabet: 'decimal' } }, 'Typed twice, equal'],
    [{ id: 'r', ask: 'Measure it.', reading: 'fobCell' }, 'Measured'],
  ])('%j', (step, say) => {
    const r = run(step);
    expect(r.shown().answers).toEqual([{ id: 'ticked', say }]);
    expect(r.say('ticked')).toBe(refused);
    expect(r.say('ticked', 'by hand')).toBe('accepted');
    expect(r.shown().step).toBe('last');
  });
});

describe('what an instrument found, in place of a note', () => {
  const digest = (letter: string) => letter.repeat(64);
  const file = (name: string, letter: string): StepResult => ({ kind: 'file', name, size: 2048, sha256: digest(letter) });
  const found = (r: ReturnType<typeof run>, answer: string, result: StepResult) => r.found(answer, result);

  test('two entries: as many characters as are asked for, and the words say how many', () => {
    const r = run({ id: 't', ask: 'Type it.', twoEntry: { length: 9, alphabet: 'decimal' } });
    expect(r.shown().instrument).toEqual({ kind: 'entries', length: 9, alphabet: 'decimal', secret: false });
    expect(found(r, 'ticked', { kind: 'entries', length: 8 })).toBe(
      'badValue: 8 characters were typed, and 9 are expected. Check the original, or correct the number.',
    );
    expect(found(r, 'ticked', file('x.bin', 'a'))).toBe(
      'badValue: A result of kind "file" is not one for a step of kind "twoEntry". Reload the page and measure again.',
    );
    expect(found(r, 'ticked', { kind: 'entries', length: 9 })).toBe('accepted');
    expect(r.told().at(-1)).toBe('Typed twice, equal: 9 characters');
    expect(JSON.stringify(r.events)).not.toMatch(/digits|text/);
  });

  const first = { id: 'first', ask: 'Read it.', file: {} };
  test('a second file is held against the first by its digest', () => {
    const r = run(first, { id: 'second', ask: 'Read it again.', file: { sameAs: 'first' }, differs: 'restart' });
    expect(r.shown().instrument).toEqual({ kind: 'file', sameAs: null, compares: false, except: null });
    found(r, 'ticked', file('box-1.bin', 'a'));
    expect(r.shown().instrument).toEqual({ kind: 'file', sameAs: file('box-1.bin', 'a'), compares: true, except: null });
    expect(found(r, 'same', file('box-2.bin', 'b'))).toBe(
      'badValue: box-2.bin is not equal to box-1.bin. Pick the right file, or say that they differ.',
    );
    expect(found(r, 'different', file('box-2.bin', 'a'))).toBe(
      'badValue: box-2.bin is equal to box-1.bin, byte for byte. Pick the file that you mean.',
    );
    expect(found(r, 'same', file('box-2.bin', 'a'))).toBe('accepted');
    expect(r.shown().step).toBe('last');
    expect(r.told().slice(1)).toEqual([
      'Read and saved: box-1.bin, 2048 bytes, SHA-256 aaaaaaaaaaaaaaaa…',
      'Equal, byte for byte: box-2.bin, 2048 bytes, SHA-256 aaaaaaaaaaaaaaaa…',
    ]);
  });
  test('where something may differ a person has judged; after a first file that was only noted nothing is held against it', () => {
    const back = { id: 'back', ask: 'Read it back.', file: { sameAs: 'first', except: 'that slot' }, differs: 'stop.no' };
    const r = run(first, back);
    found(r, 'ticked', file('box-1.bin', 'a'));
    expect(found(r, 'same', file('box-after.bin', 'b'))).toBe('accepted');
    expect(r.told().at(-1)).toMatch(/^Only that slot differs: box-after\.bin/);
    const noted = run(first, { ...back, file: { sameAs: 'first' } });
    noted.say('ticked', 'box-1.bin on the stick');
    expect(noted.shown().instrument).toMatchObject({ sameAs: null, compares: true });
    expect(found(noted, 'same', file('box-2.bin', 'b'))).toBe('accepted');
  });

  test.each([
    [2.9, 2.6, false],
    [2.9, 2.599, true],
    [2.899, 2.8, true],
    [3.2, 2.9, false],
  ])('a key battery of %s V, pressed %s V, is weak: %s', (volts, pressedVolts, weak) => {
    expect(cellIsWeak({ volts, pressedVolts })).toBe(weak);
    const r = run({ id: 'c', ask: 'Measure it.', reading: 'fobCell' });
    expect(r.shown().instrument).toEqual({ kind: 'cell' });
    found(r, 'ticked', { kind: 'cell', volts, pressedVolts });
    expect(r.told().at(-1)).toBe(`Measured: ${Math.round(volts * 100) / 100} V, pressed ${Math.round(pressedVolts * 100) / 100} V`);
  });

  test('a resistor key: its readings and its value, or that it has none; the coil has no instrument', () => {
    const r = run({ id: 'k', ask: 'Measure it.', reading: 'ladder' });
    found(r, 'ticked', { kind: 'ladder', ladder: 'x', readings: [1391, 1388, null], verdict: 'step', step: 6 });
    expect(r.told().at(-1)).toBe('Measured: value 6 (1.391 kΩ, 1.388 kΩ, overload)');
    const none = run({ id: 'k', ask: 'Measure it.', reading: 'ladder' });
    found(none, 'ticked', { kind: 'ladder', ladder: 'x', readings: [90], verdict: 'between', step: null });
    expect(none.told().at(-1)).toBe('Measured: no value of the chart (90 Ω)');
    expect(run({ id: 'k', ask: 'Measure it.', reading: 'coil' }).shown()).toMatchObject({ noted: ['ticked'] });
    expect(run({ id: 'k', ask: 'Measure it.', reading: 'coil' }).shown().instrument).toBeUndefined();
  });
});

describe('what was typed or chosen is quoted later', () => {
  const slot = { id: 'slot', ask: 'Which slot?', value: { unit: '', min: 0, max: 20, whole: true }, unmet: 'No slot.' };
  const band = { id: 'band', choice: { ask: 'Which band?' }, cases: { low: { say: 'Lower band' }, high: { say: 'Upper band' } } };
  test('by the name of its step, and what was corrected counts', () => {
    const r = run(slot, band, { id: 'w', do: 'Write slot {slot}, {band}.' });
    expect(r.shown().value).toEqual({ unit: '', min: 0, max: 20, whole: true });
    expect(r.value(4.5)).toBe('badValue: 4.5 is not a whole number. Type the number as it is marked.');
    expect(r.value(21)).toBe('badValue: 21 is not possible here. Type a value from 0 to 20.');
    r.value(4);
    r.takeBack();
    r.value(7);
    r.say('high');
    expect(r.shown().instruction).toBe('Write slot 7, upper band.');
    r.say('done');
    expect(tell(r.program, {}, r.events).at(-1)!.instruction).toBe('Write slot 7, upper band.');
  });
  test('only after the step: the lint says so', () => {
    const before = lint(written([{ id: 'w', do: 'Write slot {slot}.' }, slot, last]), {}, { cautions: new Set() }).problems;
    expect(before).toContainEqual(expect.objectContaining({ path: 'steps[0]', message: expect.stringContaining('"slot"') }));
    expect(lint(written([slot, { id: 'w', do: 'Write slot {slot}.' }, last]), {}, { cautions: new Set() }).problems.map((p) => p.code)).toEqual([
      'unused',
    ]);
  });
});

test('the number of keys is a fact that conditions may ask about', () => {
  const ask = (lt: number) => run({ id: 'x', when: { counter: 'keys', lt }, do: 'Few keys.' }).shown().step;
  expect([ask(2), ask(3)]).toEqual(['last', 'x']);
});

describe('lint', () => {
  const problems = (step: object, more: object = {}) =>
    lint(written([{ id: 'file', ask: 'Read.', file: {} }, step, last], { stops: {}, ...more }), {}, { cautions: new Set() }).problems.map(
      (p) => `${p.path}: ${p.message}`,
    );
  test.each([
    [{ id: 'h', do: 'd', hold: { min: 4, max: 4 } }, 'steps[1].hold: min and max: 4 s is not below 4 s. Correct one of them.'],
    [{ id: 'h', do: 'd', hold: { min: 0 } }, 'steps[1].hold.min: The file has 0. It must be above 0.'],
    [{ id: 'c', do: 'd', count: { n: 2.5 } }, 'steps[1].count.n: The file has 2.5. A count is a whole number.'],
    [{ id: 'c', do: 'd', count: { n: 2 }, other: 'stop.x' }, 'steps[1].other: Stop "x" does not exist here. Use one of: (none).'],
    [{ id: 'm', ask: 'a', message: 'ready', absent: 'stop.x' }, 'steps[1].absent: Stop "x" does not exist here. Use one of: (none).'],
    [
      { id: 'f', ask: 'a', file: { sameAs: 'file' } },
      'steps[1].differs: The file is compared, but nothing says where a difference leads. Add differs.',
    ],
    [{ id: 'f', ask: 'a', file: { sameAs: 'last' }, differs: 'restart' }, 'steps[1].file.sameAs: File "last" does not exist here. Use one of: file.'],
    [{ id: 'keys', do: 'd' }, 'steps[1].id: "keys" is the name of the number of keys. Give the step or loop another id.'],
    [{ use: 'x@1' }, 'steps[1].use: Shared steps "x@1" are put in when a folder of content is read. Read them together.'],
    [
      { id: 't', ask: 'a', twoEntry: { length: '$digits', alphabet: 'hex' } },
      'steps[1].twoEntry.length: "$digits" is not among the procedure\'s params. Add it there.',
    ],
  ])('%j', (step, expected) => expect(problems(step)).toContain(expected));
  test('what is right passes', () => {
    expect(problems({ id: 'h', do: 'd', hold: { min: 1, max: 2 }, late: 'restart' })).toEqual([]);
    expect(problems({ id: 'f', ask: 'a', file: { sameAs: 'file' }, differs: 'restart' })).toEqual([]);
  });
});

describe('shared steps', () => {
  const shared = (id: string, steps: unknown[], params: string[] = []): SharedSteps => {
    const parsed = parseSharedSteps({ kind: 'steps', id, version: 2, title: 'T', source: 's', checked: null, params, steps });
    if (!parsed.ok) throw new Error(parsed.problems[0]!.message);
    return parsed.value;
  };
  const known = [
    shared('inner', [{ id: 'a', do: 'A' }], ['low']),
    shared('outer', [{ use: 'inner@2' }, { id: 'b', do: 'B' }], ['high']),
    shared('round', [{ use: 'about@2' }]),
    shared('about', [{ use: 'round@2' }]),
  ];
  const merge = (steps: unknown[]) => mergeSteps(written(steps, { params: ['own'] }), (id) => known.find((s) => s.id === id));

  test('are put in their place, in loops and cases too, with their parameters', () => {
    const merged = merge([
      { repeat: { id: 'r', min: 1, max: 2 }, steps: [{ use: 'outer@2' }, last] },
      { id: 'way', choice: { ask: 'Which?' }, cases: { x: { say: 'X', steps: [{ use: 'inner@2' }] }, y: { say: 'Y' } } },
    ]);
    if (!merged.ok) throw new Error('not merged');
    expect(merged.value.params).toEqual(['own', 'high', 'low']);
    expect(merged.value.steps).toMatchObject([
      { steps: [{ id: 'a' }, { id: 'b' }, { id: 'last' }] },
      { cases: { x: { steps: [{ id: 'a' }] }, y: { steps: [] } } },
    ]);
  });
  test('bring the measurement of a battery that gets low; a procedure with its own keeps it', () => {
    const own = { id: 'own', ask: 'Own?', value: { unit: 'V', min: 6, max: 16, atLeast: 12 }, unmet: 'Low.' };
    const bringing: SharedSteps = {
      ...shared('bringing', [{ id: 'a', do: 'A' }]),
      measure: { ...written([own]).steps[0], id: 'theirs' } as ValueStep,
    };
    const find = () => bringing;
    expect(mergeSteps(written([{ use: 'bringing@2' }]), find)).toMatchObject({ value: { measure: { id: 'theirs', ask: 'Own?' } } });
    expect(mergeSteps(written([{ use: 'bringing@2' }], { measure: own }), find)).toMatchObject({ value: { measure: { id: 'own' } } });
  });
  test.each([
    [{ use: 'gone@1' }, 'steps[0].use', '"gone@1" is not there. No shared steps have this name. Correct the reference.'],
    [{ use: 'inner@1' }, 'steps[0].use', '"inner@1" is not there. It is there in version 2. Correct the reference.'],
    [{ use: 'round@2' }, 'steps[0][0][0].use', "round uses about uses round. Shared steps can't use each other in a circle; remove one."],
  ])('%j is refused', (step, path, message) => {
    const merged = merge([step]);
    expect(merged.ok ? [] : merged.problems).toEqual([expect.objectContaining({ path, message })]);
  });
  test('a program is made only of a procedure that has them', () =>
    expect(() => compile(written([{ use: 'inner@2' }]))).toThrow('Shared steps "inner@2" were not put into p'));
});
