import type { Problem } from '../units';
import type { Family, Feature, Profile } from './documents';
import type { ParamValue } from './expression';

/** What makes a profile unusable with its family: numbers it doesn't have, words for numbers, choices and things seen that don't exist. */
export function checkProfile(profile: Profile, family: Family, features: readonly Feature[]): Problem[] {
  const seen = Object.entries(profile.seen ?? {}).flatMap(([name, value]): Problem[] => {
    const feature = features.find((f) => f.id === name);
    const unknown = (path: string, what: string, found: string, allowed: string[]) => [
      { code: 'unknownName', path, message: `${what} "${found}" does not exist. Use one of: ${allowed.join(', ')}.` },
    ];
    if (!feature)
      return unknown(
        `seen.${name}`,
        'Feature',
        name,
        features.map((f) => f.id),
      );
    return Object.hasOwn(feature.values, value) ? [] : unknown(`seen.${name}`, 'Value', value, Object.keys(feature.values));
  });
  const ladder: Problem[] =
    profile.ladder === undefined || usesLadder(family)
      ? []
      : [{ code: 'noLadder', path: 'ladder', message: `System type "${family.id}" has no resistor keys. Remove the value chart.` }];
  return [
    ...Object.entries(profile.values).flatMap(([name, { value }]) => checkParamValue(family, name, value, `values.${name}`)),
    ...seen,
    ...ladder,
  ];
}

/** Whether keys of the family are compared with a ladder, so that its profiles may name one. */
export const usesLadder = ({ tests }: Pick<Family, 'tests'>): boolean => tests.some((t) => t.instrument?.kind === 'pellet');

/** One number or choice of a family, as it would be worked with. */
export function checkParamValue(family: Family, name: string, value: ParamValue, path: string): Problem[] {
  const param = Object.hasOwn(family.params, name) ? family.params[name] : undefined;
  if (!param) {
    const known = Object.keys(family.params).join(', ');
    return [{ code: 'unknownName', path, message: `System type "${family.id}" has no parameter "${name}". Use one of: ${known}.` }];
  }
  if ('oneOf' in param)
    return param.oneOf.includes(String(value))
      ? []
      : [{ code: 'unknownName', path: `${path}.value`, message: `Found ${JSON.stringify(value)}. Use one of: ${param.oneOf.join(', ')}.` }];
  if (typeof value !== 'number')
    return [{ code: 'type', path: `${path}.value`, message: `Found ${JSON.stringify(value)}. Use a number in ${param.unit || 'counts'}.` }];
  // A count of parts, a time or a voltage below zero is a slip of the hand, whatever the vehicle.
  if (value < 0) return [{ code: 'negative', path: `${path}.value`, message: `Found ${value}. Use 0 or more.` }];
  return [];
}

/** Whether a number is outside the usual range: no error, since vehicles differ, but worth a second look. */
export function isUnusual(family: Family, name: string, value: ParamValue): boolean {
  const param = family.params[name];
  return param !== undefined && 'min' in param && typeof value === 'number' && (value < param.min || value > param.max);
}
