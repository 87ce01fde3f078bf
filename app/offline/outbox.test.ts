import { ahead, refusedHere } from './ahead';
import { notesOf, Outbox, type Pending, type Post, type Sent, type Waiting } from './outbox';
import { shippedContent } from '../../content/shipped.testing';
import { resolveParams, valuesOf } from '../../core/library';
import { compile, fold, type RunEvent } from '../../core/procedure';

/** A disk, a wire and a server that takes commands of runs in their order. */
function world() {
  const disk: Waiting[] = [];
  const taken: { runId: number; id: string; by: string }[] = [];
  const lengths = new Map<number, number>();
  let order = 0;
  let wire: 'up' | 'down' | 'answerLost' = 'up';
  let signedIn: string | null = 'lead';
  let ids = 0;
  const answer = (runId: number, command: Pending): Sent => {
    if (!signedIn) return { status: 'signedOut' };
    if (taken.some((t) => t.id === command.id)) return { status: 'accepted' };
    const length = lengths.get(runId) ?? 1;
    if (command.type !== 'note' && command.expectedSeq !== length)
      return { status: 'refused', problem: { code: 'stale', path: '', message: 'Someone was faster.' } };
    if (command.type === 'note' && command.note.includes('unfit'))
      return { status: 'refused', problem: { code: 'noteMissing', path: '', message: 'No.' } };
    lengths.set(runId, length + 1);
    taken.push({ runId, id: command.id, by: signedIn });
    return { status: 'accepted' };
  };
  const post: Post = {
    async send(runId, command) {
      if (wire === 'down') throw new TypeError('Failed to fetch');
      const sent = answer(runId, command);
      if (wire === 'answerLost') throw new TypeError('Failed to fetch');
      return sent;
    },
    all: async () => [...disk],
    async change(leave, come) {
      for (const gone of leave)
        disk.splice(
          disk.findIndex((w) => w.order === gone),
          1,
        );
      for (const one of come) disk.push({ ...one, order: ++order });
      return [...disk];
    },
    newId: () => `new${++ids}`,
    alone: (work) => work(),
    tell: () => {},
  };
  return {
    disk,
    taken,
    lengths,
    open: () => new Outbox(post),
    wire: (to: typeof wire) => (wire = to),
    signIn: (who: string | null) => (signedIn = who),
  };
}
const tap = (id: string, expectedSeq: number): Pending => ({
  type: 'answer',
  step: 's',
  answer: 'yes',
  id,
  expectedSeq,
  occurredAt: 1000 + expectedSeq,
});

test('online a command is sent, is accepted, and is over when the page shows it', async () => {
  const w = world();
  const box = w.open();
  await box.start('lead');
  const heard: string[] = [];
  box.subscribe(() => heard.push(`${box.of(7).waiting.length} ${box.of(7).accepted.length}`));
  await box.add(7, tap('a', 1), 'a');
  expect(w.taken).toEqual([{ runId: 7, id: 'a', by: 'lead' }]);
  expect([box.of(7).waiting, box.of(7).accepted.map((x) => x.command.id), box.of(7).alone]).toEqual([[], ['a'], false]);
  box.seen(7, (id) => id === 'a');
  expect(box.of(7).accepted).toEqual([]);
  expect(heard[0]).toBe('1 0');
  expect(w.disk).toEqual([]);
});

test('what is given while one is under way is sent behind it, in order', async () => {
  const w = world();
  const box = w.open();
  await box.start('lead');
  await Promise.all([box.add(7, tap('a', 1), 'a'), box.add(7, tap('b', 2), 'b'), box.add(8, tap('c', 1), 'c')]);
  expect(w.taken.map((t) => t.id)).toEqual(['a', 'b', 'c']);
});

test('an answer given before the disk was read is kept and sent, behind what lay there, and does not count as late', async () => {
  const w = world();
  w.wire('down');
  const before = w.open();
  await before.start('lead');
  await before.add(8, tap('old', 1), 'old');
  w.wire('up');
  const box = w.open();
  const started = box.start('lead');
  const added = box.add(7, tap('a', 1), 'a');
  expect(box.of(7).waiting.map((x) => x.command.id)).toEqual(['a']);
  await Promise.all([started, added]);
  expect(w.taken.map((t) => t.id)).toEqual(['old', 'a']);
  expect([box.of(7).alone, box.of(8).alone]).toEqual([false, true]);
});

test('without a connection answers stay, in their order, also in a browser that is started again; then each arrives once', async () => {
  const w = world();
  w.wire('down');
  const before = w.open();
  await before.start('lead');
  for (let i = 1; i <= 5; i += 1) await before.add(7, tap(`t${i}`, i), `t${i}`);
  expect([before.of(7).unsent, before.of(7).alone, before.of(7).waiting.length]).toEqual(['noAnswer', true, 5]);
  const after = w.open();
  await after.start('lead');
  expect(after.of(7)).toMatchObject({ alone: true, unsent: 'noAnswer' });
  w.wire('answerLost');
  await after.deliver();
  w.wire('up');
  await after.deliver();
  expect(w.taken.map((t) => t.id)).toEqual(['t1', 't2', 't3', 't4', 't5']);
  expect([after.isEmpty, after.of(7).alone]).toEqual([true, true]);
  // Alone until the page shows all of it.
  after.seen(7, (id) => id !== 't5');
  expect(after.of(7).alone).toBe(true);
  after.seen(7, () => true);
  expect(after.of(7)).toMatchObject({ alone: false, unsent: null, accepted: [], waiting: [] });
});

test('somebody else was first: what was answered without a connection becomes notes of that run; other runs go on', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(7, tap('a', 1), '10:00:01 AM Key on');
  await box.add(8, tap('x', 1), 'x');
  await box.add(7, tap('b', 2), '10:00:09 AM Light out');
  w.lengths.set(7, 3);
  w.wire('up');
  await box.deliver();
  expect(w.taken.map((t) => [t.runId, t.id])).toEqual([
    [8, 'x'],
    [7, 'new1'],
  ]);
  expect(box.of(7).problem?.message).toBe('Someone was faster. Your 2 answers are kept with the run as a note.');
  expect(box.of(7).accepted.map((x) => x.command)).toEqual([
    { type: 'note', late: true, note: '10:00:01 AM Key on; 10:00:09 AM Light out', id: 'new1', expectedSeq: 1, occurredAt: 1001 },
  ]);
  expect(box.isEmpty).toBe(true);
});

test('a tap that is refused at once, online, is told and leaves no note', async () => {
  const w = world();
  const box = w.open();
  await box.start('lead');
  w.lengths.set(7, 9);
  await box.add(7, tap('a', 1), 'a');
  expect([box.of(7).problem?.message, w.taken, box.isEmpty]).toEqual(['Someone was faster.', [], true]);
});

test('a note that is refused is told with its words', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(7, tap('a', 1), 'unfit');
  w.lengths.set(7, 2);
  w.wire('up');
  await box.deliver();
  expect([box.of(7).problem?.message, box.isEmpty]).toEqual(['No. Not saved: unfit', true]);
});

test('nobody’s answers are sent in another name; they wait until that person is back', async () => {
  const w = world();
  w.wire('down');
  const first = w.open();
  await first.start('lead');
  await first.add(7, tap('a', 1), 'a');
  w.wire('up');
  w.signIn(null);
  await first.deliver();
  expect(first.of(7).unsent).toBe('signedOut');
  w.signIn('technician');
  const second = w.open();
  await second.start('technician');
  await second.add(8, tap('b', 1), 'b');
  expect([second.of(7).unsent, w.taken.map((t) => t.id)]).toEqual(['someoneElse', ['b']]);
  w.signIn('lead');
  const third = w.open();
  await third.start('lead');
  expect(w.taken).toEqual([
    { runId: 8, id: 'b', by: 'technician' },
    { runId: 7, id: 'a', by: 'lead' },
  ]);
});

test('notes are as long as a note may be', () => {
  expect(notesOf(['a', 'b'])).toEqual(['a; b']);
  const long = notesOf(['x'.repeat(300), 'y'.repeat(198), 'z'.repeat(700)]);
  expect(long.map((n) => n.length)).toEqual([500, 500]);
  expect(notesOf(['x'.repeat(300), 'y'.repeat(199)]).map((n) => n.length)).toEqual([300, 199]);
});

describe('a run that goes on in the browser', () => {
  const { library } = shippedContent();
  const program = compile(library.procedures.get('relearn-ignition-on')!);
  const values = valuesOf(resolveParams(library.families.get('transponder-dwell')!, library.profiles.get('tarn-gantry')));
  const actor = { id: 'lead', name: 'Ines Marrow' };
  const began: RunEvent = { id: 'e0', seq: 0, actor, occurredAt: 0, receivedAt: 0, type: 'started', keys: ['A'] };
  const here = { program, values, events: [began], actor, record: { authority: true, keysAbsent: [] }, mayWaive: false };
  const volts = (id: string, value: number, at: number): Pending => ({
    type: 'answer',
    step: 'rested',
    answer: 'measured',
    value,
    id,
    expectedSeq: 99,
    occurredAt: at,
  });

  test('stands where its answers lead, with the moments at which they were given', () => {
    const loads: Pending = { type: 'answer', step: 'loads', answer: 'done', id: 'l', expectedSeq: 3, occurredAt: 9000 };
    const { events, held } = ahead(here, [volts('v', 12.6, 5000), loads]);
    expect([held, events.map((e) => [e.id, e.seq, e.occurredAt])]).toEqual([
      false,
      [
        ['v', 1, 5000],
        ['l', 2, 9000],
      ],
    ]);
    expect(fold(program, values, [began, ...events]).step).not.toBe('loads');
  });

  test('stops before what can’t be told here, and says what is wrong', () => {
    const number: Pending = { type: 'number', name: 'dwell', value: '600', source: 'sheet', id: 'n', expectedSeq: 1, occurredAt: 1 };
    expect(ahead(here, [number, volts('v', 12.6, 5000)])).toEqual({ events: [], held: true });
    const state = fold(program, values, [began]);
    expect(refusedHere(here, state, volts('v', 12.6, 1))).toBeUndefined();
    expect(refusedHere(here, state, volts('v', 900, 1))?.code).toBe('badValue');
    expect(refusedHere(here, state, { type: 'waive', step: 'rested', reason: 'x', id: 'w', expectedSeq: 1, occurredAt: 1 })?.code).toBe('notAllowed');
  });
});
