import { type Battery, chargeAtRest, kinds } from './battery';
import { type Draw, type Guess, voltsUnder } from './discharge';

const { ceil, exp, max } = Math;

export const verdicts = ['go', 'goWithSupply', 'dont'] as const;
export type Verdict = (typeof verdicts)[number];

/** Volts measured at the posts while the load is on. */
export interface Reading {
  /** Since the draw began. */
  minutes: number;
  volts: number;
}

export interface Asked {
  /** How long the battery must hold, from `from` on. */
  minutes: number;
  /** Minutes since the draw began; 0 if left out. */
  from?: number;
  /** Measured since; the prediction is fitted to them. */
  readings?: readonly Reading[];
  /** Where the draw was not the same all the time: in order, the first from minute 0. The battery's `loadAmps` if left out. */
  draws?: readonly Draw[];
}

export interface Predicted {
  /** Now, under load. */
  startVolts: number;
  /** After the minutes asked for: the middle, and what nine of ten such batteries lie between. */
  endVolts: number;
  endVoltsLow: number;
  endVoltsHigh: number;
  /** From now until the limit, at most `mostMinutes`: the middle, and the minutes that nineteen of twenty batteries last. */
  minutesAboveLimit: number;
  minutesSure: number;
  verdict: Verdict;
  /** What a maintainer must give so that the limit is held; 0: none is needed. */
  supplyAmps: number;
  /** Charge that the rested voltage tells, 0 to 1. */
  charge: number;
  /** The rested voltage is above that of a full battery: it was charged or driven a short time ago. */
  surfaceCharge: boolean;
}

/** A day: whoever lasts that long is not limited by the battery. */
export const mostMinutes = 1440;
/** Below this charge a battery is nearly flat: 12.1 V of a flooded one. */
const flatCharge = 0.35;
/** Rested volts above those of a full battery that are no longer a meter's error. */
const surfaceVolts = 0.1;
/** Standard uncertainty of one reading: the meter, its points on the posts, and the model itself. */
const readingVolts = 0.05;
/**
 * A reading that none of the guesses explains (a load switched on, a wrong place) turns nothing. It is kept small: one low reading that a weak battery
 * explains is believed.
 */
const strayShare = 1e-4;

interface Weighed {
  guess: Guess;
  weight: number;
}

/** Standard deviations from the middle at which each of the three is tried. */
const steps = [-2.1, -1.4, -0.7, 0, 0.7, 1.4, 2.1];
/** A battery sags far more than usual more often than it sags far less: worn plates, a bad connection at the posts. */
const dropSteps = [...steps, 2.8, 3.5, 4.2, 4.9];

/** Everything the battery may be, with weights that sum to 1: charge within the meter's error, resistance and capacity wider with age. */
function guesses(battery: Battery): Weighed[] {
  const middle = chargeAtRest(kinds[battery.type], battery.openCircuitVolts);
  const spread = { charge: 0.06, resistance: 0.25, capacity: 0.06 + 0.02 * Math.min(battery.ageYears, 10) };
  const all = steps.flatMap((c) =>
    dropSteps.flatMap((r) =>
      steps.map((k) => ({
        guess: {
          charge: Math.min(1, max(0.02, middle + c * spread.charge)),
          resistance: exp(r * spread.resistance),
          capacity: max(0.2, 1 + k * spread.capacity),
        },
        weight: exp(-(c * c + r * r + k * k) / 2),
      })),
    ),
  );
  return normal(all);
}

function normal(all: Weighed[]): Weighed[] {
  const sum = all.reduce((s, g) => s + g.weight, 0);
  return all.map(({ guess, weight }) => ({ guess, weight: weight / sum }));
}

/** The same guesses, weighed by what was measured (Bayes' rule, normal errors, a few stray readings). */
function fitted(all: Weighed[], battery: Battery, draws: readonly Draw[], readings: readonly Reading[]): Weighed[] {
  return readings.reduce(
    (now, { minutes, volts }) =>
      normal(
        now.map(({ guess, weight }) => {
          const z = (volts - voltsUnder(battery, guess, draws, minutes)) / readingVolts;
          return { guess, weight: weight * ((1 - strayShare) * exp((-z * z) / 2) + strayShare) };
        }),
      ),
    all,
  );
}

/** The p-quantile of weighed values. */
function quantile(values: readonly { value: number; weight: number }[], p: number): number {
  let sum = 0;
  const sorted = values.toSorted((a, b) => a.value - b.value);
  return (sorted.find((v) => (sum += v.weight) >= p - 1e-12) ?? sorted.at(-1)!).value;
}

/** Minutes from `from` until a battery reaches the limit, by halving: its voltage only falls while the draw stays. */
export function minutesLeft(battery: Battery, guess: Guess, draws: readonly Draw[], from: number): number {
  const above = (minutes: number) => voltsUnder(battery, guess, draws, from + minutes) >= battery.limitVolts;
  if (!above(0)) return 0;
  if (above(mostMinutes)) return mostMinutes;
  let [low, high] = [0, mostMinutes];
  while (high - low > 0.05) {
    const middle = (low + high) / 2;
    if (above(middle)) low = middle;
    else high = middle;
  }
  return low;
}

/**
 * How long a battery holds its load above a limit, as a band over all that it may be. The model and where its figures are from: docs/reserve.md.
 * @throws RangeError when minutes are below 0 or no number
 * @example predict({ type: 'agm', capacityAh: 70, openCircuitVolts: 12.8, temperatureC: 20, ageYears: 2, loadAmps: 8, limitVolts: 12 }, { minutes: 40 }).verdict // "go"
 */
export function predict(
  battery: Battery,
  { minutes, from = 0, readings = [], draws = [{ fromMinute: 0, amps: battery.loadAmps }] }: Asked,
): Predicted {
  if (!(minutes >= 0) || !(from >= 0)) throw new RangeError('Minutes must be numbers from 0.');
  const all = fitted(guesses(battery), battery, draws, readings);
  const over = (f: (guess: Guess) => number) => all.map(({ guess, weight }) => ({ value: f(guess), weight }));
  const start = over((g) => voltsUnder(battery, g, draws, from));
  const end = over((g) => voltsUnder(battery, g, draws, from + minutes));
  const left = over((g) => minutesLeft(battery, g, draws, from));
  const kind = kinds[battery.type];
  const charge = chargeAtRest(kind, battery.openCircuitVolts);
  const endVoltsLow = quantile(end, 0.05);
  const holds = endVoltsLow >= battery.limitVolts && quantile(start, 0.05) >= battery.limitVolts;
  return {
    startVolts: quantile(start, 0.5),
    endVolts: quantile(end, 0.5),
    endVoltsLow,
    endVoltsHigh: quantile(end, 0.95),
    minutesAboveLimit: quantile(left, 0.5),
    minutesSure: quantile(left, 0.05),
    verdict: holds ? 'go' : charge < flatCharge ? 'dont' : 'goWithSupply',
    supplyAmps: holds ? 0 : supplyFor(all, battery, draws, from, minutes),
    charge,
    surfaceCharge: battery.openCircuitVolts > kind.rested.at(-1)![1] + surfaceVolts,
  };
}

/**
 * The least whole amps with which nineteen of twenty batteries hold the limit; at most what is drawn and a tenth of the capacity on top, which a
 * battery in want takes by itself.
 */
function supplyFor(all: readonly Weighed[], battery: Battery, draws: readonly Draw[], from: number, minutes: number): number {
  const drawn = draws.findLast((d) => d.fromMinute <= from)?.amps ?? 0;
  const most = max(1, ceil(drawn + battery.capacityAh / 10));
  const enough = (amps: number) => {
    const supplied = [...draws.filter((d) => d.fromMinute < from), { fromMinute: from, amps: drawn - amps }];
    return [from, from + minutes].every(
      (at) =>
        quantile(
          all.map(({ guess, weight }) => ({ value: voltsUnder(battery, guess, supplied, at), weight })),
          0.05,
        ) >= battery.limitVolts,
    );
  };
  for (let amps = 1; amps < most; amps += 1) if (enough(amps)) return amps;
  return most;
}

/** The course to draw: volts of the middle and of the band, at evenly spaced minutes from `from`. */
export function course(battery: Battery, asked: Asked, points = 25): { minute: number; low: number; middle: number; high: number }[] {
  const { minutes, from = 0, readings = [], draws = [{ fromMinute: 0, amps: battery.loadAmps }] } = asked;
  const all = fitted(guesses(battery), battery, draws, readings);
  return Array.from({ length: points }, (_, i) => {
    const minute = (i * minutes) / (points - 1);
    const values = all.map(({ guess, weight }) => ({ value: voltsUnder(battery, guess, draws, from + minute), weight }));
    return { minute, low: quantile(values, 0.05), middle: quantile(values, 0.5), high: quantile(values, 0.95) };
  });
}
