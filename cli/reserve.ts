import { mostMinutes, predict, type Predicted } from '../core/reserve';
import { parseBattery } from '../core/reserve/schema';
import { CannotUse } from './fail';
import { readJson } from './readJson';

export interface ReserveOptions {
  minutes: string;
}

/** `reserve predict`: the voltage under load after some minutes, and how long it stays above the limit. With `readings` in the file, from the last of them on. */
export function reservePredict(file: string, options: ReserveOptions): Predicted {
  const minutes = options.minutes.trim() === '' ? NaN : Number(options.minutes);
  if (!(minutes >= 0 && minutes <= mostMinutes)) throw new CannotUse(`--minutes ${options.minutes}: write a number from 0 to ${mostMinutes}.`);
  const parsed = parseBattery(
    readJson(file, '{"type":"flooded","capacityAh":60,"openCircuitVolts":12.5,"temperatureC":20,"ageYears":3,"loadAmps":6,"limitVolts":12.0}'),
  );
  if (!parsed.ok) {
    const { path, message } = parsed.problems[0]!;
    throw new CannotUse(`${file}: ${path}: ${message}`);
  }
  const { readings = [], ...battery } = parsed.value;
  return predict(battery, { minutes, from: Math.max(0, ...readings.map((r) => r.minutes)), readings });
}
