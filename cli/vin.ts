import { checkVin, type VinCheck } from '../core/vin';

/** `vin check`: the checks of core/vin, with the problems as sentences. */
export function vinCheck(text: string): Omit<VinCheck, 'problems'> & { problems: string[] } {
  const { problems, ...rest } = checkVin(text, new Date().getFullYear());
  return { ...rest, problems: problems.map((p) => p.message) };
}
