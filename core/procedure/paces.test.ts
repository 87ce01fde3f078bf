import { session } from '../../content/session.testing';
import { paceHere, pacesOf, stepsAhead } from '.';

test('acts are timed from their instruction to their answer; waits are not, nor what was taken back, nor what lay for long', () => {
  const s = session({ keys: ['A'] });
  s.ready();
  const from = s.events.length;
  s.pass(7);
  s.answer('done');
  s.pass(601);
  s.answer('new');
  s.pass(600);
  s.answer('done');
  s.pass(12);
  s.answer('done');
  const last = s.events.at(-1)!;
  const counted = pacesOf(s.program, s.values, s.events).slice(-3);
  expect(counted.map((p) => p.seconds)).toEqual([7, 600, 12]);
  expect(counted.map((p) => p.step)).toEqual([from, from + 2, from + 3].map((i) => (s.events[i] as { step: string }).step));
  expect(s.send({ type: 'takeBack', event: last.id }).ok).toBe(true);
  expect(pacesOf(s.program, s.values, s.events).at(-1)!.seconds).toBe(600);
});

test('the median counts, shrunk towards the estimate as if eight had taken as long as that', () => {
  expect(paceHere(30)).toBe(30);
  expect(paceHere(30, [])).toBe(30);
  expect(paceHere(30, [48])).toBe((8 * 30 + 48) / 9);
  // One that lay for ten minutes pulls nothing.
  expect(paceHere(30, [10, 20, 600])).toBe((8 * 30 + 3 * 20) / 11);
  expect(paceHere(30, [40, 20])).toBe((8 * 30 + 2 * 30) / 10);
  expect(
    paceHere(
      30,
      Array.from({ length: 792 }, () => 60),
    ),
  ).toBeCloseTo(59.7, 6);
});

test('a plan goes by what acts took here', () => {
  const s = session({ keys: ['A'] });
  s.prepare();
  const input = { program: s.program, values: s.values };
  const usual = stepsAhead(input, s.state(), s.now());
  const slow = stepsAhead(input, s.state(), s.now(), { off: Array.from({ length: 80 }, () => 60) });
  const all = (steps: typeof usual) => steps.filter((x) => x.kind === 'attended').reduce((sum, x) => sum + x.minutes, 0);
  expect(all(slow)).toBeGreaterThan(all(usual));
  expect(slow.filter((x) => x.kind === 'wait')).toEqual(usual.filter((x) => x.kind === 'wait'));
});
