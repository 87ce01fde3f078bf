import type { Instance, ScheduleStep } from '.';

/** Limits of a drawn instance, both included. */
export interface Draws {
  cars: [number, number];
  acts: [number, number];
  technicians: number;
  /** Minutes of tolerance after a wait; one to six if not given. */
  tolerance?: [number, number];
}

/** An instance as shops have them, from even draws: hands on for 1 to 5 min, waits of 5 to 12 min, seven in ten of them with a limit. */
export function drawnShop(draw: () => number, { cars, acts, technicians, tolerance = [1, 6] }: Draws): Instance {
  const whole = ([least, most]: readonly [number, number]) => least + Math.floor(draw() * (most - least + 1));
  return {
    technicians,
    cases: Array.from({ length: whole(cars) }, (_, i) => ({
      id: `car ${i + 1}`,
      steps: Array.from({ length: whole(acts) }, (__, k): ScheduleStep[] => [
        ...(k === 0 ? [] : [{ kind: 'wait' as const, minutes: whole([5, 12]), ...(draw() < 0.7 ? { maxLateMinutes: whole(tolerance) } : {}) }]),
        { kind: 'attended', minutes: whole([1, 5]) },
      ]).flat(),
    })),
  };
}
