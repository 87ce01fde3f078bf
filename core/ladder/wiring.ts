import { formatDoubtful, formatOhms } from './format';
import { type Steps, stepOf } from './ladder';
import { rangeOf } from './meter';
import { classify } from './classify';
import { type Conditions, type Measured } from './uncertainty';

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
 * @param ladder `contactOhms` is what good contacts and wires add at most, 0 where nothing is said
 * @throws RangeError without a reading of each
 */
export function compareWiring(keyReadings: readonly number[], columnReadings: readonly number[], ladder: Steps, conditions: Conditions): Wiring {
  const key = classify(keyReadings, ladder, conditions);
  const column = classify(columnReadings, ladder, conditions);
  const allowed = ladder.contactOhms ?? 0;
  const seen = stepOf(ladder, column.mean)?.step ?? null;
  const difference = key.n === 0 || column.n === 0 ? null : { ohms: column.mean - key.mean, u: differenceDoubt(key, column, conditions) };
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
    return say(
      'unclear',
      `The key alone is ${key.verdict === 'unstable' ? 'not steady' : key.verdict}, so the column can’t be checked with it. Clean the resistor chip and measure it again, or use another key.`,
    );
  if (column.n === 0) return say('open', 'Open through the column. A wire or a contact is broken between the lock and the connector.');
  if (column.overloads > 0 || column.verdict === 'unstable')
    return say(
      'jumping',
      'Intermittent through the column while the key alone is steady. A worn contact, or a fine wire that breaks where it bends. Tilt and turn the wheel while measuring.',
    );
  if (column.verdict === 'open')
    return say(
      'open',
      `${formatOhms(column.mean)} through the column is as good as open. A wire or a contact is broken between the lock and the connector.`,
    );
  if (column.verdict === 'short') return say('short', 'Almost zero through the column. The two wires are shorted, or the wrong pins were measured.');
  const { ohms, u } = difference!;
  const words = formatDoubtful(abs(ohms), u);
  const immobilizer = seenWords(ladder, key.mean, column.mean);
  if (ohms - told * u > allowed)
    return say(
      'series',
      `${words} more through the column${allowed > 0 ? `; good contacts add at most ${formatOhms(allowed)}` : ''}. Added series resistance: worn or dirty contacts, or a wire down to its last strands. ${immobilizer}`,
      {
        series: { ohms, u },
      },
    );
  if (ohms + told * u < 0) {
    // 1/R = 1/column − 1/key; both slopes after GUM 5.1.3, with the difference as the quantity that is known.
    const parallel = (key.mean * column.mean) / -ohms;
    return say(
      'parallel',
      `${words} less through the column: ${formatOhms(parallel)} of leakage across the key. Moisture or dirt in the lock or connector, or a bare spot on a wire. ${immobilizer}`,
      {
        parallel: { ohms: parallel, u: parallel * hypot(u / ohms, key.u / key.mean) },
      },
    );
  }
  if (ohms >= -near * u && ohms <= allowed + near * u)
    return say(
      'equal',
      `Equal within the uncertainty (${ohms < 0 ? '−' : '+'}${words}). Contacts and wires are good while nothing moves. ${immobilizer}`,
    );
  return say(
    'unclear',
    `${words} ${ohms < 0 ? 'less' : 'more'} through the column, and good contacts add up to ${formatOhms(allowed)}: too close to tell. Take more readings, or use a finer meter.`,
  );
}

/** Standard uncertainty of column minus key, ohms. */
function differenceDoubt(key: Measured, column: Measured, { meter }: Conditions): number {
  const range = rangeOf(meter, max(key.mean, column.mean));
  const gain = ((range.percent / 100) * abs(column.mean - key.mean)) / sqrt(3);
  const digits = (range.digits * range.resolutionOhms) / sqrt(3);
  const repeats = (m: Measured) => m.components.find((c) => c.name === 'Repeats')!.ohms;
  const display = range.resolutionOhms / sqrt(12);
  return hypot(gain, digits, repeats(key), repeats(column), display, display);
}

function seenWords(ladder: Steps, keyOhms: number, columnOhms: number): string {
  const [own, through] = [stepOf(ladder, keyOhms)?.step, stepOf(ladder, columnOhms)?.step];
  if (own === undefined) return '';
  return own === through
    ? `The immobilizer still sees value ${own}.`
    : `The immobilizer sees ${through === undefined ? 'no value' : `value ${through}`} instead of value ${own}.`;
}
