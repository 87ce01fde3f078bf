// What a plan for several cars costs and is worth, as JSON for scripts/bench.mjs: seeded instances, and simulated days with noisy acts.
import { dayOf, dayPolicies, planOf } from '../core/schedule';
import { type Draws, drawnShop } from '../core/schedule/drawn.testing';
import { generator } from '../core/units';

const [instances, days] = [1000, 10_000];
const milliseconds = 100;
/** As security relearns are: short touches, waits of about ten minutes. */
const relearn: Pick<Draws, 'hands' | 'waits'> = { hands: [1, 3], waits: [8, 12] };
const draw = generator(20261130);

let [inTime, solved] = [0, 0];
let worst = 0;
const took: number[] = [];
const gaps: number[] = [];
// The first few are for the machine to warm up.
for (let i = -20; i < instances; i += 1) {
  const instance = drawnShop(draw, { cars: [2, 6], acts: [3, 5], technicians: 1, tolerance: i % 2 === 0 ? [1, 2] : [1, 6], ...relearn });
  const from = performance.now();
  const plan = planOf(instance);
  const ms = performance.now() - from;
  if (i < 0) continue;
  took.push(ms);
  if (plan.proven) solved += 1;
  if (plan.proven && ms < milliseconds) inTime += 1;
  if (!plan.proven) gaps.push(plan.makespanMinutes / plan.bound - 1);
  worst = Math.max(worst, ms);
}
took.sort((a, b) => a - b);

const byPolicy = dayPolicies.map((policy) => {
  const acts = generator(7);
  const shops = generator(8);
  let [broken, brokenDays, minutes] = [0, 0, 0];
  for (let i = 0; i < days; i += 1) {
    const day = dayOf(drawnShop(shops, { cars: [4, 6], acts: [3, 5], technicians: 1, tolerance: [1, 2], ...relearn }), policy, acts);
    broken += day.broken;
    brokenDays += day.broken > 0 ? 1 : 0;
    minutes += day.makespan;
  }
  return { policy, broken, brokenDays, minutes: minutes / days };
});
process.stdout.write(
  JSON.stringify({
    instances,
    days,
    milliseconds,
    inTime,
    solved,
    median: took[instances >> 1],
    p99: took[Math.floor(instances * 0.99)],
    worst,
    gaps,
    byPolicy,
  }),
);
