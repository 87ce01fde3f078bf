import { generator } from '../units';
import { breakingOpen, jumping, keyPrior, openDecades, openShowsNumber, slip, stepSpread } from './classify';
import { reach, type Steps, stepOf } from './ladder';
import { assumedFreedom, type Conditions, expectedScatter, systematic } from './uncertainty';

const { exp, log, sqrt, cos, PI } = Math;

export type Truth = 'step' | 'between' | 'open' | 'short' | 'unstable';
export interface SimulatedKey {
  truth: Truth;
  step: number | null;
  ohms: number;
  readings: number[];
}

/** Keys and their readings as core/ladder supposes them, drawn anew from the stated prior and never from the code under test. */
export class KeyMaker {
  readonly #draw: () => number;
  constructor(
    seed: number,
    readonly ladder: Steps,
    readonly conditions: Conditions,
  ) {
    this.#draw = generator(seed);
  }
  even = (from = 0, to = 1): number => from + (to - from) * this.#draw();
  normal = (): number => sqrt(-2 * log(1 - this.#draw())) * cos(2 * PI * this.#draw());
  /** Scaled inverse χ²: freedom × scale² over a sum of squares of normal draws. */
  spread(scale: number, degreesOfFreedom: number): number {
    let sum = 0;
    for (let i = 0; i < degreesOfFreedom; i += 1) sum += this.normal() ** 2;
    return scale * sqrt(degreesOfFreedom / sum);
  }

  key(n: number): SimulatedKey {
    const { shortBelow, openAbove } = reach(this.ladder);
    const kind = this.even();
    const { step, worn, open, short } = keyPrior;
    if (kind < step + worn) return this.steady(kind < step ? this.held() : this.worn(), n);
    if (kind < step + worn + open) {
      const ohms = openAbove * 10 ** (openDecades * this.even());
      const readings = this.steady(ohms, n).readings.map((r) => (this.even() < openShowsNumber ? r : Infinity));
      return { truth: 'open', step: null, ohms, readings };
    }
    if (kind < step + worn + open + short) return { ...this.steady(this.even(0, shortBelow), n), truth: 'short', step: null };
    if (kind < step + worn + open + short + keyPrior.breaking) {
      const sound = this.steady(this.even() < step / (step + worn) ? this.held() : this.worn(), n, 0);
      return { ...sound, truth: 'unstable', step: null, readings: sound.readings.map((r) => (this.even() < breakingOpen ? Infinity : r)) };
    }
    const ohms = this.worn();
    const sigma = this.spread(jumping.scatter * ohms, jumping.degreesOfFreedom);
    const readings = Array.from({ length: n }, () => (this.even() < jumping.open ? Infinity : ohms + sigma * this.normal()));
    return { truth: 'unstable', step: null, ohms, readings: readings.map((r) => this.shown(r)) };
  }

  /** The resistor of a step. */
  held(): number {
    const s = this.ladder.steps[Math.floor(this.even() * this.ladder.steps.length)]!;
    return s.nominal + stepSpread(s) * this.normal();
  }

  worn(): number {
    const { shortBelow, openAbove } = reach(this.ladder);
    return shortBelow * exp(this.even() * log(openAbove / shortBelow));
  }

  /** A key of a resistance, read n times by a sound contact. */
  steady(ohms: number, n: number, slips = slip): SimulatedKey {
    const { half, other } = systematic(ohms, this.conditions, this.ladder);
    const centre = ohms + this.even(-half, half) + other * this.normal();
    const sigma = this.spread(expectedScatter(ohms, this.conditions.meter), assumedFreedom);
    const readings = Array.from({ length: n }, () => (this.even() < slips ? Infinity : centre + sigma * this.normal()));
    const step = stepOf(this.ladder, ohms)?.step ?? null;
    return { truth: step === null ? 'between' : 'step', step, ohms, readings: readings.map((r) => this.shown(r)) };
  }

  /** What the display shows: leads on top; no value below zero. */
  shown(ohms: number): number {
    return Number.isFinite(ohms) ? Math.max(0, ohms + (this.conditions.leadOhms ?? 0)) : Infinity;
  }
}
