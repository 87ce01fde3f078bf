import Joi from 'joi';
import { quantity } from '../base/parseForm';

const range = Joi.object({
  upToOhms: quantity({ unit: 'Ω', min: 1e-3, max: 1e9 }).required(),
  percent: quantity({ unit: '%', min: 0, max: 20 }).required(),
  digits: quantity({ unit: '', min: 0, max: 1000 }).required(),
  resolutionOhms: quantity({ unit: 'Ω', min: 1e-6, max: 1e6 }).required(),
});
/** How exact a meter is in each of its ranges; core checks that they rise. */
export const meterRanges = Joi.array().items(range).min(1).max(12).required();
