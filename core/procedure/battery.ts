import { batteryLimits, type BatteryType, batteryTypes } from '../reserve';
import { formatQuantity } from '../units';
import { sentences } from './sentences';

/** What is known of a vehicle's battery and of what draws on it during a run. */
export interface BatteryFacts {
  type: BatteryType;
  capacityAh: number;
  ageYears: number;
  temperatureC: number;
  loadAmps: number;
  /** What a maintainer gives; 0: none is connected. */
  supplyAmps: number;
}

/** What can be meant at all. */
export const factLimits: Readonly<Record<Exclude<keyof BatteryFacts, 'type'>, { min: number; max: number; unit: string }>> = {
  capacityAh: batteryLimits.capacityAh,
  ageYears: batteryLimits.ageYears,
  temperatureC: batteryLimits.temperatureC,
  loadAmps: batteryLimits.loadAmps,
  supplyAmps: { min: 0, max: 200, unit: 'A' },
};

/** A battery of which nothing is known but its voltage: typical, and marked so. */
export const typicalFacts: BatteryFacts = { type: 'flooded', capacityAh: 60, ageYears: 4, temperatureC: 20, loadAmps: 8, supplyAmps: 0 };

/** What is wrong with facts from outside, in a sentence; undefined when nothing is. */
export function factsProblem(facts: BatteryFacts): string | undefined {
  if (!batteryTypes.includes(facts.type)) return sentences.unknownBattery(String(facts.type), batteryTypes.join(', '));
  for (const [name, { min, max, unit }] of Object.entries(factLimits)) {
    const value = facts[name as keyof typeof factLimits];
    if (!(value >= min && value <= max))
      return sentences.valueImpossible(formatQuantity(value, unit), formatQuantity(min, unit), formatQuantity(max, unit));
  }
  return undefined;
}

/** The facts in one line, for a report. */
export function factsWords({ type, capacityAh, ageYears, temperatureC, loadAmps, supplyAmps }: BatteryFacts): string {
  const said = sentences.facts(sentences[type], capacityAh, ageYears, temperatureC, loadAmps);
  return supplyAmps > 0 ? sentences.maintained(said, supplyAmps) : said;
}
