// One part of the measurement of the diagnosis, as a process of its own: prints one JSON document. `npm run bench` runs the parts side by side.
import { readContent } from '../content/reader';
import {
  compile,
  type Compiled,
  costOf,
  Diagnostician,
  firstBudget,
  Policy,
  priorsOf,
  randomModel,
  Ranking,
  regimes,
  simulate,
  solve,
  type Tally,
  usualBudget,
} from '../core/diagnosis';
import { type Family, resolveParams, valuesOf } from '../core/library';
import { generator } from '../core/units';

const { families } = readContent('content').library;
const keys = ['A', 'B'];
const compiledOf = (family: Family): Compiled => compile(family, valuesOf(resolveParams(family)), { told: [], keys, ratePerMinute: 1 });

/** Engine, fixed order and chance on one family; the engine also without human error and with tables that are off. */
function measureFamily(id: string, trials: number) {
  const family = families.get(id)!;
  const compiled = compiledOf(family);
  const run = (policy: 'engine' | 'fixed' | 'random', more = {}) => simulate(compiled, { policy, trials, seed: 2026, fixed: family.fixed!, ...more });
  const share = ({ trials: n, solved, wrong }: Tally) => ({ trials: n, solved: n === 0 ? 1 : solved / n, wrong: n === 0 ? 0 : wrong / n });
  const figures = (r: ReturnType<typeof run>) => ({
    extra: r.meanExtraCost,
    minutes: r.meanMinutes,
    tests: r.meanTests,
    failed: r.failedRepairs / r.trials,
    tellable: share(r.tellable),
    twoFaults: share(r.twoFaults),
    somethingElse: share(r.somethingElse),
  });
  return {
    family: id,
    faults: compiled.hypotheses.length,
    tests: compiled.tests.length,
    engine: figures(run('engine')),
    sure: figures(run('engine', { humanError: false })),
    disturbed: figures(run('engine', { disturbed: 0.3 })),
    fixed: figures(run('fixed')),
    random: figures(run('random', { trials: Math.ceil(trials / 10) })),
  };
}

/** Cost of the production policy over the optimum, evaluated exactly, on seeded random models. */
function measureModels(regime: keyof typeof regimes, from: number, to: number) {
  return Array.from({ length: to - from }, (_, i) => {
    const model = randomModel(regimes[regime], generator(1000 + from + i));
    const policy = new Policy(model, usualBudget);
    return costOf(model, priorsOf(model), (w, open) => policy.choices(w, open)[0]!.action) / solve(model).cost;
  });
}

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
function time(tries: number, run: () => void): number {
  for (let i = 0; i < tries / 4; i += 1) run();
  return median(
    Array.from({ length: tries }, () => {
      const from = performance.now();
      run();
      return performance.now() - from;
    }),
  );
}

/** Ranking against a plain loop over typed arrays that does nothing but the multiply-adds and logarithms; and an answer for the largest family. */
function measureSpeed() {
  const [faults, tests, outcomes] = [40, 60, 5];
  const random = generator(7);
  const model = randomModel(
    { faults, tests, outcomes: [outcomes, outcomes], reliability: [0.6, 0.95], testCost: [2, 20], repair: [10, 200] },
    random,
  );
  const ranking = new Ranking(model);
  const weights = priorsOf(model);
  const bits = new Float64Array(tests);
  const width = faults + 1;
  const flat = Float64Array.from(model.tests.flatMap((t) => [...t.p]));
  const plain = () => {
    for (let t = 0; t < tests; t += 1) {
      let entropy = 0;
      for (let o = 0; o < outcomes; o += 1) {
        let chance = 0;
        const at = (t * outcomes + o) * width;
        for (let f = 0; f < width; f += 1) chance += weights[f]! * flat[at + f]!;
        entropy -= chance * Math.log2(chance);
      }
      bits[t] = entropy;
    }
  };
  const many = (run: () => void) => () => {
    for (let i = 0; i < 200; i += 1) run();
  };
  const reference = time(40, many(plain)) / 200;
  const ranked =
    time(
      40,
      many(() => ranking.bits(weights, bits)),
    ) / 200;
  const largest = [...families.values()].sort((a, b) => size(b) - size(a))[0]!;
  const answer = (budget: typeof usualBudget) =>
    time(5, () => {
      const { diagnose } = doctor(largest);
      diagnose(budget);
    });
  const single = new Diagnostician(situation(largest));
  return {
    reference,
    ranked,
    ratio: ranked / reference,
    largest: largest.id,
    first: answer(firstBudget),
    final: answer(usualBudget),
    pairs: time(5, () => void single.pairs()),
  };
}
const size = (family: Family) => compiledOf(family).hypotheses.length * compiledOf(family).tests.length;
const situation = (family: Family) => ({ family, params: valuesOf(resolveParams(family)), told: [], keys, ratePerMinute: 1, findings: [] });
const doctor = (family: Family) => {
  const made = new Diagnostician(situation(family));
  return { diagnose: (budget: typeof usualBudget) => made.diagnose(budget) };
};

const [part, ...args] = process.argv.slice(2);
const result =
  part === 'list'
    ? [...families.keys()]
    : part === 'family'
      ? measureFamily(args[0]!, Number(args[1]))
      : part === 'models'
        ? measureModels(args[0] as keyof typeof regimes, Number(args[1]), Number(args[2]))
        : measureSpeed();
process.stdout.write(JSON.stringify(result));
