import { useMemo } from 'react';
import { type LampReading, lampVerdict, noneOfThese, readLamp } from '../../core/lamp';
import type { LaidLamp, LampMoment } from '../../core/library';
import { type Look, recordingOfLook } from './look';

export interface ShownReading extends LampReading {
  verdict: string;
  /** The likeliest pattern; undefined for none of these. */
  pattern: LaidLamp | undefined;
  /** What it would stand for in the ledger. */
  means: LaidLamp['means'];
}

/** A look as the family reads it: anew with every change of the look, the family or the moment. */
export function useLampReading(lamps: readonly LaidLamp[], moment: LampMoment, family: string, look: Look | null): ShownReading | null {
  return useMemo(() => {
    const patterns = lamps.filter((l) => l.moment === moment && l.segments);
    if (!look || patterns.length === 0 || !(look.lengthS > 0)) return null;
    const reading = readLamp(patterns, recordingOfLook(look));
    const first = reading.patterns[0]!.id;
    const pattern = first === noneOfThese ? undefined : patterns.find((p) => p.id === first);
    return { ...reading, verdict: lampVerdict(reading, patterns, family), pattern, means: reading.state === 'decided' ? pattern?.means : undefined };
  }, [lamps, moment, family, look]);
}

/** Moments at which a lamp of the family says something. */
export const momentsOf = (lamps: readonly LaidLamp[]): LampMoment[] => [...new Set(lamps.filter((l) => l.segments).map((l) => l.moment))];
