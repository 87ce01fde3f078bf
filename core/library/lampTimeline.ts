import type { LampSegment } from './documents';

export interface LampSpan {
  lit: boolean;
  seconds: number;
}

/**
 * A lamp pattern laid out in time. Groups that repeat are repeated until `length` is filled; the last span is cut there, so that the spans add
 * up to exactly `length` unless the pattern is shorter by itself.
 * @param length seconds to lay out, above 0
 */
export function lampTimeline(segments: readonly LampSegment[], length: number): LampSpan[] {
  const spans: LampSpan[] = [];
  let left = length;
  const add = (lit: boolean, seconds: number) => {
    const take = Math.min(seconds, left);
    if (take <= 0) return;
    const last = spans.at(-1);
    if (last?.lit === lit) last.seconds += take;
    else spans.push({ lit, seconds: take });
    left -= take;
  };
  const lay = (list: readonly LampSegment[]) => {
    for (const segment of list) {
      if (left <= 1e-9) return;
      if ('on' in segment) add(true, segment.on);
      else if ('off' in segment) add(false, segment.off);
      else while (left > 1e-9) lay(segment.repeat);
    }
  };
  lay(segments);
  return spans;
}
