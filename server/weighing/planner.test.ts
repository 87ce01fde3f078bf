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
