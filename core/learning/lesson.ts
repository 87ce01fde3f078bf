import { type Finding, rowOf } from '../diagnosis';
import type { Family, ParamValues } from '../library';

/** What one closed case teaches. It holds no name, no vehicle's number and no words of anybody. */
export interface Lesson {
  /** Proven cause: a fault of the system type. Null: nothing is learned of causes, tests and times. */
  cause: string | null;
  /** The vehicle line, as `lineOf` writes it; empty: not told. */
  line: string;
  tests: {
    test: string;
    /** Whether the answer was one that such a vehicle shows; null: nobody can tell. */ off: boolean | null;
    /** Tenths of a minute; null: not counted. */ tenths: number | null;
  }[];
  fixes: { fault: string; tenths: number }[];
  /** The likeliest cause before the fix, as it was said, in hundredths, and whether it was so. */
  said: { hundredths: number; right: boolean } | null;
  /** Causes were called more likely than not, and the right one was not among the first three. */
  missed: boolean;
  /** Options that were agreed to, and whether the bill stayed within the upper end of their price. */
  options: { kind: string; within: boolean }[];
  /** It came back, or stayed fixed, as was heard; null: nobody asked. */
  stayed: boolean | null;
}

/** A vehicle's line: its words without case, signs, numbers and what stands behind a comma. @example lineOf('Tarn Gantry pickup, gray') // "tarn gantry" */
export function lineOf(vehicle: string): string {
  const words = vehicle
    .split(',')[0]!
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N} ]/gu, ' ')
    .split(/\s+/)
    .filter((w) => w !== '' && !/^\d+$/.test(w));
  return words.slice(0, 2).join(' ').slice(0, 60);
}

/** An answer is taken for mistaken where it comes up in fewer than so many of a hundred vehicles with this cause, and another in more than half. Our own choices. */
const rareOutcome = 0.05;
const usualOutcome = 0.5;

/**
 * Whether an answer was mistaken, as far as the content can tell under the proven cause.
 * @param key the key that had the fault, where one had it
 * @returns null where several answers would have been natural
 */
export function isOff(
  family: Family,
  params: ParamValues,
  cause: string,
  key: string | undefined,
  finding: Extract<Finding, { test: string }>,
): boolean | null {
  const test = family.tests.find((t) => t.id === finding.test);
  const fault = family.faults?.find((f) => f.id === cause);
  if (!test?.p || !fault) return null;
  const inOther = fault.perKey === true && key !== undefined && finding.key !== undefined && finding.key !== key;
  const p = rowOf(test, inOther ? null : fault, params).p;
  const at = Object.keys(test.outcomes).indexOf(finding.outcome);
  if (at < 0) return null;
  if (Math.max(...p) <= usualOutcome) return null;
  return p[at]! < rareOutcome;
}
