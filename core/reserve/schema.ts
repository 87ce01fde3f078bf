import Joi from 'joi';
import { parseWith } from '../library/parseWith';
import type { Result } from '../units';
import { type Battery, batteryTypes } from './battery';
import { batteryLimits } from './limits';
import type { Reading } from './predict';

const within = ({ min, max }: { min: number; max: number }) => Joi.number().strict().min(min).max(max);

/** A battery file (docs/formats.md): the battery, and what was measured under load since. */
export interface BatteryFile extends Battery {
  readings?: Reading[];
}

const schema = Joi.object({
  type: Joi.valid(...batteryTypes).required(),
  ...Object.fromEntries(Object.entries(batteryLimits).map(([name, limits]) => [name, within(limits).required()])),
  readings: Joi.array()
    .items(Joi.object({ minutes: within({ min: 0, max: 1440 }).required(), volts: within({ min: 6, max: 16 }).required() }))
    .max(100),
});

export const parseBattery = (data: unknown): Result<BatteryFile> => parseWith<BatteryFile>(schema, data);
