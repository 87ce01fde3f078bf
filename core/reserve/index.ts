export { type Battery, type BatteryType, batteryTypes } from './battery';
export type { Draw } from './discharge';
export { batteryLimits } from './limits';
export { type Asked, course, mostMinutes, predict, type Predicted, type Reading, type Verdict, verdicts } from './predict';
export { minutesWords, reserveVerdict } from './verdict';
