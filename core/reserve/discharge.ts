import { type Battery, kinds, voltsAtRest } from './battery';

const { asinh, max, min } = Math;

/** One way in which a battery may really be: what its label, its rested voltage and its age don't settle. */
export interface Guess {
  /** Charge at the beginning, 0 to 1. */
  charge: number;
  /** Times the usual drop under load. */
  resistance: number;
  /** Times the usual capacity of its age. */
  capacity: number;
}

/** Share of the rated current below which a load counts as slow: polarization grows with the logarithm above it. */
const slowShare = 0.02;
/** Volts that are lost when as much charge is gone as is left. */
const kneeVolts = 0.02;
/** Share of its charge that the knee leaves to a load: a new, full battery gives its rating in 20 hours. */
const kneeShare = 0.98;
/** Charge that a maintainer puts back, of what it gives. */
const chargeEfficiency = 0.85;

/** Capacity left with the years: a twentieth of the rating each. */
const agedCapacity = (years: number): number => max(0.4, 1 - 0.05 * years);
/** Ohmic resistance with the years. */
const agedResistance = (years: number): number => 1 + 0.08 * years;
/** A hundredth of the capacity for each kelvin from 25 °C on down; above, half of that, to 40 °C. */
const warmCapacity = (celsius: number): number => max(0.2, 1 + (celsius < 25 ? 0.01 * (celsius - 25) : 0.005 * (min(celsius, 40) - 25)));
const warmResistance = (celsius: number): number => max(0.85, 1 + 0.015 * (25 - celsius));

/** What draws on the battery from a minute on; less than nothing where a maintainer gives more than is drawn. */
export interface Draw {
  fromMinute: number;
  amps: number;
}

/** Net amps at a minute. */
const ampsAt = (draws: readonly Draw[], minute: number): number => draws.findLast((d) => d.fromMinute <= minute)?.amps ?? 0;

/** Ah gone at a minute, given back the losses of charging. */
function drawnAh(draws: readonly Draw[], minute: number): number {
  return draws.reduce((sum, { fromMinute, amps }, i) => {
    const until = min(minute, draws[i + 1]?.fromMinute ?? Infinity);
    return sum + (max(0, until - fromMinute) / 60) * (amps < 0 ? amps * chargeEfficiency : amps);
  }, 0);
}

/**
 * Volts at the posts, once the first minute under load is over: rested volts at the charge that is left, less the ohmic drop, less polarization (Tafel's
 * law in its symmetric form), less the knee where the charge that this load can get comes to its end (Shepherd, with Peukert's law for that charge).
 * @param minute since the draw began, from 0
 */
export function voltsUnder(battery: Battery, guess: Guess, draws: readonly Draw[], minute: number): number {
  const kind = kinds[battery.type];
  const rated = battery.capacityAh;
  const capacity = rated * agedCapacity(battery.ageYears) * guess.capacity * warmCapacity(battery.temperatureC);
  const amps = ampsAt(draws, minute);
  const gone = max(drawnAh(draws, minute), -(1 - guess.charge) * capacity);
  const rest = voltsAtRest(kind, guess.charge - gone / capacity);
  const ohmic = (agedResistance(battery.ageYears) * amps * kind.ohmAh) / rated;
  const polarized = kind.tafelVolts * asinh(amps / (slowShare * rated));
  const drop = guess.resistance * warmResistance(battery.temperatureC) * (ohmic + polarized);
  if (amps <= 0) return rest - drop;
  // What a load can get of a full battery falls with its current; of a part-charged one, the same share.
  const getable = max(1e-6, guess.charge * capacity * (rated / 20 / max(amps, rated / 20)) ** (kind.peukert - 1));
  const share = min((kneeShare * max(gone, 0)) / getable, 1 - 1e-6);
  return rest - drop - (kneeVolts * share) / (1 - share);
}
