/** The two kinds of 12 V starter battery that differ in their figures. */
export const batteryTypes = ['flooded', 'agm'] as const;
export type BatteryType = (typeof batteryTypes)[number];

/** A battery, what draws on it, and the voltage that must not be passed. */
export interface Battery {
  type: BatteryType;
  /** Rated at 20 hours, 25 °C, down to 10.5 V; 4 to 400 Ah. */
  capacityAh: number;
  /** At the posts after some hours of rest, everything off. */
  openCircuitVolts: number;
  /** Of the battery, not of the air. */
  temperatureC: number;
  ageYears: number;
  /** Drawn all the time, amps. */
  loadAmps: number;
  limitVolts: number;
}

/** What is different in the two kinds. Where each figure is from, and that nobody looked it up again, stands in docs/reserve.md. */
export interface Kind {
  /** Charge, 0 to 1, and rested volts that go with it; both rise. */
  rested: readonly (readonly [charge: number, volts: number])[];
  /** Peukert's exponent. */
  peukert: number;
  /** Ohmic part for 1 Ah, new, at 25 °C: a battery of 60 Ah has a sixtieth. */
  ohmAh: number;
  /** Volts of the six cells' polarization for each e-fold of current (the slope of Tafel). */
  tafelVolts: number;
}

export const kinds: Readonly<Record<BatteryType, Kind>> = {
  flooded: {
    rested: [
      [0, 11.89],
      [0.25, 12.06],
      [0.5, 12.24],
      [0.75, 12.45],
      [1, 12.65],
    ],
    peukert: 1.2,
    ohmAh: 0.36,
    tafelVolts: 0.06,
  },
  agm: {
    rested: [
      [0, 11.8],
      [0.25, 12.0],
      [0.5, 12.3],
      [0.75, 12.6],
      [1, 12.85],
    ],
    peukert: 1.12,
    ohmAh: 0.24,
    tafelVolts: 0.05,
  },
};

/** Charge, 0 to 1, of a battery at rest. Between the points of the table straight lines; outside it the nearest end. */
export function chargeAtRest(kind: Kind, volts: number): number {
  const above = kind.rested.findIndex(([, v]) => v >= volts);
  if (above < 0) return 1;
  if (above === 0) return 0;
  const [[c0, v0], [c1, v1]] = [kind.rested[above - 1]!, kind.rested[above]!];
  return c0 + ((c1 - c0) * (volts - v0)) / (v1 - v0);
}

/** Rested volts at a charge, 0 to 1: the table the other way. */
export function voltsAtRest(kind: Kind, charge: number): number {
  const above = kind.rested.findIndex(([c]) => c >= charge);
  if (above < 0) return kind.rested.at(-1)![1];
  if (above === 0) return kind.rested[0]![1];
  const [[c0, v0], [c1, v1]] = [kind.rested[above - 1]!, kind.rested[above]!];
  return v0 + ((v1 - v0) * (charge - c0)) / (c1 - c0);
}
