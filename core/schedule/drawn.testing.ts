import type { Instance, ScheduleStep } from '.';

/** Limits of a drawn instance, both included. */
export interface Draws {
  cars: [number, number];
  acts: [number, number];
  technicians: number;
  /** Minutes of tolerance after a wait; one to six if not given. */
  tolerance?: [number, number];
  /** Minutes with hands on, and of waits; 1 to 5 and 5 to 12 if not given. */
  hands?: [number, number];
  waits?: [number, number];
}

/** An instance from even draws: whole minutes, seven in ten waits with a limit. */
export function drawnShop(draw: () => number, { cars, acts, technicians, tolerance = [1, 6], hands = [1, 5], waits = [5, 12] }: Draws): Instance {
  const whole = ([least, most]: readonly [number, number]) => least + Math.floor(draw() * (most - least + 1));
  return {
    technicians,
    cases: Array.from({ length: whole(cars) }, (_, i) => ({
      id: `car ${i + 1}`,
      steps: Array.from({ length: whole(acts) }, (__, k): ScheduleStep[] => [
        ...(k === 0 ? [] : [{ kind: 'wait' as const, minutes: whole(waits), ...(draw() < 0.7 ? { maxLateMinutes: whole(tolerance) } : {}) }]),
        { kind: 'attended', minutes: whole(hands) },
      ]).flat(),
    })),
  };
}
