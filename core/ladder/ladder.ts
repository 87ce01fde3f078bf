import type { Checked } from '../library';

/** One step of a ladder, ohms: the immobilizer takes a value from `low` to `high`, ends included, for this step. */
export interface LadderStep {
  step: number;
  nominal: number;
  low: number;
  high: number;
}

/** The steps that an immobilizer tells apart, lowest first. Between two windows may be a gap: a value there is none. */
export interface Ladder {
  kind: 'ladder';
  id: string;
  version: number;
  title: string;
  /** Where the numbers come from. */
  source: string;
  checked: Checked;
  /** Pellets in a key: two are read one after the other, with the key turned over. */
  pellets: 1 | 2;
  /** What good contacts and wires add at most, ohms. */
  contactOhms?: number;
  /** How the resistor chip changes with temperature, ppm/K, from 20 °C. */
  ppmPerKelvin?: number;
  steps: LadderStep[];
}

/** A ladder as far as a reading is compared with it. */
export type Steps = Pick<Ladder, 'steps' | 'ppmPerKelvin' | 'contactOhms'>;

/** Outside of these nothing is a step that has drifted: a tenth of the lowest window, ten times the highest; ours. */
export function reach({ steps }: Pick<Ladder, 'steps'>): { shortBelow: number; openAbove: number } {
  return { shortBelow: steps[0]!.low / 10, openAbove: steps.at(-1)!.high * 10 };
}

/** The step whose window a resistance lies in, ends included. */
export const stepOf = ({ steps }: Pick<Ladder, 'steps'>, ohms: number): LadderStep | undefined => steps.find((s) => ohms >= s.low && ohms <= s.high);
