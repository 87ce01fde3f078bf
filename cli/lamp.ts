import { createReadStream } from 'node:fs';
import { lampCsvReader, type LampReading, lampVcdReader, lampVerdict, readLamp, type Recording } from '../core/lamp';
import { type LampMoment, resolveLamps, resolveParams } from '../core/library';
import { CannotUse } from './fail';
import { library } from './library';

export interface LampRead {
  patterns: LampReading['patterns'];
  features: LampReading['features'];
  state: LampReading['state'];
  moreS: number;
  verdict: string;
}

/** `lamp read`: a recording against the patterns of a vehicle's family and moment. The file is read in pieces, however long it is. */
export async function lampRead(file: string, folders: string[], profileId: string, moment: LampMoment): Promise<LampRead> {
  const lib = library(folders);
  const profile = lib.profiles.get(profileId);
  if (!profile) throw new CannotUse(`--profile ${profileId}: does not exist. Use one of: ${[...lib.profiles.keys()].join(', ')}.`);
  const family = lib.families.get(profile.family)!;
  const all = resolveLamps(family.lamps, resolveParams(family, profile)).filter((l) => l.segments);
  const patterns = all.filter((l) => l.moment === moment);
  if (patterns.length === 0) {
    const moments = [...new Set(all.map((l) => l.moment))].join(', ');
    throw new CannotUse(
      `--moment ${moment}: system type "${family.id}" has no light then. ${moments ? `Use one of: ${moments}.` : 'Read its texts by eye.'}`,
    );
  }
  const reading = readLamp(patterns, await readFile(file));
  return { ...reading, verdict: lampVerdict(reading, patterns, family.title) };
}

async function readFile(file: string): Promise<Recording> {
  const reader = /\.vcd$/i.test(file) ? lampVcdReader() : /\.csv$/i.test(file) ? lampCsvReader() : undefined;
  if (!reader) throw new CannotUse(`${file}: unknown kind of file. Use a .csv (seconds,level) or a .vcd file.`);
  try {
    for await (const piece of createReadStream(file, { encoding: 'utf8' })) {
      const problem = reader.push(piece as string);
      if (problem) throw new CannotUse(`${file}: ${problem.path}: ${problem.message}`);
    }
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
  const result = reader.end();
  if (result.ok) return result.value;
  const { path, message } = result.problems[0]!;
  throw new CannotUse([file, path, message].filter(Boolean).join(': '));
}
