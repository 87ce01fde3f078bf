/** A reading as it goes through JSON, which has no infinity: ohms, or null for an overload. */
export type SentReading = number | null;

/** @returns ohms; `Infinity` for an overload */
export const received = (reading: SentReading): number => reading ?? Infinity;

/** @param ohms 0 or more; `Infinity` for an overload. NaN throws: it is no reading, and must not pass for an open circuit. */
export function sent(ohms: number): SentReading {
  if (Number.isNaN(ohms)) throw new Error('NaN is not a reading.');
  return ohms === Infinity ? null : ohms;
}
