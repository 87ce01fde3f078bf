import type { Family, Profile } from './documents';
import { formatParams, resolveParams } from './params';

/** One number in two profiles of a family, in words. */
export interface ComparedParam {
  name: string;
  label: string;
  sides: [ComparedSide, ComparedSide];
  /** Another value; the same value from another source does not count. */
  differs: boolean;
}
export interface ComparedSide {
  value: string;
  status: 'verified' | 'typical';
  source: string;
}

/** Two profiles, or two versions of one, number by number in the family's order. Numbers that the family no longer has are not shown. */
export function compareProfiles(family: Family, one: Profile, other: Profile): ComparedParam[] {
  const sides = [one, other].map((p) => formatParams(resolveParams(family, p), Object.keys(family.params)));
  return sides[0]!.map((a, i) => {
    const b = sides[1]![i]!;
    const side = ({ value, status, source }: typeof a): ComparedSide => ({ value, status, source });
    return { name: a.name, label: a.label, sides: [side(a), side(b)], differs: a.value !== b.value };
  });
}
