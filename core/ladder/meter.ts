import { failed, ok, readDigits, type Result } from '../units';
import { sentences } from './sentences';

/** A range of an ohmmeter as its data sheet gives it: ± (percent of the reading + digits of the last place). */
export interface MeterRange {
  /** The highest value that the range shows, ohms. */
  upToOhms: number;
  percent: number;
  digits: number;
  /** One digit of the last place, ohms. */
  resolutionOhms: number;
}

/** Ranges in rising order; a reading belongs to the first that holds it. */
export interface Meter {
  name: string;
  ranges: MeterRange[];
}

/** What is assumed of a meter that nobody described; ours, and coarser than most. */
export const unknownMeter: Meter = {
  name: sentences.noMeterChosen,
  ranges: [
    { upToOhms: 600, percent: 1, digits: 5, resolutionOhms: 0.1 },
    { upToOhms: 6_000, percent: 1, digits: 5, resolutionOhms: 1 },
    { upToOhms: 60_000, percent: 1, digits: 5, resolutionOhms: 10 },
    { upToOhms: 1e9, percent: 1.5, digits: 5, resolutionOhms: 100 },
  ],
};

/** A meter with one range for everything. */
export const oneRange = (name: string, range: Omit<MeterRange, 'upToOhms'>): Meter => ({ name, ranges: [{ ...range, upToOhms: 1e9 }] });

export const rangeOf = (meter: Meter, ohms: number): MeterRange => meter.ranges.find((r) => ohms <= r.upToOhms) ?? meter.ranges.at(-1)!;

/** Half of the interval in which the meter's maker says the true value lies, ohms. */
export const halfWidth = (range: Omit<MeterRange, 'upToOhms'>, ohms: number): number =>
  (range.percent / 100) * ohms + range.digits * range.resolutionOhms;

/** The accuracy in words. @example "± (0.5 % + 2 digits), steps of 1 Ω" */
export const accuracyWords = ({ percent, digits, resolutionOhms }: Omit<MeterRange, 'upToOhms'>): string =>
  sentences.accuracyOf(percent, digits, digits === 1 ? 'digit' : 'digits', resolutionOhms);

/** An accuracy as data sheets write it: `0.5%+2`, `±(0.8 % + 2 digits)`, `1,2 % + 5 dgt`. */
export function parseAccuracy(text: string, path = ''): Result<{ percent: number; digits: number }> {
  const match = /^±?\s*\(?\s*([\d.,]+)\s*%?\s*(?:\+\s*([\d.,]+)\s*(?:d|dgt|dgts|digit|digits|counts?)?)?\s*\)?$/i.exec(text.trim());
  const [percent, digits] = match ? [readDigits(match[1]!)?.value ?? NaN, readDigits(match[2] ?? '0')?.value ?? NaN] : [NaN, NaN];
  if (!(percent <= 20 && digits <= 1000) || percent + digits === 0)
    return failed({
      code: 'accuracy',
      path,
      message: sentences.accuracy(JSON.stringify(text.slice(0, 40))),
    });
  return ok({ percent, digits });
}
