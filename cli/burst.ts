import { createReadStream } from 'node:fs';
import { basename } from 'node:path';
import { burstCsvReader, type BurstFeatures, burstWavReader, compareBursts, featuresOf, measure, type Measured } from '../core/burst';
import { CannotUse } from './fail';

export interface BurstAnalysed {
  samples: number;
  sampleRateHz: number;
  carrierHz: number | null;
  bursts: { startMs: number; durationMs: number; amplitude: number; carrierHz: number; notches: number | null }[];
  count: number;
  quality: Measured['quality'];
  limits: Measured['limits'];
}

/** Measures a file, read in pieces however long it is. */
async function measureFile(file: string, channel: string): Promise<Measured> {
  if (!/^[12]$/.test(channel)) throw new CannotUse(`--channel ${channel}: write 1 or 2.`);
  const reader = /\.wav$/i.test(file) ? burstWavReader(Number(channel)) : /\.csv$/i.test(file) ? burstCsvReader() : undefined;
  if (!reader) throw new CannotUse(`${file}: unknown kind of file. Use a .csv (seconds,volts) or a .wav file.`);
  try {
    for await (const piece of createReadStream(file)) {
      const problem = reader.push(piece as Buffer);
      if (problem) throw new CannotUse(`${file}: ${problem.path}: ${problem.message}`);
    }
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
  const read = reader.end();
  const measured = read.ok ? measure(read.value) : read;
  if (!measured.ok) {
    const { path, message } = measured.problems[0]!;
    throw new CannotUse([file, path, message].filter(Boolean).join(': '));
  }
  return measured.value;
}

/** `burst analyse`: the bursts of a capture. */
export async function burstAnalyse(file: string, channel: string): Promise<BurstAnalysed> {
  const { bursts, samples, sampleRateHz, carrierHz, quality, limits } = await measureFile(file, channel);
  return {
    samples,
    sampleRateHz,
    carrierHz,
    bursts: bursts.map((b) => ({
      startMs: b.startS * 1000,
      durationMs: b.durationS * 1000,
      amplitude: b.amplitude,
      carrierHz: b.carrierHz,
      notches: b.notches,
    })),
    count: bursts.length,
    quality,
    limits,
  };
}

export interface BurstsCompared {
  matches: { condition: string; p: number }[];
  /** A condition, `none` for like none of them, `unclear` where it is not settled. */
  verdict: string;
  /** So many more captures should settle it; null: they won't. */
  more: number | null;
}

/** Files of one condition are named alike but for a number at the end: foil-1.csv, foil-2.csv. Or the condition stands before it: foil=FILE. */
function baselineOf(given: string): { condition: string; file: string } {
  const named = /^([\w. -]+)=(.+)$/.exec(given);
  if (named) return { condition: named[1]!.trim(), file: named[2]! };
  const name = basename(given).replace(/\.[^.]*$/, '');
  return { condition: name.replace(/[-_ ]?\d+$/, '') || name, file: given };
}

/** `burst compare`: which of the baselines a capture looks like. */
export async function burstCompare(file: string, given: readonly string[], channel: string): Promise<BurstsCompared> {
  const known = async (path: string): Promise<BurstFeatures> => {
    const features = featuresOf(await measureFile(path, channel));
    if (!features) throw new CannotUse(`${path}: too near to the noise to be counted. Capture it again, with the probe closer to the antenna coil.`);
    return features;
  };
  const asked = await known(file);
  const baselines = new Map<string, BurstFeatures[]>();
  for (const one of given) {
    const { condition, file: path } = baselineOf(one);
    baselines.set(condition, [...(baselines.get(condition) ?? []), await known(path)]);
  }
  const { matches, verdict, more } = compareBursts(
    [asked],
    [...baselines].map(([condition, captures]) => ({ condition, captures })),
  );
  return { matches, verdict: verdict ?? 'unclear', more };
}
