import type { Problem } from '../units';
import { confusable } from './confusable';
import { type Form, readEntry } from './entry';

export type DifferenceKind = 'substituted' | 'missing' | 'extra' | 'swapped';

export interface Difference {
  /** What happened in the second entry, seen from the first: a character is missing there, or is one too many. */
  kind: DifferenceKind;
  /** Place in the first entry, from 1; for an extra one the place before which it stands. */
  at: number;
  /** What stands in the first entry and in the second; empty where nothing does. */
  a: string;
  b: string;
  confusable: 'look' | 'sound' | null;
}

export interface Compared {
  equal: boolean;
  aProblems: Problem[];
  bProblems: Problem[];
  differences: Difference[];
}

/** Two entries that differ in more places are two things, not two copies. */
export const mostDifferences = 200;

/** Compares two entries of one original. They are equal only when nothing is wrong with either. */
export function compareEntries(a: string, b: string, form: Form): Compared {
  const [first, second] = [readEntry(a, form), readEntry(b, form)];
  const differences = align(first.text, second.text);
  return {
    equal: first.problems.length === 0 && second.problems.length === 0 && differences.length === 0,
    aProblems: first.problems,
    bProblems: second.problems,
    differences,
  };
}

/** In parts of a slip: what people do to characters that are easily taken for each other is likelier than anything else, so it is the explanation preferred. */
const cost = { confusable: 9, substituted: 10, gap: 10, swapped: 10 } as const;

/**
 * What was done to `a` to make `b`: the fewest slips, by alignment (optimal string alignment, with neighbours swapped as one slip; R. W. Hamming's distance would
 * call everything after a missing character wrong). Only a band about the diagonal is filled, widened until the answer fits in it (E. Ukkonen, 1985): time and
 * memory grow with length times differences.
 * @returns in the order of places; when there are more than `mostDifferences`, the first ones of a plain comparison place by place
 */
export function align(a: string, b: string): Difference[] {
  if (a === b) return [];
  // What both begin and end with is equal in some best alignment.
  let from = 0;
  while (from < a.length && from < b.length && a[from] === b[from]) from += 1;
  let end = 0;
  while (end < a.length - from && end < b.length - from && a[a.length - 1 - end] === b[b.length - 1 - end]) end += 1;
  // A swap or a run of the same character may lie across the border: step back over one.
  const back = from > 0 ? 1 : 0;
  const [x, y] = [a.slice(from - back, a.length - end), b.slice(from - back, b.length - end)];
  for (let band = Math.abs(x.length - y.length) + 2; ; band *= 2) {
    const found = alignInBand(x, y, band);
    if (found && found.cost <= cost.gap * (band - 1)) return found.differences.map((d) => ({ ...d, at: d.at + from - back }));
    if (band > mostDifferences * 2 || band > x.length + y.length) {
      if (found && found.differences.length <= mostDifferences) return found.differences.map((d) => ({ ...d, at: d.at + from - back }));
      return placeByPlace(a, b).slice(0, mostDifferences);
    }
  }
}

function alignInBand(a: string, b: string, band: number): { cost: number; differences: Difference[] } | null {
  if (Math.abs(a.length - b.length) > band) return null;
  const width = 2 * band + 1;
  const table = new Float64Array((a.length + 1) * width).fill(Infinity);
  const cell = (i: number, j: number): number => i * width + (j - i + band);
  const at = (i: number, j: number): number => (i < 0 || j < 0 || Math.abs(j - i) > band || j > b.length ? Infinity : table[cell(i, j)]!);
  const change = (i: number, j: number): number => (a[i] === b[j] ? 0 : confusable(a[i]!, b[j]!) ? cost.confusable : cost.substituted);
  const isSwap = (i: number, j: number): boolean => i > 1 && j > 1 && a[i - 1] !== a[i - 2] && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1];
  for (let i = 0; i <= a.length; i += 1) {
    let least = Infinity;
    for (let j = Math.max(0, i - band); j <= Math.min(b.length, i + band); j += 1) {
      if (i === 0 && j === 0) {
        table[cell(0, 0)] = 0;
        least = 0;
        continue;
      }
      let best = Math.min(at(i - 1, j), at(i, j - 1)) + cost.gap;
      if (i > 0 && j > 0) best = Math.min(best, at(i - 1, j - 1) + change(i - 1, j - 1));
      if (isSwap(i, j)) best = Math.min(best, at(i - 2, j - 2) + cost.swapped);
      table[cell(i, j)] = best;
      if (best < least) least = best;
    }
    // Costs never fall again: from here no answer within the limit can come, at least not in this band.
    if (least > cost.gap * mostDifferences) return null;
  }
  const differences: Difference[] = [];
  const total = at(a.length, b.length);
  let [i, j] = [a.length, b.length];
  while (i > 0 || j > 0) {
    const here = at(i, j);
    if (i > 0 && j > 0 && a[i - 1] === b[j - 1] && here === at(i - 1, j - 1)) [i, j] = [i - 1, j - 1];
    else if (isSwap(i, j) && here === at(i - 2, j - 2) + cost.swapped) {
      differences.push({ kind: 'swapped', at: i - 1, a: a.slice(i - 2, i), b: b.slice(j - 2, j), confusable: null });
      [i, j] = [i - 2, j - 2];
    } else if (i > 0 && j > 0 && here === at(i - 1, j - 1) + change(i - 1, j - 1)) {
      differences.push({ kind: 'substituted', at: i, a: a[i - 1]!, b: b[j - 1]!, confusable: confusable(a[i - 1]!, b[j - 1]!) });
      [i, j] = [i - 1, j - 1];
    } else if (i > 0 && here === at(i - 1, j) + cost.gap) {
      differences.push({ kind: 'missing', at: i, a: a[i - 1]!, b: '', confusable: null });
      i -= 1;
    } else {
      differences.push({ kind: 'extra', at: i + 1, a: '', b: b[j - 1]!, confusable: null });
      j -= 1;
    }
  }
  return { cost: total, differences: differences.reverse() };
}

function placeByPlace(a: string, b: string): Difference[] {
  const found: Difference[] = [];
  for (let i = 0; i < Math.max(a.length, b.length) && found.length < mostDifferences; i += 1) {
    const [x = '', y = ''] = [a[i], b[i]];
    if (x === y) continue;
    const kind = x === '' ? 'extra' : y === '' ? 'missing' : 'substituted';
    found.push({ kind, at: i + 1, a: x, b: y, confusable: kind === 'substituted' ? confusable(x, y) : null });
  }
  return found;
}
