import { type Draws, drawnShop } from './drawn.testing';
import { generator } from '../units';
import { byOrder, dayOf, type DayPolicy, type Instance, planOf, settled } from '.';
import { type Act, type Shop, shopOf } from './instance';

/** Every order of acts and hands there is, each with its earliest moments by moving acts later until nothing is against them. */
function bruteForce(instance: Instance): number | undefined {
  const shop = shopOf(instance);
  let best: number | undefined;
  const order: { job: number; technician: number; act: Act; index: number }[] = [];
  const next = shop.jobs.map(() => 0);
  const go = (): void => {
    if (shop.jobs.every((j, i) => next[i] === j.acts.length)) {
      const end = naive(shop, order);
      if (end !== undefined && (best === undefined || end < best)) best = end;
      return;
    }
    shop.jobs.forEach((job, j) => {
      const act = job.acts[next[j]!];
      if (!act) return;
      for (const technician of job.by) {
        order.push({ job: j, technician, act, index: next[j]! });
        next[j]! += 1;
        // A beginning that breaks a limit, or is no sooner ready than the best, stays so.
        const so = naive(shop, order);
        if (so !== undefined && (best === undefined || so < best)) go();
        next[j]! -= 1;
        order.pop();
      }
    });
  };
  go();
  return best;
}

/** The end of an order of acts; undefined when a limit can't be kept: moving on and on. */
function naive(shop: Shop, order: readonly { job: number; technician: number; act: Act; index: number }[]): number | undefined {
  const starts = order.map(() => 0);
  const end = (i: number) => starts[i]! + order[i]!.act.minutes;
  for (let round = 0; ; round += 1) {
    let moved = false;
    const atLeast = (i: number, t: number) => {
      if (t > starts[i]!) [starts[i], moved] = [t, true];
    };
    order.forEach((o, i) => {
      const before = order.findIndex((b) => b.job === o.job && b.index === o.index - 1);
      const hands = order.slice(0, i).findLastIndex((b) => b.technician === o.technician);
      atLeast(i, (before < 0 ? 0 : end(before)) + o.act.lag);
      if (hands >= 0) atLeast(i, end(hands));
      if (before >= 0 && o.act.late < Infinity) atLeast(before, starts[i]! - o.act.lag - o.act.late - order[before]!.act.minutes);
      if (before < 0 && starts[i]! > o.act.lag + o.act.late) atLeast(i, Infinity);
    });
    if (starts.some((s) => s === Infinity)) return undefined;
    if (!moved)
      return Math.max(
        ...shop.jobs.map((j, n) =>
          Math.max(0, ...order.flatMap((o, i) => (o.job === n ? [end(i) + (o.index === j.acts.length - 1 ? j.tail : 0)] : []))),
        ),
      );
    if (round > 200) return undefined;
  }
}

/** What a plan promises, checked against the instance alone. */
function seeKept(instance: Instance, touches: ReturnType<typeof planOf>['touches'], makespan: number): void {
  const hands = new Map<string, number>();
  for (const t of touches) {
    expect(t.at).toBeGreaterThanOrEqual((hands.get(t.technician) ?? 0) - 1e-6);
    hands.set(t.technician, t.until);
  }
  let last = 0;
  for (const c of instance.cases) {
    let [end, lag, late] = [0, 0, Infinity];
    c.steps.forEach((s, step) => {
      if (s.kind === 'wait') {
        lag += s.minutes;
        late = s.maxLateMinutes ?? Infinity;
        return;
      }
      const touch = touches.find((t) => t.case === c.id && t.step === step)!;
      expect(touch.at).toBeGreaterThanOrEqual(end + lag - 1e-6);
      expect(touch.at).toBeLessThanOrEqual(end + lag + late + 1e-6);
      expect(touch.until - touch.at).toBeCloseTo(s.minutes, 6);
      [end, lag, late] = [touch.until, 0, Infinity];
    });
    last = Math.max(last, end + lag);
  }
  expect(makespan).toBeCloseTo(last, 6);
}

describe('against every order there is', () => {
  const shapes: [string, number, Draws][] = [
    ['2 cars of 5 acts', 10, { cars: [2, 2], acts: [5, 5], technicians: 1 }],
    ['3 cars of 3 acts', 4, { cars: [3, 3], acts: [3, 3], technicians: 1 }],
    ['4 cars of 2 acts', 6, { cars: [4, 4], acts: [2, 2], technicians: 1 }],
    ['6 cars of 1 act, and of 2', 1, { cars: [5, 6], acts: [1, 2], technicians: 1 }],
    ['3 cars of 2 acts, two technicians', 10, { cars: [3, 3], acts: [2, 2], technicians: 2 }],
  ];
  test.each(shapes)('%s, %i seeded instances', (_, n, shape) => {
    const draw = generator(20261130);
    for (let i = 0; i < n; i += 1) {
      const instance = drawnShop(draw, shape);
      const plan = planOf(instance);
      expect(plan.makespanMinutes).toBeCloseTo(bruteForce(instance)!, 6);
      expect(plan.proven).toBe(true);
      expect(plan.bound).toBeCloseTo(plan.makespanMinutes, 6);
      seeKept(instance, plan.touches, plan.makespanMinutes);
    }
  });
});

test('6 cars of 3 to 5 acts: every limit is kept, nothing overlaps, the makespan is no less than the bound', () => {
  const draw = generator(7);
  for (let i = 0; i < 10; i += 1) {
    const instance = drawnShop(draw, { cars: [6, 6], acts: [3, 5], technicians: 1 });
    const plan = planOf(instance, { most: 8000 });
    seeKept(instance, plan.touches, plan.makespanMinutes);
    expect(plan.makespanMinutes).toBeGreaterThanOrEqual(plan.bound);
  }
});

const act = (minutes: number, holds?: string[]) => ({ kind: 'attended' as const, minutes, ...(holds ? { holds } : {}) });
const wait = (minutes: number, maxLateMinutes?: number, holds?: string[]) => ({
  kind: 'wait' as const,
  minutes,
  ...(maxLateMinutes === undefined ? {} : { maxLateMinutes }),
  ...(holds ? { holds } : {}),
});

describe('by hand', () => {
  test('while one car waits, the other is worked on', () => {
    const plan = planOf({
      technicians: 1,
      cases: [
        { id: 'a', steps: [act(2), wait(10), act(2)] },
        { id: 'b', steps: [act(5)] },
      ],
    });
    expect(plan).toMatchObject({ makespanMinutes: 14, bound: 14, proven: true });
    expect(plan.touches.map((t) => `${t.at} ${t.case}${t.step}`)).toEqual(['0 a0', '2 b0', '12 a2']);
  });

  test('two cars that would both need the technician: one begins later, by as much as is needed, and it says because of whom', () => {
    const car = (id: string) => ({ id, steps: [act(2), wait(10, 0), act(4)] });
    const plan = planOf({ technicians: 1, cases: [car('a'), car('b')] });
    expect(plan.touches.map((t) => `${t.at} ${t.case}${t.step}`)).toEqual(['0 a0', '4 b0', '12 a2', '16 b2']);
    expect(plan.touches[1]!.held).toEqual({ minutes: 2, other: 'a', at: 12 });
    expect(plan.touches[2]).toMatchObject({ limitAt: 12 });
  });

  test('a limit that breaks when acts take a fifth longer is marked, and a plan that is to stand that has none', () => {
    const instance: Instance = {
      technicians: 1,
      cases: [
        { id: 'a', steps: [act(1), wait(10, 1), act(1)] },
        { id: 'b', steps: [act(10)] },
      ],
    };
    const sharp = planOf(instance);
    expect(sharp).toMatchObject({ makespanMinutes: 12, sturdy: false });
    expect(sharp.touches.find((t) => t.case === 'a' && t.step === 2)).toMatchObject({ at: 11, tight: true, limitAt: 12 });
    const sturdy = planOf(instance, { spread: 0.2 });
    expect(sturdy.sturdy).toBe(true);
    expect(sturdy.touches.some((t) => t.tight)).toBe(false);
  });

  test('two waits that end together and allow nothing: one limit can’t be kept, and that is said', () => {
    const car = (id: string) => ({ id, steps: [wait(3, 0), act(4)] });
    const plan = planOf({ technicians: 1, cases: [car('a'), car('b')] });
    expect(plan.touches.filter((t) => t.broken)).toHaveLength(1);
    expect(plan.touches.map((t) => t.at)).toEqual([3, 7]);
    expect(plan.sturdy).toBe(false);
  });

  test('promises go before the time to the last car', () => {
    const plan = planOf({
      technicians: 1,
      cases: [
        { id: 'long', steps: [act(5), wait(30), act(1)] },
        { id: 'due', steps: [act(4)], promiseInMinutes: 4 },
      ],
    });
    expect(plan.touches[0]).toMatchObject({ case: 'due', at: 0 });
    expect(plan).toMatchObject({ latenessMinutes: 0, makespanMinutes: 40 });
    expect(plan.ends.find((e) => e.case === 'due')).toEqual({ case: 'due', at: 4, promiseIn: 4, late: 0 });
  });

  test('one scan tool for two cars: the second begins when the first gives it back, waits included', () => {
    const car = (id: string) => ({ id, steps: [act(1, ['tool']), wait(10, undefined, ['tool']), act(1, ['tool']), wait(2, undefined, ['tool'])] });
    const plan = planOf({ technicians: 2, cases: [car('a'), car('b')] });
    expect(plan.makespanMinutes).toBe(28);
    const taken = planOf({
      technicians: 1,
      cases: [{ ...car('a'), steps: [wait(5, undefined, ['tool']), act(1, ['tool'])], holding: ['tool'] }, car('b')],
    });
    expect(taken.touches.map((t) => `${t.at} ${t.case}${t.step}`)).toEqual(['5 a1', '6 b0', '17 b2']);
  });

  test('who may do it does it, and who is busy begins later', () => {
    const plan = planOf({
      technicians: [{ id: 'Lusk', busyMinutes: 3 }, { id: 'Marrow' }],
      cases: [
        { id: 'a', steps: [act(2)], technicians: ['Lusk'] },
        { id: 'b', steps: [act(9)] },
      ],
    });
    expect(plan.touches).toEqual([
      { at: 0, until: 9, case: 'b', step: 0, technician: 'Marrow' },
      { at: 3, until: 5, case: 'a', step: 0, technician: 'Lusk' },
    ]);
  });

  test('nothing to do', () => {
    expect(planOf({ technicians: 1, cases: [] })).toEqual({
      makespanMinutes: 0,
      latenessMinutes: 0,
      bound: 0,
      proven: true,
      sturdy: true,
      touches: [],
      ends: [],
    });
    expect(planOf({ technicians: 1, cases: [{ id: 'a', steps: [wait(5)] }] })).toMatchObject({ makespanMinutes: 5, touches: [] });
  });
});

describe('a plan that stands', () => {
  const two: Instance = {
    technicians: 1,
    cases: [
      { id: 'a', steps: [act(4), wait(1), act(4)] },
      { id: 'b', steps: [act(4), wait(1), act(4)] },
    ],
  };
  const standing = planOf(two).touches;

  test('stands while a new one gains less than two minutes', () => {
    const swapped = standing.map((t) => ({ ...t, case: t.case === 'a' ? 'b' : 'a' }));
    const kept = settled(two, swapped, planOf(two));
    expect(kept.touches[0]!.case).toBe(swapped[0]!.case);
    expect(kept.makespanMinutes).toBe(planOf(two).makespanMinutes);
  });

  test('gives way to one that gains two', () => {
    const one = [...standing.filter((t) => t.case === 'a'), ...standing.filter((t) => t.case === 'b')];
    const fresh = planOf(two);
    expect(settled(two, one, fresh)).toBe(fresh);
    expect(fresh.makespanMinutes).toBe(16);
  });

  test('gives way when a case came that it does not know', () => {
    const three: Instance = { ...two, cases: [...two.cases, { id: 'c', steps: [act(1)] }] };
    const fresh = planOf(three);
    expect(settled(three, standing, fresh)).toBe(fresh);
  });
});

test('a standing order goes on with what is left of each case, and not with a case that has more to do than it knows', () => {
  const steps = [act(4), wait(1), act(4)];
  const order = planOf({ technicians: 1, cases: ['a', 'b'].map((id) => ({ id, steps })) }).touches;
  const left = byOrder(
    {
      technicians: 1,
      cases: [
        { id: 'a', steps: [wait(0.5), act(4)] },
        { id: 'b', steps },
      ],
    },
    order,
  )!;
  expect(left.touches.map((t) => `${t.case}${t.step}`)).toEqual(['b0', 'a1', 'b2']);
  expect(byOrder({ technicians: 1, cases: [{ id: 'a', steps: [...steps, act(1)] }] }, order)).toBeUndefined();
  expect(byOrder({ technicians: [{ id: 'somebody else' }], cases: [{ id: 'a', steps }] }, order)).toBeUndefined();
});

describe('days whose acts take up to a fifth less or more', () => {
  const draw = generator(3);
  const days = (policy: DayPolicy, n: number) =>
    Array.from({ length: n }, () => {
      const instance = drawnShop(draw, { cars: [3, 6], acts: [3, 5], technicians: 1, tolerance: [1, 2] });
      return dayOf(instance, policy, draw);
    });

  test('the plan breaks no limit', () => {
    expect(days('plan', 15).reduce((n, d) => n + d.broken, 0)).toBe(0);
  });

  test('the most urgent first breaks limits; one after another breaks none and is long', () => {
    expect(days('deadlines', 60).reduce((n, d) => n + d.broken, 0)).toBeGreaterThan(20);
    expect(days('oneByOne', 60).reduce((n, d) => n + d.broken, 0)).toBe(0);
  });

  test('the same vehicles one after another take longer than by the plan', () => {
    const instance = drawnShop(generator(9), { cars: [6, 6], acts: [4, 4], technicians: 1 });
    const [byPlan, oneByOne] = [dayOf(instance, 'plan', generator(1)), dayOf(instance, 'oneByOne', generator(1))];
    expect(oneByOne.makespan).toBeGreaterThan(1.8 * byPlan.makespan);
  });
});
