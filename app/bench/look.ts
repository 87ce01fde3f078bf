import { type LampSample, longestLookS, recordingOf } from '../../core/lamp';

/** A look that is over: what is kept and read. */
export interface Look {
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
  origin: 'tapped' | 'file';
  /** Name of the file it came from. */
  file: string;
}

/** Tapping along, from the count before the key is turned to the end of the look. Moments are milliseconds of the page's own monotonic clock. */
export type Tapping =
  { phase: 'idle' } | { phase: 'counting'; startsAt: number } | { phase: 'looking'; startedAt: number; samples: LampSample[]; down: boolean };

/** Time to lay the other hand on the key, milliseconds. */
export const countMs = 3000;
/** A look ends by itself: no lamp needs longer, milliseconds. */
export const mostMs = 60_000;

const secondsSince = (from: number, now: number) => Math.min(Math.max(now - from, 0) / 1000, longestLookS);

/** The count is over when its time is: the look begins at that moment, however late anybody notices. */
export function atMoment(state: Tapping, now: number): Tapping {
  return state.phase === 'counting' && now >= state.startsAt ? { phase: 'looking', startedAt: state.startsAt, samples: [], down: false } : state;
}

/** The lamp is lit, or dark again. What does not change anything is no tap. */
export function tap(state: Tapping, lit: boolean, now: number): Tapping {
  const current = atMoment(state, now);
  if (current.phase !== 'looking' || current.down === lit) return current;
  return { ...current, down: lit, samples: [...current.samples, { atS: secondsSince(current.startedAt, now), lit }] };
}

/** What was seen until now. */
export function lookAt(state: Tapping, now: number): Look | null {
  if (state.phase !== 'looking') return null;
  const recording = recordingOf(state.samples, Math.max(secondsSince(state.startedAt, now), 0.001));
  if (!recording.ok) return null;
  const { lit, litAtEnd, lengthS } = recording.value;
  return { lit: lit.map((l) => [l.onS, l.offS]), litAtEnd, lengthS, origin: 'tapped', file: '' };
}

/** Whether a look is among those that a case has already: what was added is not offered again, also after a reload. */
export const isAmong = (look: Look | null, kept: readonly Pick<Look, 'lit' | 'lengthS'>[]): boolean =>
  look !== null && kept.some((k) => k.lengthS === look.lengthS && JSON.stringify(k.lit) === JSON.stringify(look.lit));

/** The recording that the reader in core takes. */
export const recordingOfLook = ({ lit, litAtEnd, lengthS }: Omit<Look, 'origin' | 'file'>) => ({
  lit: lit.map(([onS, offS]) => ({ onS, offS })),
  litAtEnd,
  lengthS,
});
