// Measures the resistor key for `npm run bench`: the search for substitutes against every combination there is, and the time of one verdict. Prints JSON.
import { readContent } from '../content/reader';
import { classify, type Conditions, oneRange, type Resistor, seriesValues, substitutes } from '../core/ladder';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
function time(tries: number, run: () => void): number {
  for (let i = 0; i < 3; i += 1) run();
  return median(
    Array.from({ length: tries }, () => {
      const from = performance.now();
      run();
      return performance.now() - from;
    }),
  );
}

const target = 1387.3;
const across = (a: number, b: number) => (a * b) / (a + b);
/** The least error of any one to three, by trying them all. */
function everyOne(stock: readonly Resistor[]): number {
  const v = stock.map((r) => r.ohms);
  let best = Infinity;
  const take = (ohms: number) => (best = Math.min(best, Math.abs(ohms - target)));
  for (let a = 0; a < v.length; a += 1) {
    take(v[a]!);
    for (let b = a; b < v.length; b += 1) {
      const [sum, pair] = [v[a]! + v[b]!, across(v[a]!, v[b]!)];
      take(sum);
      take(pair);
      for (let c = 0; c < v.length; c += 1) {
        if (c >= b) {
          take(sum + v[c]!);
          take(across(pair, v[c]!));
        }
        take(pair + v[c]!);
        take(across(sum, v[c]!));
      }
    }
  }
  return best;
}

// Two decades of E96: as many as brute force can be waited for.
const some = seriesValues('E96').filter((r) => r.ohms >= 100 && r.ohms < 10_000);
const all = seriesValues('E96');
const wanted = { targetOhms: target, limit: 10 };
if (Math.abs(substitutes(some, wanted)![0]!.error - everyOne(some)) > 1e-9) throw new Error('The search misses the best combination.');
const brute = time(5, () => void everyOne(some));
const search = time(15, () => void substitutes(some, wanted));
const ladder = [...readContent('content').library.ladders.values()].find((l) => l.id === 'veskar-twelve')!;
const conditions: Conditions = { meter: oneRange('M', { percent: 0.5, digits: 2, resolutionOhms: 1 }), leadOhms: 0.4, temperatureC: 20 };
const readings = [1391, 1388, 1384, 1379, 1386];
process.stdout.write(
  JSON.stringify({
    kinds: some.length,
    brute,
    search,
    allKinds: all.length,
    allMs: time(15, () => void substitutes(all, wanted)),
    window: time(15, () => void substitutes(all, { ...wanted, window: { low: 1373, high: 1402 } })),
    verdict: time(40, () => void classify(readings, ladder, conditions)),
  }),
);
