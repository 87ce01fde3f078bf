import type { Classification } from './classify';
import { formatOhms } from './format';
import type { Steps } from './ladder';
import { sentences } from './sentences';

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
  const sure =
    c.p >= 0.9995
      ? sentences.verySure
      : `${c.p >= 0.95 ? sentences.sureWord : c.p >= 0.8 ? sentences.likelyWord : sentences.notSureWord} (${(c.p * 100).toFixed(1)} %).`;
  const say = (head: string, ...text: string[]): LadderSaid => ({ head, text: [sure, ...text, ...notes].filter(Boolean).join(' ') });
  const m = c.margin;
  switch (c.verdict) {
    case 'step': {
      const step = c.step!;
      const third = (step.high - step.low) / 6;
      const low = m!.ohms < third ? sentences.nearEdge(m!.edge === 'low' ? 'low' : 'high') : '';
      const edge =
        m!.ohms >= 0
          ? sentences.insideEdge(about(m!.ohms), m!.edge === 'low' ? sentences.aboveTheLower : sentences.belowTheUpper, times(m!.sigmas))
          : sentences.outsideEdge(about(m!.ohms), m!.edge === 'low' ? 'lower' : 'upper');
      return say(sentences.valueHead(step.step, low), edge, c.p < 0.95 ? sentences.takeMore : '');
    }
    case 'between': {
      const { below, above } = c.neighbours;
      const where =
        below === null
          ? sentences.belowLowest
          : above === null
            ? sentences.aboveHighest
            : below + 1 === above
              ? sentences.betweenValues(below, above)
              : sentences.nextToValue;
      const off = m ? sentences.offWindow(about(m.ohms), m.ohms < 0 ? sentences.outsideOf : 'inside', m.step) : '';
      return say(where, off, sentences.betweenDo);
    }
    case 'open':
      return say(sentences.openHead, sentences.openDo);
    case 'short':
      return say(sentences.shortHead, sentences.shortDo);
    case 'unstable':
      return say(sentences.unstableHead, c.n > 1 ? sentences.spread(about(c.sd)) : '', sentences.unstableDo);
  }
}

/** A distance in two digits: more would pretend too much. */
const about = (ohms: number): string => formatOhms(Number(Math.abs(ohms).toPrecision(2)));
const times = (sigmas: number): string => (sigmas >= 10 ? sentences.overTenTimes : `${sigmas.toFixed(sigmas < 3 ? 1 : 0)} times`);
const driftWords = ({ drift, n, verdict }: Classification): string =>
  drift && verdict !== 'unstable' ? sentences.drift(drift.ohms < 0 ? 'down' : 'up', about(drift.ohms), n) : '';
const oneReading = ({ n, overloads, verdict }: Classification): string => (n + overloads === 1 && verdict !== 'open' ? sentences.oneReading : '');
function unitWords({ verdict, shownMean }: Classification, ladder: Steps): string {
  const other = verdict === 'step' ? null : otherUnit(shownMean, ladder);
  return other ? sentences.otherUnit(formatOhms(other.ohms), other.step) : '';
}
