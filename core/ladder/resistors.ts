import { failed, ok, readDigits, type Result } from '../units';
import { sentences } from './sentences';

/** A kind of resistor that is at hand. */
export interface Resistor {
  ohms: number;
  /** As a share: 0.01 is 1 %. */
  tolerance: number;
  /** How many there are; left out: as many as one likes. */
  count?: number;
  /** What it may turn into heat, watts; left out: nobody said. */
  watts?: number;
}

/** Values of a decade after IEC 60063:2015; E96 follows 10^(i/96) to three digits, E12 and E24 are older and don't. */
const e24 = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91];
const decades = {
  E12: e24.filter((_value, i) => i % 2 === 0),
  E24: e24,
  E96: Array.from({ length: 96 }, (_none, i) => Math.round(100 * 10 ** (i / 96)) / 10),
} as const satisfies Record<string, number[]>;
export type SeriesName = keyof typeof decades;
export const seriesNames = Object.keys(decades) as SeriesName[];

/** Six decades of a series, from 1 Ω to below 1 MΩ; 1 % where nothing else is said. */
export function seriesValues(name: SeriesName, tolerance = 0.01): Resistor[] {
  return [0.1, 1, 10, 100, 1e3, 1e4].flatMap((scale) => decades[name].map((v) => ({ ohms: Number((v * scale).toPrecision(6)), tolerance })));
}

/** A tolerance as it is written: `1%`, `0,5 %`, `5`. A share: 0.01 is 1 %. */
export function parseTolerance(text: string, path = ''): Result<number> {
  const match = /^±?\s*([\d.,]+)\s*%?$/.exec(text.trim());
  const percent = match ? (readDigits(match[1]!)?.value ?? NaN) : NaN;
  if (percent >= 0 && percent <= 50) return ok(percent / 100);
  return failed({ code: 'tolerance', path, message: sentences.tolerance(JSON.stringify(text.slice(0, 40))) });
}
