// Measures the fold of a long run, the battery's reserve, the plan of a replacement and the explanation of trouble codes for `npm run bench`, each against reading the same events as JSON in turn. Prints JSON.
import { session, shipped } from '../content/session.testing';
import { explainCode } from '../core/codes';
import { fold, reserveOf } from '../core/procedure';
import { moduleNames, origins, planReplacement } from '../core/replacement';
import { predict } from '../core/reserve';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
function once(run: () => void): number {
  const from = performance.now();
  run();
  return performance.now() - from;
}
/** Two works in turn, after some to warm up; medians. */
function inTurn(tries: number, a: () => void, b: () => void): [number, number] {
  const [first, second]: [number[], number[]] = [[], []];
  for (let i = 0; i < tries + 20; i += 1) {
    const [x, y] = [once(a), once(b)];
    if (i >= 20) {
      first.push(x);
      second.push(y);
    }
  }
  return [median(first), median(second)];
}

/** A run in which somebody answers that the light is still on, again and again, while the clock goes. */
const wanted = 2000;
const run = session();
run.prepare();
run.pass(8);
run.answer('done');
run.answer('lit');
while (run.events.length < wanted) {
  run.pass(0.1);
  run.answer('stillOn');
}
const text = JSON.stringify(run.events);
const [folding, reading] = inTurn(
  100,
  () => void fold(run.program, run.values, run.events),
  () => void JSON.parse(text),
);
const state = run.folded();
const battery = { type: 'flooded', capacityAh: 60, openCircuitVolts: 12.5, temperatureC: 20, ageYears: 3, loadAmps: 6, limitVolts: 12 } as const;
const [reserve] = inTurn(
  60,
  () => void predict(battery, { minutes: 30, readings: [{ minutes: 1, volts: 12.3 }] }),
  () => void JSON.parse(text),
);
let later = state.lastAt;
const [ofRun] = inTurn(
  60,
  // Each at another moment: what was reckoned once is known the next time.
  () => void reserveOf(run.program, run.values, { ...state, lastAt: (later += 1) }),
  () => void JSON.parse(text),
);

/** Every set of up to three parts of every system type, wherever they come from: the slowest three are measured. */
const situations = [...shipped.replacements.values()].flatMap((content) =>
  moduleNames.flatMap((a, i) =>
    moduleNames
      .slice(i)
      .flatMap((b, k) =>
        moduleNames.slice(i + k).flatMap((c) => origins.map((from) => ({ content, replaced: { [a]: from, [b]: from, [c]: from } }))),
      ),
  ),
);
const plan = ({ content, replaced }: (typeof situations)[number]) => void planReplacement(content, { replaced });
situations.forEach(plan);
const slowest = situations
  .map((situation) => [once(() => plan(situation)), situation] as const)
  .sort((x, y) => y[0] - x[0])
  .slice(0, 3);
const planning = Math.max(
  ...slowest.map(
    ([, situation]) =>
      inTurn(
        40,
        () => plan(situation),
        () => void JSON.parse(text),
      )[0],
  ),
);
const publicCodes = Object.keys(shipped.codes.find((list) => list.maker === undefined)!.codes).slice(0, 200);
const [explaining] = inTurn(
  60,
  () => publicCodes.forEach((code) => explainCode(code, shipped.codes)),
  () => void JSON.parse(text),
);
const plans = situations.length;
process.stdout.write(
  JSON.stringify({ events: run.events.length, folding, reading, reserve, ofRun, plans, planning, codes: publicCodes.length, explaining }),
);
