import { logGamma, studentCdf } from '../statistics';
import { type Ladder, type LadderStep, reach, type Steps } from './ladder';
import { integrate, normalPoints } from './quadrature';
import { assumedFreedom, type Conditions, expectedScatter, type Measured, measure, systematic } from './uncertainty';

const { abs, exp, log, max, min, PI, sqrt } = Math;

/**
 * How often a key that is measured is what, before anything is read; ours, from nobody's statistics. `step`: it holds a step's resistor, spread about the
 * nominal value so that the window is three standard deviations away. `worn`: any value from short to open, even on a log scale; where it lies in a
 * window it is a step all the same. `jumping`: the value itself is loose; `breaking`: a sound value that is open now and then. Both are unstable.
 */
export const keyPrior = { step: 0.86, worn: 0.07, open: 0.03, short: 0.01, jumping: 0.026, breaking: 0.004 } as const;
/** A tip slips off: an overload although the key is sound. */
export const slip = 0.004;
/** A jumping contact: its spread as a share of the value, how well that is known, and how often it is open when it is read. */
export const jumping = { scatter: 0.06, degreesOfFreedom: 2, open: 0.25 } as const;
/** How often a breaking contact is open when it is read. */
export const breakingOpen = 0.5;
/** An open key shows a number at times: damp, a finger across the tips. */
export const openShowsNumber = 0.02;
/** An open key with damp or dirt across its contacts: how often an open one is that, and how often such a one shows a number when it is read; the numbers scatter. */
export const leaky = { share: 0.05, number: 0.7 } as const;
/** How far above `openAbove` an open key that shows a number may lie. */
export const openDecades = 2;

export type LadderVerdict = 'step' | 'between' | 'open' | 'short' | 'unstable';

export interface Margin {
  /** To the nearer edge of the window, ohms; below 0: outside of it. */
  ohms: number;
  /** The same in combined standard uncertainties. */
  sigmas: number;
  edge: 'low' | 'high';
  /** Of the step whose window is meant. */
  step: number;
}

export interface Classification extends Measured {
  verdict: LadderVerdict;
  /** How sure the verdict is, 0 to 1. */
  p: number;
  /** The likeliest step where the verdict is one. */
  step: LadderStep | null;
  /** Every step with its chance, in the ladder's order; what is missing to 1 is none of the steps. */
  steps: { step: number; p: number }[];
  /** The other answers with their chances. */
  others: { verdict: Exclude<LadderVerdict, 'step'>; p: number }[];
  /** To the nearest window; null without a number. */
  margin: Margin | null;
  /** Where it lies between steps: the step below and the one above; null where there is none. */
  neighbours: { below: number | null; above: number | null };
}

/** What the numbers say, as far as the likelihood asks. */
interface Seen {
  n: number;
  overloads: number;
  mean: number;
  /** Sum of squares about the mean. */
  squares: number;
  /** The lowest number, and the sum of the numbers' logarithms; without a number infinity and 0. */
  least: number;
  logs: number;
}

/**
 * Which step a key holds, after its readings: Bayes over the resistance itself. Given a resistance, the systematic part is even within the meter's
 * limits (and normal for leads and temperature) and the readings scatter about it with a spread that is not known (scaled inverse χ², integrated out: the
 * readings then follow Student's t; Gelman et al., Bayesian Data Analysis, 3rd ed., 3.2). The chance of a step is the chance that the resistance lies
 * in its window, so a value at an edge is half inside and half between.
 * @param readings ohms in the order taken, `Infinity` for an overload; 1 to 1,000
 * @param prior chances of the steps among each other, in the ladder's order (a shop's history); even if not given
 */
export function classify(readings: readonly number[], ladder: Steps, conditions: Conditions, prior?: readonly number[]): Classification {
  if (readings.length === 0) throw new RangeError('A key can’t be identified without a reading.');
  const measured = measure(readings, conditions, ladder);
  const { n, mean, sd, overloads } = measured;
  const numbers = readings.filter(Number.isFinite);
  const seen: Seen = {
    n,
    overloads,
    mean,
    squares: sd * sd * (n - 1),
    least: min(...numbers),
    logs: numbers.reduce((sum, r) => sum + log(max(r, 1e-3)), 0),
  };
  const chances = chancesOf(seen, ladder, conditions, prior);
  const steps = ladder.steps.map((s, i) => ({ step: s.step, p: chances.steps[i]! }));
  const others = (['between', 'open', 'short', 'unstable'] as const).map((verdict) => ({ verdict, p: chances[verdict] }));
  const best = steps.reduce((a, b) => (b.p > a.p ? b : a));
  const other = others.reduce((a, b) => (b.p > a.p ? b : a));
  const isStep = best.p >= other.p;
  return {
    ...measured,
    verdict: isStep ? 'step' : other.verdict,
    p: isStep ? best.p : other.p,
    step: isStep ? ladder.steps.find((s) => s.step === best.step)! : null,
    steps,
    others,
    margin: n === 0 ? null : marginOf(measured, ladder, isStep ? best.step : undefined),
    neighbours: {
      below: ladder.steps.findLast((s) => s.high < mean)?.step ?? null,
      above: ladder.steps.find((s) => s.low > mean)?.step ?? null,
    },
  };
}

function marginOf({ mean, u }: Measured, ladder: Pick<Ladder, 'steps'>, step: number | undefined): Margin {
  const inside = (s: LadderStep) => min(mean - s.low, s.high - mean);
  const to = ladder.steps.find((s) => s.step === step) ?? ladder.steps.reduce((a, b) => (inside(b) > inside(a) ? b : a));
  const ohms = inside(to);
  return { ohms, sigmas: ohms / u, edge: mean - to.low < to.high - mean ? 'low' : 'high', step: to.step };
}

type Chances = { steps: number[] } & Record<Exclude<LadderVerdict, 'step'>, number>;

function chancesOf(seen: Seen, ladder: Steps, conditions: Conditions, prior: readonly number[] | undefined): Chances {
  const { steps } = ladder;
  const { shortBelow, openAbove } = reach(ladder);
  const total = prior?.reduce((s, p) => s + p, 0) ?? 0;
  const held = steps.map((s, i) => ({
    nominal: s.nominal,
    spread: stepSpread(s),
    weight: keyPrior.step * (prior && total > 0 ? prior[i]! / total : 1 / steps.length),
  }));
  const scale = scaleOf(seen, conditions.meter);
  const steady = steadyDensity(seen, ladder, conditions, scale);
  const wornWeight = keyPrior.worn / log(openAbove / shortBelow);

  /** Prior density of a sound or worn resistance. */
  const density = (ohms: number): number => {
    let sum = wornWeight / ohms;
    for (const s of held) {
      const z = (ohms - s.nominal) / s.spread;
      if (abs(z) < 8) sum += (s.weight * exp(-0.5 * z * z)) / (s.spread * sqrt(2 * PI));
    }
    return sum;
  };
  const bends = [...steady.bends, ...held.flatMap((s) => [s.nominal - 3 * s.spread, s.nominal, s.nominal + 3 * s.spread])];
  const over = (from: number, to: number): number => {
    const [low, high] = [max(from, steady.from), min(to, steady.to)];
    return high > low ? integrate((r) => density(r) * steady.at(r), low, high, bends) : 0;
  };

  const result: Chances = { steps: [], between: 0, open: 0, short: 0, unstable: 0 };
  let from = shortBelow;
  for (const s of steps) {
    if (s.low > from) result.between += over(from, s.low);
    result.steps.push(over(s.low, s.high));
    from = s.high;
  }
  result.between += over(from, openAbove);
  result.short = keyPrior.short * meanOver(steady, 0, shortBelow, () => 1 / shortBelow);
  result.open = openChance(seen, steady, openAbove, scale) + leakyChance(seen, openAbove, scale);
  const sound = result.steps.reduce((a, b) => a + b, 0) + result.between;
  result.unstable = jumpingChance(seen, shortBelow, openAbove, scale) + (sound / (keyPrior.step + keyPrior.worn)) * breakingFactor(seen);
  const sum = result.steps.reduce((a, b) => a + b, 0) + result.between + result.short + result.open + result.unstable;
  // What is said is always said of something: with chances left over nowhere, nothing but a jumping contact explains them.
  if (!(sum > 0)) return { ...result, steps: steps.map(() => 0), between: 0, open: 0, short: 0, unstable: 1 };
  const share = (p: number) => p / sum;
  return {
    steps: result.steps.map(share),
    between: share(result.between),
    open: share(result.open),
    short: share(result.short),
    unstable: share(result.unstable),
  };
}

/** Spread of the resistors of a step about its nominal value, ohms: the nearer edge of the window lies three of it away. */
export const stepSpread = ({ nominal, low, high }: LadderStep): number => max(min(nominal - low, high - nominal), (high - low) * 0.05) / 3;

/** Density of the readings of a steady contact at a true resistance, and between which resistances it is more than nothing. */
interface Steady {
  at: (ohms: number) => number;
  bends: number[];
  from: number;
  to: number;
}

const meanOver = ({ at, bends, from, to }: Steady, low: number, high: number, density: (ohms: number) => number): number => {
  const [a, b] = [max(low, from), min(high, to)];
  return b > a ? integrate((r) => density(r) * at(r), a, b, bends) : 0;
};

function steadyDensity(seen: Seen, ladder: Steps, conditions: Conditions, scale: number): Steady {
  const { n, mean } = seen;
  const slips = slipsOf(seen) - scale;
  if (n === 0) return { at: () => exp(slips), bends: [], from: 0, to: Infinity };
  const spread = spreadOf(seen, assumedFreedom);
  const { degreesOfFreedom } = spread;
  const near = spread.of(expectedScatter(mean, conditions.meter));
  const { half, other } = systematic(mean, conditions, ladder);
  // Beyond this a density of Student's t with four degrees of freedom has less than a millionth left.
  const reachOf = half + 4 * other + 60 * near.tau;
  const at = (ohms: number): number => {
    const { half: meterHalf, other: rest } = systematic(ohms, conditions, ladder);
    // A small rest only widens the even part a little: the same spread at a fifth of the work.
    const small = rest <= 0.15 * meterHalf;
    const [half, other] = small ? [sqrt(meterHalf ** 2 + 3 * rest ** 2), 0] : [meterHalf, rest];
    const { logK, tau } = spread.of(expectedScatter(ohms, conditions.meter));
    const density = (shift: number) => {
      const [up, down] = [(ohms + shift + half - mean) / tau, (ohms + shift - half - mean) / tau];
      // Both far above: take the small tails, not two numbers near 1.
      return down > 0
        ? studentCdf(-down, degreesOfFreedom) - studentCdf(-up, degreesOfFreedom)
        : studentCdf(up, degreesOfFreedom) - studentCdf(down, degreesOfFreedom);
    };
    const smeared = other > 0 ? normalPoints.reduce((s, [z, w]) => s + w * density(z * other), 0) : density(0);
    return (exp(logK + slips) * max(0, smeared)) / (2 * half);
  };
  const bends = [0, 3, 15].flatMap((k) => [half + k * near.tau, half - k * near.tau]).flatMap((d) => [mean - d, mean + d]);
  return { at, bends: [mean, ...bends], from: max(0, mean - reachOf), to: mean + reachOf };
}

const slipsOf = ({ n, overloads }: Seen): number => overloads * log(slip) + n * log(1 - slip);
const opensOf = ({ n, overloads }: Seen): number => overloads * log(jumping.open) + n * log(1 - jumping.open);

/** A factor, as a logarithm, that every explanation leaves out, so that a thousand readings don't come to nothing: that of the better of two. */
function scaleOf(seen: Seen, meter: Conditions['meter']): number {
  if (seen.n === 0) return 0;
  const ohms = max(seen.mean, 1e-3);
  return max(
    spreadOf(seen, assumedFreedom).of(expectedScatter(ohms, meter)).logK + slipsOf(seen),
    spreadOf(seen, jumping.degreesOfFreedom).of(jumping.scatter * ohms).logK + opensOf(seen),
  );
}

/**
 * The readings with their spread integrated out: K times Student's t of (mean − centre) / tau, over tau. K = Γ(ν/2) / Γ(ν₀/2) · (ν₀s₀²)^(ν₀/2) · Q^(−ν/2) ·
 * π^((1−n)/2) · n^(−1/2), with ν = ν₀ + n − 1 and Q = ν₀s₀² + the squares about the mean.
 * @param assumed ν₀
 * @returns logarithm of K, and tau in ohms, for a spread s₀ in ohms
 */
function spreadOf({ n, squares }: Seen, assumed: number): { degreesOfFreedom: number; of: (scatter: number) => { logK: number; tau: number } } {
  const degreesOfFreedom = assumed + n - 1;
  const constant = logGamma(degreesOfFreedom / 2) - logGamma(assumed / 2) + ((1 - n) / 2) * log(PI) - 0.5 * log(n);
  return {
    degreesOfFreedom,
    of: (scatter) => {
      const own = assumed * scatter * scatter;
      const q = own + squares;
      return { logK: constant + (assumed / 2) * log(own) - (degreesOfFreedom / 2) * log(q), tau: sqrt(q / (degreesOfFreedom * n)) };
    },
  };
}

/** An open key that leaks: every number lies above the ladder, each for itself even on a log scale, however they scatter among themselves. */
function leakyChance({ n, overloads, least, logs }: Seen, openAbove: number, scale: number): number {
  if (n === 0 || least <= openAbove) return 0;
  const numbers = n * log(leaky.number / log(10 ** openDecades)) - logs;
  return keyPrior.open * leaky.share * exp(numbers + overloads * log(1 - leaky.number) - scale);
}

/** An open key: overloads, or numbers far above the ladder, even on a log scale. */
function openChance(seen: Seen, steady: Steady, openAbove: number, scale: number): number {
  const { n, overloads } = seen;
  const shows = n * log(openShowsNumber) + overloads * log(1 - openShowsNumber);
  if (n === 0) return keyPrior.open * exp(shows - scale);
  const to = openAbove * 10 ** openDecades;
  const number = meanOver(steady, openAbove, to, (r) => 1 / (r * log(to / openAbove)));
  // The density of a steady contact counts slips; an open key shows its numbers by another chance.
  return keyPrior.open * number * exp(shows - slipsOf(seen));
}

/** A contact that breaks now and then, against a sound one of the same value whose tip slips. */
const breakingFactor = (seen: Seen): number =>
  keyPrior.breaking * exp(seen.overloads * log(breakingOpen) + seen.n * log(1 - breakingOpen) - slipsOf(seen));

/** A jumping contact about any value, even on a log scale. */
function jumpingChance(seen: Seen, shortBelow: number, openAbove: number, scale: number): number {
  const { n, mean } = seen;
  const opens = opensOf(seen) - scale;
  if (n === 0) return keyPrior.jumping * exp(opens);
  const spread = spreadOf(seen, jumping.degreesOfFreedom);
  const { degreesOfFreedom } = spread;
  const constant = opens + logGamma((degreesOfFreedom + 1) / 2) - logGamma(degreesOfFreedom / 2) - 0.5 * log(degreesOfFreedom * PI);
  const at = (logOhms: number): number => {
    const ohms = exp(logOhms);
    const { logK, tau } = spread.of(jumping.scatter * ohms);
    const t = (mean - ohms) / tau;
    return exp(logK + constant - ((degreesOfFreedom + 1) / 2) * log(1 + (t * t) / degreesOfFreedom)) / tau;
  };
  const centre = log(max(mean, 1e-3));
  const bends = [0, 0.03, 0.1, 0.3, 1].flatMap((d) => [centre - d, centre + d]);
  const [from, to] = [log(shortBelow), log(openAbove)];
  return (keyPrior.jumping * integrate(at, from, to, bends)) / (to - from);
}
