import type { LampPattern, LampSegment } from './documents';
import { evaluateExpression, type ParamValues } from './expression';
import { paramWords, type ResolvedParam, valuesOf } from './params';
import { fillText } from './text';

/** A stretch of lamp behaviour with its numbers in place. */
export type LaidSegment = { on: number } | { off: number } | { repeat: LaidSegment[] };
/** A pattern as it is on one vehicle. */
export type LaidLamp = Omit<LampPattern, 'segments'> & { segments?: LaidSegment[] };

/** More flashes than anybody counts; a slip of the hand in a profile must not fill the memory. */
const mostFlashes = 100;

/** Segments with the vehicle's times and counts; a group of flashes is written out. */
export function laySegments(segments: readonly LampSegment[], values: ParamValues): LaidSegment[] {
  return segments.flatMap((segment): LaidSegment[] => {
    if ('on' in segment) return [{ on: evaluateExpression(segment.on, values) }];
    if ('off' in segment) return [{ off: evaluateExpression(segment.off, values) }];
    if ('repeat' in segment) return [{ repeat: laySegments(segment.repeat, values) }];
    const once = laySegments(segment.flashes, values);
    const times = Math.min(mostFlashes, Math.max(0, Math.round(evaluateExpression(segment.times, values))));
    const flashes = Array.from({ length: times }, () => once).flat();
    // The dark between two flashes stands between them, not after the last: what follows says how long it is dark then.
    return 'off' in (flashes.at(-1) ?? {}) ? flashes.slice(0, -1) : flashes;
  });
}

/** A family's patterns with the numbers of one vehicle, in their times, counts and titles. */
export function resolveLamps(lamps: readonly LampPattern[], params: Record<string, ResolvedParam>): LaidLamp[] {
  const values = valuesOf(params);
  const words = Object.fromEntries(Object.values(params).map((p) => [p.name, paramWords(p.value, p.unit)]));
  return lamps.map(({ segments, ...lamp }) => ({
    ...lamp,
    title: fillText(lamp.title, words),
    ...(segments ? { segments: laySegments(segments, values) } : {}),
  }));
}
