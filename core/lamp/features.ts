import type { Recording } from './recording';

/** What a recording looks like, in figures that a person can compare with the lamp. */
export interface LampFeatures {
  /** Lit without a break from the beginning, seconds; 0 when it began dark or flashing. */
  steadyS: number;
  /** Flashes counted, the steady light at the beginning left out. */
  flashes: number;
  /** From the beginning of one flash to that of the next within a group, seconds, the median; null with fewer than two. */
  periodS: number | null;
  /** Share of that period that is lit; null with fewer than two. */
  duty: number | null;
  /** Flashes of each group; a pause of twice the usual dark ends a group. */
  groups: number[];
  /** Dark between groups, seconds, the mean; null with fewer than two groups. */
  pauseS: number | null;
  last: 'lit' | 'dark';
}

/** A light at the beginning that lasts at least this long is no flash, seconds. Ours. */
const steadyFrom = 1;
/** A first light this late was not there from the beginning: people tap some tenths of a second late. */
const fromBeginning = 0.8;

const median = (list: readonly number[]): number => {
  const sorted = [...list].sort((a, b) => a - b);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
};

/** Figures of a recording; nothing is judged here. */
export function lampFeatures({ lit, litAtEnd }: Recording): LampFeatures {
  const first = lit[0];
  const steady = first !== undefined && first.onS <= fromBeginning && first.offS - first.onS >= steadyFrom;
  const flashes = steady ? lit.slice(1) : lit;
  const darks = flashes.slice(1).map((f, i) => f.onS - flashes[i]!.offS);
  // The shorter half of the darks lies inside groups, whatever the pauses are.
  const usual = darks.length === 0 ? 0 : median([...darks].sort((a, b) => a - b).slice(0, Math.ceil(darks.length / 2)));
  const groups: number[] = [];
  const pauses: number[] = [];
  const periods: number[] = [];
  const duties: number[] = [];
  flashes.forEach((flash, i) => {
    const dark = darks[i - 1];
    if (dark === undefined || dark > 2 * usual + 0.2) {
      groups.push(1);
      if (dark !== undefined) pauses.push(dark);
      return;
    }
    groups[groups.length - 1]! += 1;
    const before = flashes[i - 1]!;
    periods.push(flash.onS - before.onS);
    duties.push((before.offS - before.onS) / (flash.onS - before.onS));
  });
  return {
    steadyS: steady ? first.offS - first.onS : 0,
    flashes: flashes.length,
    periodS: periods.length === 0 ? null : median(periods),
    duty: duties.length === 0 ? null : median(duties),
    groups,
    pauseS: pauses.length === 0 ? null : pauses.reduce((a, b) => a + b, 0) / pauses.length,
    last: litAtEnd ? 'lit' : 'dark',
  };
}
