import type { Family, FaultDefinition } from '../library';
import { usualHumanError } from './rows';

/** How often something was timed, and what the times add up to, minutes. */
export interface Times {
  n: number;
  sum: number;
}

/** What a shop's closed cases have taught about one system type, as a case starts with it. */
export interface Learned {
  /** Proven cases of this vehicle line, by fault. */
  line: Readonly<Record<string, number>>;
  /** Answers of each test on proven cases, and how many were not what such a vehicle shows. */
  slips: Readonly<Record<string, { n: number; off: number }>>;
  /** Counted minutes of tests and of fixes. */
  testMinutes: Readonly<Record<string, Times>>;
  fixMinutes: Readonly<Record<string, Times>>;
}

/**
 * How much the content weighs beside what was counted, in cases, answers and counted times. Our own choices, taken after a first look at a made-up shop
 * (docs/learning.md).
 */
export const weights = { priors: 40, line: 20, slips: 100, minutes: 8 } as const;
/** Below so many proven cases of a system type, and of a vehicle line, nothing changes. Our own choices. */
export const learnFrom = 12;
export const lineFrom = 8;

const total = (counts: Readonly<Record<string, number>>): number => Object.values(counts).reduce((a, b) => a + b, 0);

/**
 * A share after counting: the mean of a Dirichlet posterior whose prior has the mean `prior` and the weight of so many cases (Gelman et al., "Bayesian
 * Data Analysis", 3rd ed., section 3.4).
 * @param part share of a fault's cases that belong to this hypothesis: one of several keys
 */
const shrunk = (prior: number, counts: Readonly<Record<string, number>>, fault: string, part: number, weight: number): number =>
  (weight * prior + (counts[fault] ?? 0) * part) / (weight + total(counts));

/** The share of a fault with the shop's proven cases: of the system type first, then of the vehicle line, where each has enough. */
export function learnedShare(
  prior: number,
  fault: string,
  part: number,
  proven: Readonly<Record<string, number>>,
  line: Readonly<Record<string, number>>,
): number {
  if (total(proven) < learnFrom) return prior;
  const ofType = shrunk(prior, proven, fault, part, weights.priors);
  return total(line) < lineFrom ? ofType : shrunk(ofType, line, fault, part, weights.line);
}

const time = (usual: number, counted: Times | undefined): number =>
  counted ? (weights.minutes * usual + counted.sum) / (weights.minutes + counted.n) : usual;

/** The system type with the slips and minutes that were counted, each shrunk towards the content. The priors stay: `learnedShare`. */
export function withLearned(family: Family, { slips, testMinutes, fixMinutes }: Learned): Family {
  return {
    ...family,
    tests: family.tests.map((t) => {
      const seen = slips[t.id];
      const error = t.humanError ?? usualHumanError;
      return {
        ...t,
        minutes: time(t.minutes, testMinutes[t.id]),
        ...(seen ? { humanError: Math.min(0.4, (weights.slips * error + seen.off) / (weights.slips + seen.n)) } : {}),
      };
    }),
    ...(family.faults
      ? { faults: family.faults.map((f): FaultDefinition => ({ ...f, cure: { ...f.cure, minutes: time(f.cure.minutes, fixMinutes[f.id]) } })) }
      : {}),
  };
}

/** Whether enough is proven of a system type for anything to change. */
export const isTaught = (proven: Readonly<Record<string, number>>): boolean => total(proven) >= learnFrom;
