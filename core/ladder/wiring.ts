import { formatUncertain, formatOhms } from './format';
import { type Steps, stepOf } from './ladder';
import { rangeOf } from './meter';
import { classify } from './classify';
import { type Conditions, type Measured } from './uncertainty';
import { sentences } from './sentences';

const { abs, hypot, max, sqrt } = Math;

export type WiringVerdict = 'equal' | 'series' | 'parallel' | 'open' | 'short' | 'jumping' | 'unclear';

export interface Wiring {
  verdict: WiringVerdict;
  key: Measured;
  column: Measured;
  /** Column minus key, ohms, and its standard uncertainty; null where one of them has no number. */
  difference: { ohms: number; u: number } | null;
  /** What lies in line with the key, ohms, and its standard uncertainty; where the verdict is series. */
  series?: { ohms: number; u: number };
  /** What lies across the key, ohms, and its standard uncertainty; where the verdict is parallel. */
  parallel?: { ohms: number; u: number };
  /** The step that the immobilizer sees through the column; null: none. */
  seen: number | null;
  text: string;
}

/** So many standard uncertainties are told from nothing, 1 in 400 by chance; up to so many are taken for nothing. What lies between is not clear. */
const [told, near] = [3, 2];

/**
 * The same key alone and through the column connector: what contacts and wires add. One meter read both, so the share of its reading that it is off by
 * is off alike and hardly counts in the difference; the digits and the repeats count twice (GUM 5.2, with a correlation of 1 for the gain).
 * @param ladder `contactOhms` is what good contacts and wires add at most, 0 if not given
 * @throws RangeError without a reading of each
 */
export function compareWiring(keyReadings: readonly number[], columnReadings: readonly number[], ladder: Steps, conditions: Conditions): Wiring {
  const key = classify(keyReadings, ladder, conditions);
  const column = classify(columnReadings, ladder, conditions);
  const allowed = ladder.contactOhms ?? 0;
  const seen = stepOf(ladder, column.mean)?.step ?? null;
  const difference = key.n === 0 || column.n === 0 ? null : { ohms: column.mean - key.mean, u: differenceUncertainty(key, column, conditions) };
  const say = (verdict: WiringVerdict, text: string, more: Partial<Wiring> = {}): Wiring => ({
    verdict,
    key,
    column,
    difference,
    seen,
    text,
    ...more,
  });

  if (key.verdict === 'open' || key.verdict === 'unstable' || key.verdict === 'short')
    return say('unclear', sentences.keyUnclear(key.verdict === 'unstable' ? sentences.notSteady : key.verdict));
  if (column.n === 0) return say('open', sentences.openThroughColumn);
  if (column.overloads > 0 || column.verdict === 'unstable') return say('jumping', sentences.jumping);
  if (column.verdict === 'open') return say('open', sentences.nearlyOpen(formatOhms(column.mean)));
  if (column.verdict === 'short') return say('short', sentences.shortThroughColumn);
  const { ohms, u } = difference!;
  const words = formatUncertain(abs(ohms), u);
  const immobilizer = seenWords(ladder, key.mean, column.mean);
  if (ohms - told * u > allowed)
    return say('series', sentences.series(words, allowed > 0 ? sentences.goodContacts(formatOhms(allowed)) : '', immobilizer), {
      series: { ohms, u },
    });
  if (ohms + told * u < 0) {
    // 1/R = 1/column − 1/key; both slopes after GUM 5.1.3, with the difference as the quantity that is known.
    const parallel = (key.mean * column.mean) / -ohms;
    return say('parallel', sentences.parallel(words, formatOhms(parallel), immobilizer), {
      parallel: { ohms: parallel, u: parallel * hypot(u / ohms, key.u / key.mean) },
    });
  }
  if (ohms >= -near * u && ohms <= allowed + near * u) return say('equal', sentences.equal(ohms < 0 ? '−' : '+', words, immobilizer));
  return say('unclear', sentences.tooClose(words, ohms < 0 ? 'less' : 'more', formatOhms(allowed)));
}

/** Standard uncertainty of column minus key, ohms. */
function differenceUncertainty(key: Measured, column: Measured, { meter }: Conditions): number {
  const range = rangeOf(meter, max(key.mean, column.mean));
  const gain = ((range.percent / 100) * abs(column.mean - key.mean)) / sqrt(3);
  const digits = (range.digits * range.resolutionOhms) / sqrt(3);
  const repeats = (m: Measured) => m.components.find((c) => c.name === sentences.repeats)!.ohms;
  const display = range.resolutionOhms / sqrt(12);
  return hypot(gain, digits, repeats(key), repeats(column), display, display);
}

function seenWords(ladder: Steps, keyOhms: number, columnOhms: number): string {
  const [own, through] = [stepOf(ladder, keyOhms)?.step, stepOf(ladder, columnOhms)?.step];
  if (own === undefined) return '';
  return own === through
    ? sentences.stillSees(own)
    : sentences.seesInstead(through === undefined ? sentences.noValue : sentences.valueNamed(through), own);
}
