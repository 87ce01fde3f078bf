import { session } from '../../content/session.testing';

/** The Tarn Gantry waits 8 s with the key off and 560 s with it on. */
const inOffWait = () => {
  const s = session({ keys: ['A', 'B'] });
  s.prepare();
  return s;
};
const give = (s: ReturnType<typeof session>, name: string, value: number) => s.send({ type: 'number', name, value, source: 'page 7' });
const answers = (s: ReturnType<typeof session>) => s.shown().answers.map((a) => a.id);

/** In the wait with the key off, `elapsed` seconds of 8 gone. */
function waiting(elapsed: number) {
  const s = inOffWait();
  const left = () => (s.shown().wait!.until - s.now()) / 1000;
  const before = left();
  s.pass(before - 8 + elapsed);
  return s;
}

test('a shorter number does not end the wait that is going on; a person may', () => {
  const s = waiting(3);
  const step = s.shown().step;
  give(s, 'offMin', 1);
  expect(s.shown()).toMatchObject({ step, attention: 'due' });
  expect(s.shown().answers).toEqual([{ id: 'timeOver', say: 'Time’s up by the new number', hint: 'Otherwise it continues for 0:05, as it started' }]);
  s.answer('timeOver');
  expect(s.shown().step).not.toBe(step);
  expect(s.folded()).toEqual(s.state());
});

test('left alone, it ends when it would have ended before', () => {
  const s = waiting(3);
  const step = s.shown().step;
  give(s, 'offMin', 1);
  s.pass(4.999);
  expect(s.shown().step).toBe(step);
  s.pass(0.001);
  expect(s.shown().step).not.toBe(step);
});

test('the next round waits as the new number says', () => {
  const s = waiting(3);
  give(s, 'offMin', 5);
  s.pass(5);
  s.answer('done');
  s.pass(2);
  s.answer('lit');
  s.pass(560);
  s.answer('lampOut');
  s.pass(1);
  s.answer('done');
  const { wait } = s.shown();
  expect((wait!.until - wait!.startedAt) / 1000).toBe(5);
  expect(answers(s)).toEqual([]);
});

test('a longer number counts at once', () => {
  const s = waiting(3);
  const step = s.shown().step;
  give(s, 'offMin', 20);
  s.pass(16.999);
  expect(s.shown().step).toBe(step);
  expect(answers(s)).toEqual([]);
  s.pass(0.001);
  expect(s.shown().step).not.toBe(step);
});

test('before the new time is up there is nothing to say, and saying it is refused', () => {
  const s = waiting(3);
  give(s, 'offMin', 6);
  expect(answers(s)).toEqual([]);
  expect(s.send({ type: 'answer', step: s.shown().step, answer: 'timeOver' })).toMatchObject({ ok: false, refusal: { code: 'unknownAnswer' } });
});

test('several changes, each shorter: the end it began with stays', () => {
  const s = waiting(1);
  const step = s.shown().step;
  for (const value of [7, 6, 5, 4, 3, 2, 1]) give(s, 'offMin', value);
  s.pass(6.999);
  expect(s.shown().step).toBe(step);
  s.pass(0.001);
  expect(s.shown().step).not.toBe(step);
});

test('a wait for the lamp: a lamp that was noted out does not end it by the new number', () => {
  const s = inOffWait();
  s.pass(8);
  s.answer('done');
  s.pass(2);
  s.answer('lit');
  const step = s.shown().step;
  s.pass(540);
  s.answer('lampOut');
  expect(s.shown().notice?.kind).toBe('early');
  give(s, 'dwell', 100);
  expect(s.shown().step).toBe(step);
  expect(answers(s)).toContain('timeOver');
  s.pass(17);
  expect(s.shown().step).toBe(step);
  s.answer('timeOver');
  expect(s.shown().step).not.toBe(step);
});

test('the number that was taken back leaves the wait as it was', () => {
  const s = waiting(3);
  const before = s.shown();
  give(s, 'offMin', 1);
  s.send({ type: 'takeBack', event: s.state().history.at(-1)!.id });
  expect(s.shown()).toEqual({ ...before, seq: s.state().seq });
});
