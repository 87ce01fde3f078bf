import type { BatteryFacts } from '../../core/procedure';
import { factLimits } from '../../core/procedure';
import { batteryLimits } from '../../core/reserve';
import { fromShopTemperature, type Quantity, readQuantity, type ShopUnits, toShopTemperature } from '../../core/units';

/** What stands in the fields, as it was typed. */
export type Typed<K extends string> = Record<K, string>;

export const typeWords: Readonly<Record<BatteryFacts['type'], string>> = { flooded: 'Flooded', agm: 'AGM' };

/** Of what each field is a number, in the shop's units; the names are those of the figures. */
export function quantities(units: ShopUnits) {
  const { min, max } = factLimits.temperatureC;
  return {
    capacityAh: factLimits.capacityAh,
    ageYears: factLimits.ageYears,
    temperatureC: { unit: units.temperature, min: toShopTemperature(min, units.temperature), max: toShopTemperature(max, units.temperature) },
    loadAmps: factLimits.loadAmps,
    supplyAmps: factLimits.supplyAmps,
    openCircuitVolts: batteryLimits.openCircuitVolts,
    limitVolts: batteryLimits.limitVolts,
    minutes: { unit: 'min', min: 1, max: 1440 },
  } satisfies Record<string, Quantity>;
}
export type FieldName = keyof ReturnType<typeof quantities>;

export const labels: Readonly<Record<FieldName, string>> = {
  capacityAh: 'Capacity, Ah',
  ageYears: 'Age, years',
  temperatureC: 'Temperature of the battery',
  loadAmps: 'Load with the ignition on, A',
  supplyAmps: 'Maintainer connected, A',
  openCircuitVolts: 'Rested, V',
  limitVolts: 'Must stay above, V',
  minutes: 'For how long',
};
export const helps: Partial<Record<FieldName, string>> = {
  capacityAh: 'On the label: 20-hour rating',
  loadAmps: 'Clamp meter, or 8 A with every load off',
  supplyAmps: '0: none is connected',
  openCircuitVolts: 'At the posts, everything off, rested',
};

/** What the fields say, in core's units; the problem of each that can't be used. */
export function readFields<K extends FieldName>(
  typed: Typed<K>,
  units: ShopUnits,
): { values: Record<K, number>; problems: Partial<Record<K, string>> } {
  const to = quantities(units);
  const problems: Partial<Record<K, string>> = {};
  const values = {} as Record<K, number>;
  for (const name of Object.keys(typed) as K[]) {
    const read = readQuantity(typed[name], to[name]);
    if (!read.ok) problems[name] = read.problems[0]!.message;
    else values[name] = name === 'temperatureC' ? fromShopTemperature(read.value, units.temperature) : read.value;
  }
  return { values, problems };
}

/** Facts as they stand in the fields. */
export const typedFacts = ({ type: _type, temperatureC, ...facts }: BatteryFacts, units: ShopUnits): Typed<keyof typeof factLimits> => ({
  capacityAh: String(facts.capacityAh),
  ageYears: String(facts.ageYears),
  temperatureC: String(toShopTemperature(temperatureC, units.temperature)),
  loadAmps: String(facts.loadAmps),
  supplyAmps: String(facts.supplyAmps),
});
