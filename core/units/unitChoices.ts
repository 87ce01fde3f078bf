import type { ShopUnits } from './shopUnits';

/** What can be chosen, with the words of the choice. */
export const shopUnitChoices = {
  distance: { mi: 'Miles', km: 'Kilometers' },
  temperature: { '°F': '°F', '°C': '°C' },
  clock: { '12': '12 hours (2:05 PM)', '24': '24 hours (14:05)' },
  dates: { mdy: 'Month, day, year', dmy: 'Day, month, year', ymd: 'Year, month, day' },
} as const satisfies { [K in keyof ShopUnits]: Record<ShopUnits[K], string> };
