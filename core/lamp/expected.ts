import { type LaidLamp, lampTimeline } from '../library';
import type { Lit } from './recording';

/**
 * When a pattern is lit in the first seconds of a look that begins with it. What comes after the last segment of a pattern that does not repeat is its
 * last state: out stays out, and lit stays lit.
 * @param lengthS seconds to lay out, above 0
 * @param tempo how much slower than its numbers the lamp runs, 1: as told
 */
export function expectedLit(pattern: LaidLamp, lengthS: number, tempo = 1): Lit[] {
  const spans = lampTimeline(pattern.segments ?? [], lengthS / tempo);
  const lit: Lit[] = [];
  let at = 0;
  for (const [i, span] of spans.entries()) {
    const end = i === spans.length - 1 ? lengthS : (at + span.seconds) * tempo;
    if (span.lit) lit.push({ onS: at * tempo, offS: Math.min(end, lengthS) });
    at += span.seconds;
  }
  return lit;
}
