import type { LaidSegment } from './resolveLamps';

export interface LampSpan {
  lit: boolean;
  seconds: number;
}

/**
 * A lamp pattern laid out in time. Groups that repeat are repeated until `length` is filled; the last span is cut there, so that the spans add
 * up to exactly `length` unless the pattern is shorter by itself.
 * @param length seconds to lay out, above 0
 */
export function lampTimeline(segments: readonly LaidSegment[], length: number): LampSpan[] {
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
  const lay = (list: readonly LaidSegment[]) => {
    for (const segment of list) {
      if (left <= 1e-9) return;
      if ('on' in segment) add(true, segment.on);
      else if ('off' in segment) add(false, segment.off);
      else if (takesTime(segment.repeat)) while (left > 1e-9) lay(segment.repeat);
    }
  };
  lay(segments);
  return spans;
}

/** A group without any time would repeat for ever without getting on. */
function takesTime(segments: readonly LaidSegment[]): boolean {
  return segments.some((s) => ('on' in s ? s.on > 0 : 'off' in s ? s.off > 0 : takesTime(s.repeat)));
}

/**
 * The most flashes that begin within one second. Something large that flashes more than three times a second can hurt people
 * (WCAG 2.2, 2.3.1, three flashes or below threshold).
 */
export function flashesPerSecond(spans: readonly LampSpan[]): number {
  const begins: number[] = [];
  let at = 0;
  for (const { lit, seconds } of spans) {
    if (lit) begins.push(at);
    at += seconds;
  }
  return Math.max(0, ...begins.map((from) => begins.filter((b) => b >= from && b < from + 1 - 1e-9).length));
}
