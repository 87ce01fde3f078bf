import type { Battery } from './battery';
import { sentences } from './sentences';

/** What can be meant at all, for each figure of a battery: forms, files and fields ask within these. */
export const batteryLimits: Readonly<Record<Exclude<keyof Battery, 'type'>, { min: number; max: number; unit: string }>> = {
  capacityAh: { min: 4, max: 400, unit: sentences.ampHours },
  openCircuitVolts: { min: 8, max: 15, unit: 'V' },
  temperatureC: { min: -40, max: 60, unit: '°C' },
  ageYears: { min: 0, max: 30, unit: sentences.years },
  loadAmps: { min: 0, max: 200, unit: 'A' },
  limitVolts: { min: 8, max: 13, unit: 'V' },
};
