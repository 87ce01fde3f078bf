import type { Classification } from './classify';
import { formatOhms } from './format';
import type { Steps } from './ladder';

/** Where a value that is in no window would be in one if its unit had been another: what a person who typed kilohm as ohm gets told. */
export interface OtherUnit {
  /** The readings would have to be taken times this. */
  factor: number;
  step: number;
  ohms: number;
}

/** @returns the nearest power of ten that would make the value a step; null where it is one already or none does */
export function otherUnit(ohms: number, { steps }: Pick<Steps, 'steps'>): OtherUnit | null {
  if (!(ohms > 0) || steps.some((s) => ohms >= s.low && ohms <= s.high)) return null;
  for (const power of [3, -3, 1, -1, 2, -2, 6, -6]) {
    const factor = 10 ** power;
    const step = steps.find((s) => ohms * factor >= s.low && ohms * factor <= s.high);
    if (step) return { factor, step: step.step, ohms: ohms * factor };
  }
  return null;
}

/** Readings of one list that are a power of ten away from the others: a unit was mistyped. Indices from 0. */
export function oddUnits(readings: readonly number[]): { index: number; factor: number }[] {
  const sorted = readings.filter((r) => Number.isFinite(r) && r > 0).sort((a, b) => a - b);
  if (sorted.length < 3) return [];
  const middle = sorted[Math.floor(sorted.length / 2)]!;
  return readings.flatMap((r, index) => {
    const power = Math.round(Math.log10(middle / r));
    return Number.isFinite(r) && r > 0 && power !== 0 && Math.abs(Math.log10(middle / r) - power) < 0.01 ? [{ index, factor: 10 ** power }] : [];
  });
}

export interface LadderSaid {
  /** The verdict in a few words. */
  head: string;
  /** How sure, how near the edge, what else stands out, and what to do. */
  text: string;
}

/** The verdict in a sentence and what to do. Drift and mistyped units are pointed out. */
export function ladderVerdict(c: Classification, ladder: Steps): LadderSaid {
  const notes = [driftWords(c), unitWords(c, ladder), oneReading(c)].filter(Boolean);
  const sure = c.p >= 0.9995 ? 'Sure (over 0.999).' : `${c.p >= 0.95 ? 'Sure' : c.p >= 0.8 ? 'Likely' : 'Not sure'} (${c.p.toFixed(3)}).`;
  const say = (head: string, ...text: string[]): LadderSaid => ({ head, text: [sure, ...text, ...notes].filter(Boolean).join(' ') });
  const m = c.margin;
  switch (c.verdict) {
    case 'step': {
      const step = c.step!;
      const third = (step.high - step.low) / 6;
      const low = m!.ohms < third ? `, but ${m!.edge === 'low' ? 'low' : 'high'} in its window` : '';
      const edge =
        m!.ohms >= 0
          ? `${about(m!.ohms)} ${m!.edge === 'low' ? 'above the lower' : 'below the upper'} edge: ${times(m!.sigmas)} the uncertainty.`
          : `${about(m!.ohms)} outside the ${m!.edge === 'low' ? 'lower' : 'upper'} edge, which is within the uncertainty.`;
      return say(`Value ${step.step}${low}.`, edge, c.p < 0.95 ? 'Take more readings, with another meter where there is one.' : '');
    }
    case 'between': {
      const { below, above } = c.neighbours;
      const where =
        below === null
          ? `Below the lowest value.`
          : above === null
            ? 'Above the highest value.'
            : below + 1 === above
              ? `Between values ${below} and ${above}.`
              : 'Next to its value.';
      const off = m ? `${about(m.ohms)} ${m.ohms < 0 ? 'outside of' : 'inside'} the window of value ${m.step}.` : '';
      return say(
        where,
        off,
        'No immobilizer accepts it. Clean the resistor chip and measure again; if it stays the same, the chip is worn or not from this system.',
      );
    }
    case 'open':
      return say(
        'Open.',
        'Clean the resistor chip, press the tips on its contacts, and measure the other direction. If it is still open, the chip is broken.',
      );
    case 'short':
      return say('Short.', 'Check that the tips don’t touch each other or the blade. If they don’t, the resistor chip is shorted.');
    case 'unstable':
      return say(
        'Intermittent.',
        c.n > 1 ? `The readings spread by ${about(c.sd)}, far more than the meter explains.` : '',
        'Clean the resistor chip, press the tips on firmly, and measure again. If it keeps changing, the chip is loose.',
      );
  }
}

/** A distance in two digits: more would pretend too much. */
const about = (ohms: number): string => formatOhms(Number(Math.abs(ohms).toPrecision(2)));
const times = (sigmas: number): string => (sigmas >= 10 ? 'over 10 times' : `${sigmas.toFixed(sigmas < 3 ? 1 : 0)} times`);
const driftWords = ({ drift, n, verdict }: Classification): string =>
  drift && verdict !== 'unstable'
    ? `The readings drift ${drift.ohms < 0 ? 'down' : 'up'} by ${about(drift.ohms)} in ${n}: warm fingers, or a contact that is settling.`
    : '';
const oneReading = ({ n, overloads, verdict }: Classification): string =>
  n + overloads === 1 && verdict !== 'open' ? 'One reading can’t show a loose contact: take five.' : '';
function unitWords({ verdict, shownMean }: Classification, ladder: Steps): string {
  const other = verdict === 'step' ? null : otherUnit(shownMean, ladder);
  return other ? `${formatOhms(other.ohms)} would be value ${other.step}: wrong unit?` : '';
}
