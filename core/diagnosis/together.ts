import type { Compiled } from './compile';

/** Chances of a test when two faults are there at once, before human error: the one that stands first in the chain hides the other as far as it shows. */
export function together(compiled: Compiled, t: number, a: number, b: number): number[] {
  const width = compiled.hypotheses.length + 1;
  const outcomes = compiled.model.tests[t]!.outcomes;
  const column = (f: number) => outcomes.map((_, o) => compiled.bare[t]![o * width + f]!);
  const [upper, lower] = compiled.place[a]! <= compiled.place[b]! ? [a, b] : [b, a];
  const first = column(upper);
  const healthy = compiled.healthy[t]!;
  // Total variation distance from a vehicle without a fault: how far the upper fault shows in this test.
  const shows = first.reduce((n, x, o) => n + Math.abs(x - healthy[o]!), 0) / 2;
  const second = column(lower);
  return first.map((x, o) => shows * x + (1 - shows) * second[o]!);
}
