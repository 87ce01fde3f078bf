import type { Instance } from '../../core/schedule';
import { openPlanner } from './planner';

const act = (minutes: number) => ({ kind: 'attended' as const, minutes });
const wait = (minutes: number, maxLateMinutes: number) => ({ kind: 'wait' as const, minutes, maxLateMinutes });
const never = () => {
  throw new Error('Nothing is looked for behind it without a worker.');
};
const shown = (planner: ReturnType<typeof openPlanner>, name: string, instance: Instance) =>
  planner.now(name, instance, never).touches.map((t) => `${t.at} ${t.case}${t.broken ? ' too late' : ''}`);

test('the standing order goes on while time passes, and while a change gains less than two minutes', () => {
  const planner = openPlanner();
  const before: Instance = {
    technicians: 1,
    cases: [
      { id: 'a', steps: [act(5)] },
      { id: 'b', steps: [act(4)] },
    ],
  };
  const order = shown(planner, 'one', before);
  const later: Instance = {
    technicians: 1,
    cases: [
      { id: 'a', steps: [act(4.5)] },
      { id: 'b', steps: [act(4)] },
    ],
  };
  expect(shown(planner, 'one', later).map((t) => t.at(-1))).toEqual(order.map((t) => t.at(-1)));
  expect(shown(planner, 'two', later).map((t) => t.at(-1))).toEqual(order.map((t) => t.at(-1)));
});

test('a step that became long does not push a running limit over: the order changes at once', () => {
  const planner = openPlanner();
  const car = { id: 'car', steps: [wait(4, 2), act(1)] };
  const other = (minutes: number) => ({ id: 'other', steps: [act(minutes)] });
  expect(shown(planner, 'short', { technicians: 1, cases: [car, other(2)] })).toEqual(['0 other', '4 car']);
  expect(shown(planner, 'long', { technicians: 1, cases: [car, other(30)] })).toEqual(['4 car', '5 other']);
});

test('what can’t be kept is said each time, and does not change the order each time', () => {
  const planner = openPlanner();
  const both: Instance = { technicians: 1, cases: ['a', 'b'].map((id) => ({ id, steps: [wait(3, 0), act(4)] })) };
  const first = shown(planner, 'both', both);
  expect(first.filter((t) => t.endsWith('too late'))).toHaveLength(1);
  expect(shown(planner, 'both', both)).toEqual(first);
});

test('a case that came, and one that went', () => {
  const planner = openPlanner();
  const one = (id: string) => ({ id, steps: [act(3)] });
  shown(planner, 'a', { technicians: 1, cases: [one('a')] });
  expect(shown(planner, 'ab', { technicians: 1, cases: [one('a'), one('b')] })).toHaveLength(2);
  expect(shown(planner, 'b', { technicians: 1, cases: [one('b')] })).toEqual(['0 b']);
});

test('twelve cases and two technicians: the order that is there at once leaves hands idle for less than a twentieth', () => {
  const chain = (id: string, fix: number) => ({ id, steps: [act(1), act(fix), act(6), act(5)] });
  const relearn = { id: 'relearn', steps: [wait(3.4, 2.5), act(0.4), wait(9.3, 2.5), act(1.3), act(6)] };
  const tool = { id: 'tool', steps: [act(2.1), { kind: 'wait' as const, minutes: 1 }, act(13.7), act(6)] };
  const cases = [relearn, tool, ...[45, 25, 30, 30, 30, 30, 10, 30, 12, 18].map((fix, i) => chain(`fix ${i + 1}`, fix))];
  const plan = openPlanner().now('twelve', { technicians: 2, cases }, never);
  expect(plan.touches.filter((t) => t.broken ?? t.tight)).toEqual([]);
  expect(plan.makespanMinutes / plan.bound).toBeLessThan(1.05);
});
