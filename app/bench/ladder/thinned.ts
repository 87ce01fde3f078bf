import type { SentReading } from '../../../core/ladder';

/** Points a chart draws at most: what a screen can show, and what a slow tablet draws between two readings. */
export const mostPoints = 400;

/**
 * Samples for a chart, bounded however many were taken: the time is cut into equal pieces, of each the lowest and the highest value stay, and one open
 * reading where there was one. In order of time.
 */
export function thinned(samples: readonly [number, SentReading][], most = mostPoints): readonly [number, SentReading][] {
  if (samples.length <= most) return samples;
  const pieces = Math.floor(most / 3);
  const size = Math.ceil(samples.length / pieces);
  const kept: [number, SentReading][] = [];
  for (let from = 0; from < samples.length; from += size) {
    const piece = samples.slice(from, from + size);
    const closed = piece.filter(([, ohms]) => ohms !== null);
    const low = closed.reduce<[number, SentReading] | undefined>((a, b) => (a && a[1]! <= b[1]! ? a : b), undefined);
    const high = closed.reduce<[number, SentReading] | undefined>((a, b) => (a && a[1]! >= b[1]! ? a : b), undefined);
    const open = piece.find(([, ohms]) => ohms === null);
    kept.push(...[...new Set([low, high, open])].filter((s) => s !== undefined).sort((a, b) => a[0] - b[0]));
  }
  return kept;
}

/** Stretches a chart draws at most, one mark each. */
export const mostStretches = 150;

/** Stretches for a chart of this length, bounded however many there are: those that lie closest to each other become one, and none is lost. */
export function drawnStretches(stretches: readonly { fromS: number; toS: number }[], lengthS: number): { fromS: number; toS: number }[] {
  for (let apart = lengthS / 600; ; apart *= 2) {
    const drawn: { fromS: number; toS: number }[] = [];
    for (const { fromS, toS } of stretches) {
      const before = drawn.at(-1);
      if (before && fromS - before.toS < apart) before.toS = Math.max(before.toS, toS);
      else drawn.push({ fromS, toS });
    }
    if (drawn.length <= mostStretches) return drawn;
  }
}
