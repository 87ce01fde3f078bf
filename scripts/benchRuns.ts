// Measures the fold of a long run and the battery's reserve for `npm run bench`, each against reading the same events as JSON in turn. Prints JSON.
import { session } from '../content/session.testing';
import { fold, reserveOf } from '../core/procedure';
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
process.stdout.write(JSON.stringify({ events: run.events.length, folding, reading, reserve, ofRun }));
