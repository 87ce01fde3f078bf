import { type Quantity, readQuantity, type ShopUnits } from '../../../core/units';
import { type ReadingGroup, type SentReading, received } from '../../../core/ladder';

/** Side and orientation of a pellet: as it goes in, or turned over. */
export const places = ['1in', '1turned', '2in', '2turned'] as const;
export type Place = (typeof places)[number];
export const sideOf = (place: Place): 1 | 2 => (place.startsWith('1') ? 1 : 2);
export const isTurned = (place: Place): boolean => place.endsWith('turned');

/** What stands on the worksheet of a resistor key, as it was typed; kept in this tab until it is in a case. */
export interface Sheet {
  lead: string;
  temperature: string;
  groups: Record<Place, SentReading[]>;
  column: SentReading[];
  /** The step that the vehicle is known to have, as typed, and where that is known from. */
  vehicleStep: string;
  stepSource: string;
  /** The simulated meter gave some of it. */
  simulated: boolean;
}

export const emptySheet: Sheet = {
  lead: '',
  temperature: '',
  groups: { '1in': [], '1turned': [], '2in': [], '2turned': [] },
  column: [],
  vehicleStep: '',
  stepSource: '',
  simulated: false,
};

const isReadings = (list: unknown): list is SentReading[] =>
  Array.isArray(list) && list.length <= 1000 && list.every((r) => r === null || (typeof r === 'number' && r >= 0));

/** Something was read or typed on the sheet. */
export const isRead = (sheet: Sheet): boolean => sheet.column.length > 0 || places.some((p) => sheet.groups[p].length > 0);

/**
 * Why the next reading can't stand on this sheet: those of the simulated meter and those of a vehicle are never together. Empty: it can.
 * @param simulated whether it comes from the simulated meter
 */
export function notTogether(sheet: Sheet, simulated: boolean): string {
  if (!isRead(sheet) || sheet.simulated === simulated) return '';
  return simulated
    ? 'This tab already has readings of a real key. They can’t be mixed with simulated ones: clear them first, or choose your meter.'
    : 'This tab has simulated readings. They can’t be mixed with those of a real key: clear them first.';
}

/** A sheet that this tab kept, if it still makes sense. */
export function readKeptSheet(kept: unknown): Sheet | undefined {
  const s = kept as Sheet;
  if (typeof s !== 'object' || typeof s.groups !== 'object' || s.groups === null) return undefined;
  const texts = [s.lead, s.temperature, s.vehicleStep, s.stepSource];
  if (!texts.every((t) => typeof t === 'string' && t.length <= 200) || !isReadings(s.column)) return undefined;
  return places.every((p) => isReadings(s.groups[p])) && typeof s.simulated === 'boolean' ? s : undefined;
}

/** What was read while the column was moved: seconds from the beginning with ohms, and with what was moved. */
export interface Captured {
  samples: [number, SentReading][];
  marks: [number, string][];
  /** The simulated meter gave it. */
  simulated: boolean;
}
export const nothingCaptured: Captured = { samples: [], marks: [], simulated: false };

/** A capture that this tab kept, if it still makes sense. */
export function readKeptCapture(kept: unknown): Captured | undefined {
  const c = kept as Captured;
  if (typeof c !== 'object' || !Array.isArray(c.samples) || !Array.isArray(c.marks) || c.samples.length > 2000 || c.marks.length > 100)
    return undefined;
  const isSeconds = (s: unknown) => typeof s === 'number' && s >= 0;
  const samples = c.samples.every((s) => Array.isArray(s) && isSeconds(s[0]) && isReadings([s[1]]));
  return samples && c.marks.every((m) => Array.isArray(m) && isSeconds(m[0]) && typeof m[1] === 'string')
    ? { ...c, simulated: c.simulated === true }
    : undefined;
}

/** The readings of the key alone, by side and orientation. */
export const groupsOf = (sheet: Sheet): ReadingGroup[] =>
  places.filter((p) => sheet.groups[p].length > 0).map((p) => ({ side: sideOf(p), turned: isTurned(p), readings: sheet.groups[p].map(received) }));

export const leadQuantity: Quantity = { unit: 'Ω', min: 0, max: 1000 };
/** From -60 to 150 °C. */
export const temperatureQuantity = (unit: ShopUnits['temperature']): Quantity =>
  unit === '°F' ? { unit, min: -76, max: 302 } : { unit, min: -60, max: 150 };

/** A number that was typed, in its range; null: nothing is typed; undefined: it can't be used. */
export function typedNumber(text: string, to: Quantity): number | null | undefined {
  if (text.trim() === '') return null;
  const read = readQuantity(text, to);
  return read.ok ? read.value : undefined;
}

/** `6`, or `4 5` where a key has two pellets. */
export const typedSteps = (text: string): number[] =>
  text
    .split(/[\s,;+/]+/)
    .filter((t) => /^\d{1,4}$/.test(t))
    .map(Number);
