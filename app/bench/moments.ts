import type { LampMoment } from '../../core/library';

/** From when on a lamp is watched, in words. */
export const momentWords: Record<LampMoment, string> = {
  'key-out': 'Key out',
  'key-in': 'Key in',
  'ignition-on': 'Ignition on',
  'after-attempt': 'After an attempt to start',
};
