import type { Problem } from '../units';
import type { Family, Feature, Profile } from './documents';
import type { ParamValue } from './expression';
import { lintSentences } from './lintSentences';

/** What makes a profile unusable with its family: numbers it doesn't have, words for numbers, choices and things seen that don't exist. */
export function checkProfile(profile: Profile, family: Family, features: readonly Feature[]): Problem[] {
  const seen = Object.entries(profile.seen ?? {}).flatMap(([name, value]): Problem[] => {
    const feature = features.find((f) => f.id === name);
    const unknown = (path: string, what: string, found: string, allowed: string[]) => [
      { code: 'unknownName', path, message: lintSentences.unknownInProfile(what, found, allowed.join(', ')) },
    ];
    if (!feature)
      return unknown(
        `seen.${name}`,
        lintSentences.feature,
        name,
        features.map((f) => f.id),
      );
    return Object.hasOwn(feature.values, value) ? [] : unknown(`seen.${name}`, lintSentences.value, value, Object.keys(feature.values));
  });
  const ladder: Problem[] =
    profile.ladder === undefined || usesLadder(family) ? [] : [{ code: 'noLadder', path: 'ladder', message: lintSentences.noLadder(family.id) }];
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
    return [{ code: 'unknownName', path, message: lintSentences.unknownParameter(family.id, name, known) }];
  }
  if ('oneOf' in param)
    return param.oneOf.includes(String(value))
      ? []
      : [
          {
            code: 'unknownName',
            path: `${path}.value`,
            message: lintSentences.notOneOf(JSON.stringify(value), param.oneOf.join(', ')),
          },
        ];
  if (typeof value !== 'number')
    return [{ code: 'type', path: `${path}.value`, message: lintSentences.notANumber(JSON.stringify(value), param.unit || 'counts') }];
  // A count of parts, a time or a voltage below zero is a slip of the hand, whatever the vehicle.
  if (value < 0) return [{ code: 'negative', path: `${path}.value`, message: lintSentences.negative(value) }];
  return [];
}

/** Whether a number is outside the usual range: no error, since vehicles differ, but worth a second look. */
export function isUnusual(family: Family, name: string, value: ParamValue): boolean {
  const param = family.params[name];
  return param !== undefined && 'min' in param && typeof value === 'number' && (value < param.min || value > param.max);
}
