/**
 * A resistance in four digits at most.
 * @param ohms finite, 0 or more
 * @example formatOhms(1385.2) // "1.385 kΩ"
 */
export function formatOhms(ohms: number): string {
  const [scale, unit] = unitOf(ohms);
  return `${Number((ohms / scale).toPrecision(4))} ${unit}`;
}

const unitOf = (ohms: number): [number, string] => (ohms >= 999_950 ? [1e6, 'MΩ'] : ohms >= 999.95 ? [1e3, 'kΩ'] : [1, 'Ω']);

/**
 * A value and its uncertainty in one unit, with the two digits of the uncertainty that the GUM (7.2.6) advises.
 * @param uncertainty standard or expanded uncertainty, ohms, above 0
 * @example formatUncertain(1385.2, 14.8) // "1.385 kΩ ± 0.015"
 */
export function formatUncertain(ohms: number, uncertainty: number): string {
  const [scale, unit] = unitOf(ohms);
  const decimals = uncertainty > 0 ? Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(uncertainty / scale)))) : 3;
  return `${(ohms / scale).toFixed(decimals)} ${unit} ± ${(uncertainty / scale).toFixed(decimals)}`;
}
