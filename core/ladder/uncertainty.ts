import { studentQuantile } from '../statistics';
import type { Steps } from './ladder';
import { halfWidth, type Meter, rangeOf } from './meter';
import { sentences } from './sentences';

const { abs, hypot, sqrt } = Math;

/** Under what the readings were taken. */
export interface Conditions {
  meter: Meter;
  /** The tips held together, ohms; null: not measured. */
  leadOhms: number | null;
  /** Of the key, °C; null: not measured. */
  temperatureC: number | null;
}

/** What leads add when nobody measured them, ohms: 0 to this. */
export const unknownLeadOhms = 1;
/** How far a key's temperature may be from 20 °C when nobody measured it, and how well it is known when somebody did, kelvin. */
const [unknownKelvin, knownKelvin] = [15, 2];
/** Scatter of a sound contact under a steady hand, as a share of the value: what the assumed spread of one reading begins with; ours. */
export const soundScatter = 0.001;
/** Degrees of freedom of that assumption: as much as five readings know of their own scatter. */
export const assumedFreedom = 4;

/** One source of uncertainty, for whoever wants to see where a figure comes from. */
export interface Component {
  name: string;
  /** A: from the repeats; B: from what is known otherwise (GUM 4.2, 4.3). */
  type: 'A' | 'B';
  /** Standard uncertainty, ohms. */
  ohms: number;
  how: string;
}

export interface Measured {
  /** Readings that showed a number. */
  n: number;
  /** Readings that showed the overload mark. */
  overloads: number;
  /** Mean of the numbers, leads subtracted, at 20 °C where the temperature and the coefficient are known; ohms. NaN without a number. */
  mean: number;
  /** The same as it was shown, leads and temperature still in it. */
  shownMean: number;
  /** Experimental standard deviation of one reading, ohms (n − 1 in the denominator; 0 with one reading). */
  sd: number;
  components: Component[];
  /** Combined standard uncertainty of the mean, ohms: root of the sum of squares (GUM 5.1.2). */
  u: number;
  /** Effective degrees of freedom (Welch–Satterthwaite, GUM G.4.1); Infinity where the repeats add nothing. */
  degreesOfFreedom: number;
  /** Coverage factor for 95 % from Student's t, and the expanded uncertainty, ohms. */
  k: number;
  expanded: number;
  drift: Drift | null;
}

/** A trend over the readings in their order. */
export interface Drift {
  /** From the first to the last, along the fitted line, ohms. */
  ohms: number;
  /** The slope is this many of its own standard errors away from none. */
  t: number;
}

/** What the systematic part may be off by at a value, ohms: `half` of an even interval (the meter), and `other` as a standard deviation (leads, warmth). */
export function systematic(
  ohms: number,
  { meter, leadOhms, temperatureC }: Conditions,
  ladder: Pick<Steps, 'ppmPerKelvin'>,
): { half: number; other: number } {
  const range = rangeOf(meter, ohms);
  const lead = (leadOhms === null ? unknownLeadOhms : rangeOf(meter, 0).resolutionOhms) / sqrt(3);
  const kelvin = (temperatureC === null ? unknownKelvin : knownKelvin) / sqrt(3);
  return { half: halfWidth(range, ohms), other: hypot(lead, kelvin * (abs(ladder.ppmPerKelvin ?? 0) / 1e6) * ohms) };
}

/** Spread that one reading of a sound contact is expected to have, ohms: the hand's, and the steps of the display (a step is even over ± half of itself). */
export const expectedScatter = (ohms: number, meter: Meter): number => hypot(soundScatter * ohms, rangeOf(meter, ohms).resolutionOhms / sqrt(12));

/** Leads and warmth taken out of one reading. */
export const corrected = (ohms: number, { leadOhms, temperatureC }: Conditions, ppmPerKelvin = 0): number =>
  Math.max(0, ohms - (leadOhms ?? 0)) / (temperatureC === null ? 1 : 1 + (ppmPerKelvin / 1e6) * (temperatureC - 20));

/**
 * The readings of one key with their combined standard uncertainty, after JCGM 100:2008 (GUM): type A from the repeats, type B from the meter's data
 * sheet (even within its limits, so half the width over √3: GUM 4.3.7), from the leads and from the temperature. With one reading the scatter of a
 * sound contact stands in for the repeats.
 * @param readings ohms in the order taken, `Infinity` for an overload
 */
export function measure(readings: readonly number[], conditions: Conditions, ladder: Pick<Steps, 'ppmPerKelvin'> = {}): Measured {
  const values = readings.filter(Number.isFinite).map((r) => corrected(r, conditions, ladder.ppmPerKelvin));
  const n = values.length;
  const overloads = readings.length - n;
  if (n === 0)
    return {
      n,
      overloads,
      mean: NaN,
      shownMean: NaN,
      sd: 0,
      components: [],
      u: Infinity,
      degreesOfFreedom: Infinity,
      k: 2,
      expanded: Infinity,
      drift: null,
    };
  const mean = values.reduce((s, x) => s + x, 0) / n;
  const sd = n > 1 ? sqrt(values.reduce((s, x) => s + (x - mean) ** 2, 0) / (n - 1)) : 0;
  const { half, other } = systematic(mean, conditions, ladder);
  const repeats: Component =
    n > 1
      ? { name: sentences.repeats, type: 'A', ohms: sd / sqrt(n), how: sentences.howRepeats(n) }
      : { name: sentences.repeats, type: 'B', ohms: expectedScatter(mean, conditions.meter), how: sentences.howOneReading };
  const steps = rangeOf(conditions.meter, mean).resolutionOhms / sqrt(12);
  const components: Component[] = [
    repeats,
    { name: sentences.meter, type: 'B', ohms: half / sqrt(3), how: sentences.howMeter(trimmed(half)) },
    { name: sentences.display, type: 'B', ohms: steps, how: sentences.howDisplay },
    {
      name: sentences.leadsAndTemperature,
      type: 'B',
      ohms: other,
      how: conditions.leadOhms === null ? sentences.howLeadsUnknown : sentences.howLeadsSubtracted,
    },
  ];
  const u = hypot(...components.map((c) => c.ohms));
  const degreesOfFreedom = n > 1 && repeats.ohms > 0 ? ((n - 1) * u ** 4) / repeats.ohms ** 4 : Infinity;
  const k = degreesOfFreedom > 1000 ? 1.96 : studentQuantile(0.975, Math.max(1, Math.floor(degreesOfFreedom)));
  const shownMean = readings.filter(Number.isFinite).reduce((s, x) => s + x, 0) / n;
  return { n, overloads, mean, shownMean, sd, components, u, degreesOfFreedom, k, expanded: k * u, drift: driftOf(values) };
}
const trimmed = (x: number): string => String(Number(x.toPrecision(3)));

/** Least squares over the order of the readings; null under four readings, or where chance alone does as much more often than once in a hundred. */
export function driftOf(values: readonly number[]): Drift | null {
  const n = values.length;
  if (n < 4) return null;
  const middle = (n - 1) / 2;
  const mean = values.reduce((s, x) => s + x, 0) / n;
  const sxx = (n * (n * n - 1)) / 12;
  const slope = values.reduce((s, x, i) => s + (i - middle) * (x - mean), 0) / sxx;
  const left = values.reduce((s, x, i) => s + (x - mean - slope * (i - middle)) ** 2, 0);
  const error = sqrt(left / (n - 2) / sxx);
  if (slope === 0) return null;
  const t = error === 0 ? Math.sign(slope) * Infinity : slope / error;
  return abs(t) >= studentQuantile(0.995, n - 2) ? { ohms: slope * (n - 1), t } : null;
}
