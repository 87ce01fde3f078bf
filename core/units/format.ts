/**
 * A duration as m:ss, or h:mm:ss from one hour on. Negative durations keep their sign. Seconds are rounded down, so a count of
 * elapsed time never runs ahead.
 * @param seconds finite number of seconds
 * @example formatDuration(560) // "9:20"
 */
export function formatDuration(seconds: number): string {
  const sign = seconds < 0 ? '-' : '';
  const total = Math.floor(Math.abs(seconds) + 1e-6);
  const h = Math.floor(total / 3600);
  const m = Math.floor((total % 3600) / 60);
  const s = String(total % 60).padStart(2, '0');
  return h > 0 ? `${sign}${h}:${String(m).padStart(2, '0')}:${s}` : `${sign}${m}:${s}`;
}

/**
 * Time left as m:ss, rounded up: "0:01" is shown until the time is really over, so nobody acts early.
 * @param ms milliseconds left; negative counts as none
 */
export function formatLeft(ms: number): string {
  return formatDuration(Math.max(0, Math.ceil(ms / 1000 - 1e-6)));
}

/** A quantity with its unit; seconds of 60 and more as m:ss. @example formatQuantity(12.4, 'V') // "12.4 V" */
export function formatQuantity(value: number, unit: string): string {
  if (unit === 's') return value >= 60 ? formatDuration(value) : `${trimmed(value)} s`;
  return unit === '' ? trimmed(value) : `${trimmed(value)} ${unit}`;
}

/** Up to two decimals, without trailing zeros. */
function trimmed(value: number): string {
  return String(Math.round(value * 100) / 100);
}

/** A chance, 0 to 1, in whole percents; what is not certain is never 0 or 100. @example formatChance(0.996) // "over 99 %" */
export function formatChance(p: number): string {
  if (p > 0.99 && p < 1) return 'over 99 %';
  return p < 0.01 && p > 0 ? 'under 1 %' : `${Math.round(p * 100)} %`;
}
