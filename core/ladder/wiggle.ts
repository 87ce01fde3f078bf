import { formatOhms } from './format';
import type { Meter } from './meter';
import { expectedScatter } from './uncertainty';
import { sentences } from './sentences';

/** One reading of a capture: seconds from its beginning, ohms; `Infinity` for an overload. */
export interface WiggleSample {
  atS: number;
  ohms: number;
}
/** Something that was done while reading, such as “tilt up”. */
export interface WiggleMark {
  atS: number;
  say: string;
}

export interface WiggleBreak {
  fromS: number;
  toS: number;
  /** open: at least one overload; jump: the value left its place. */
  kind: 'open' | 'jump';
  /** Furthest from the resting value, ohms; `Infinity` where it was open. */
  ohms: number;
  samples: number;
  /** The latest mark before it. */
  mark: string | null;
}

export interface Wiggle {
  /** same: nothing moved; changes: it breaks or jumps; null: too little was read to say. */
  verdict: 'same' | 'changes' | null;
  /** Where the reading rests: the median of the numbers, ohms; null without one. */
  rest: number | null;
  breaks: WiggleBreak[];
  lengthS: number;
  text: string;
}

/** Less than this proves nothing: seconds and readings. */
const [leastS, leastSamples] = [5, 20];
/** A reading further from rest than this many spreads of a sound contact has left its place. */
const leaves = 6;

/**
 * Finds where a reading breaks while the column is moved. The resting value is the median, so that breaks don't pull it. Readings that are off one after
 * the other are one break, as the eye counts them; a single one between two that are on counts as well when it was open.
 * @param samples in order of time
 * @param marks in order of time
 */
export function assessWiggle(samples: readonly WiggleSample[], marks: readonly WiggleMark[], meter: Meter): Wiggle {
  const numbers = samples
    .map((s) => s.ohms)
    .filter(Number.isFinite)
    .sort((a, b) => a - b);
  const rest = numbers.length === 0 ? null : numbers[Math.floor((numbers.length - 1) / 2)]!;
  const lengthS = samples.at(-1)?.atS ?? 0;
  const limit = rest === null ? 0 : leaves * expectedScatter(rest, meter);
  /** How far a reading is from rest; without a rest there is no reading that could be near it. */
  const away = (ohms: number) => (rest === null ? Infinity : Math.abs(ohms - rest));
  const breaks: WiggleBreak[] = [];
  // Breaks with another one a single sound reading away.
  const neighbours = new Set<WiggleBreak>();
  let lastOff = -Infinity;
  samples.forEach(({ atS, ohms }, i) => {
    const open = !Number.isFinite(ohms);
    if (!open && away(ohms) <= limit) return;
    const before = breaks.at(-1);
    if (before && i - lastOff === 1) {
      before.toS = atS;
      before.samples += 1;
      if (open) [before.kind, before.ohms] = ['open', Infinity];
      else if (before.kind === 'jump' && away(ohms) > away(before.ohms)) before.ohms = ohms;
    } else {
      const found: WiggleBreak = {
        fromS: atS,
        toS: atS,
        kind: open ? 'open' : 'jump',
        ohms,
        samples: 1,
        mark: marks.findLast((m) => m.atS <= atS)?.say ?? null,
      };
      if (before && i - lastOff === 2) neighbours.add(before).add(found);
      breaks.push(found);
    }
    lastOff = i;
  });
  // One number that is off by itself may be a slip of the tip; an open one in a contact that is held is none, nor two that come one after the other.
  const told = breaks.filter((b) => b.kind === 'open' || b.samples > 1 || neighbours.has(b));
  const long = lengthS >= leastS && samples.length >= leastSamples;
  const verdict = told.length > 0 ? 'changes' : long ? 'same' : null;
  return { verdict, rest, breaks: told, lengthS, text: words(verdict, told, rest, lengthS, samples.length) };
}

function words(verdict: Wiggle['verdict'], breaks: readonly WiggleBreak[], rest: number | null, lengthS: number, n: number): string {
  if (verdict === null) return sentences.tooFewReadings(n, lengthS.toFixed(0), leastS);
  if (verdict === 'same' && rest !== null) return sentences.atRest(formatOhms(rest), lengthS.toFixed(0));
  const open = breaks.filter((b) => b.kind === 'open').length;
  const places = [...new Set(breaks.flatMap((b) => b.mark ?? []))];
  const what = breaks.length === 1 ? sentences.oneBreak : `${breaks.length} breaks`;
  const first = breaks[0]!;
  return sentences.breaks(
    what,
    open === 0 ? '' : breaks.length === 1 ? ', open' : open === breaks.length ? sentences.allOfThemOpen : sentences.ofThemOpen(open),
    first.fromS.toFixed(1),
    places.length > 0 ? sentences.atPlaces(places.join('”, “')) : '',
  );
}
