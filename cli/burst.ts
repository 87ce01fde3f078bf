import { createReadStream } from 'node:fs';
import { burstCsvReader, burstWavReader, measure, type Measured } from '../core/burst';
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

/** `burst analyse`: the bursts of a capture. The file is read in pieces, however long it is. */
export async function burstAnalyse(file: string, channel: string): Promise<BurstAnalysed> {
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
  const { bursts, samples, sampleRateHz, carrierHz, quality, limits } = measured.value;
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
