import { failed, ok, type Problem, type Result } from '../units';
import { sentences } from './sentences';

/** A stretch in which the lamp was seen lit, seconds from the beginning of the look. */
export interface Lit {
  onS: number;
  /** Where the light ended; the end of the look when it was still lit then. */
  offS: number;
}

/** What a person or an instrument saw of a lamp. */
export interface Recording {
  /** Length of the look, seconds. */
  lengthS: number;
  lit: Lit[];
  /** Still lit when the look ended: the last `offS` is no observed end. */
  litAtEnd: boolean;
}

/** One change of the lamp, or one sample of it. */
export interface LampSample {
  atS: number;
  lit: boolean;
}

/** Longest look that is read, seconds: nobody looks at a lamp for longer, and a file of milliseconds is found out by it. */
export const longestLookS = 600;
/** More changes than a lamp makes in that time; something else was recorded. */
const mostLights = 20_000;

/**
 * Takes samples one by one and keeps only the changes, so that a long recording needs no memory. The look begins at 0 (key in, or ignition on): before
 * the first sample the lamp counts as dark.
 */
export class LampRecorder {
  #lit: Lit[] = [];
  #now = false;
  #last = 0;
  /** Samples taken so far. */
  count = 0;

  /** @returns what is wrong with the sample; it is not taken then */
  take({ atS, lit }: LampSample): Problem | undefined {
    const wrong = (message: string): Problem => ({ code: 'sample', path: `[${this.count}]`, message });
    if (!Number.isFinite(atS) || atS < 0) return wrong(sentences.timeNotSeconds(atS));
    if (atS < this.#last) return wrong(sentences.timeBackwards(atS, this.#last));
    if (atS > longestLookS) return wrong(sentences.timeTooLong(atS, longestLookS));
    if (lit && !this.#now) {
      if (this.#lit.length >= mostLights) return wrong(sentences.tooManyChanges(mostLights));
      this.#lit.push({ onS: atS, offS: atS });
    } else if (!lit && this.#now) this.#lit.at(-1)!.offS = atS;
    this.#now = lit;
    this.#last = atS;
    this.count += 1;
    return undefined;
  }

  /** @param lengthS end of the look, seconds; default: the last sample */
  end(lengthS = this.#last): Result<Recording> {
    if (!(lengthS > 0)) return failed({ code: 'length', path: '', message: sentences.length });
    if (lengthS < this.#last) {
      const message = sentences.endsTooEarly(lengthS, this.#last);
      return failed({ code: 'length', path: '', message });
    }
    const lit = this.#lit.map((l, i) => (this.#now && i === this.#lit.length - 1 ? { ...l, offS: lengthS } : l)).filter((l) => l.offS > l.onS);
    return ok({ lengthS, lit, litAtEnd: this.#now && lit.length > 0 });
  }
}

/** A recording from all its samples or changes; see {@link LampRecorder}. */
export function recordingOf(samples: readonly LampSample[], lengthS?: number): Result<Recording> {
  const recorder = new LampRecorder();
  for (const sample of samples) {
    const problem = recorder.take(sample);
    if (problem) return failed(problem);
  }
  return recorder.end(lengthS);
}

/** The first seconds of a recording. */
export function firstSeconds(seen: Recording, lengthS: number): Recording {
  if (seen.lengthS <= lengthS) return seen;
  const lit = seen.lit.filter((l) => l.onS < lengthS).map((l) => ({ onS: l.onS, offS: Math.min(l.offS, lengthS) }));
  return { lengthS, lit, litAtEnd: (seen.lit[lit.length - 1]?.offS ?? 0) >= lengthS };
}
