import { list, needed, quantity, shape } from '../base/field';

const range = shape({
  upToOhms: needed(quantity({ unit: 'Ω', min: 1e-3, max: 1e9 })),
  percent: needed(quantity({ unit: '%', min: 0, max: 20 })),
  digits: needed(quantity({ unit: '', min: 0, max: 1000 })),
  resolutionOhms: needed(quantity({ unit: 'Ω', min: 1e-6, max: 1e6 })),
});
/** How exact a meter is in each of its ranges; core checks that they rise. */
export const meterRanges = needed(list(range).min(1).max(12));
