import { formatDuration, formatQuantity } from '../units';
import type { Family, Param, Profile } from './documents';
import type { ParamValue, ParamValues } from './expression';
import { type Effect, gates } from './gates';
import { sentences } from './sentences';

/** A parameter as a case uses it: its value, and whether anyone looked it up for this vehicle. */
export interface ResolvedParam {
  name: string;
  label: string;
  unit: string;
  value: ParamValue;
  status: 'verified' | 'typical';
  /** Where the number comes from, in words. */
  source: string;
  /** Usual range in words, such as "7:00 to 15:00" or "4 to 6 V". */
  usual: string;
  /** The values of a choice; runs of before it was kept have none. */
  oneOf?: string[];
}

/** A parameter's value in words: a number with its unit, a choice such as `fuelAndStarter` as "fuel and starter". */
export function paramWords(value: ParamValue, unit: string): string {
  if (typeof value === 'number') return formatQuantity(value, unit);
  return value.replace(/([a-z0-9])([A-Z])/g, (_pair, before: string, after: string) => `${before} ${after.toLowerCase()}`);
}

export function usualRange(param: Param): string {
  return 'oneOf' in param
    ? param.oneOf.map((o) => paramWords(o, '')).join(' or ')
    : param.unit === 's' && param.max >= 60
      ? sentences.fromTo(formatDuration(param.min), formatDuration(param.max), '')
      : sentences.fromTo(param.min, param.max, param.unit ? ` ${param.unit}` : '');
}

/** The family's parameters with the profile's numbers laid over them. Without a profile everything is typical. */
export function resolveParams(family: Family, profile?: Profile): Record<string, ResolvedParam> {
  const resolved: Record<string, ResolvedParam> = {};
  for (const [name, param] of Object.entries(family.params)) {
    const known = profile?.values[name];
    resolved[name] = {
      name,
      label: param.label,
      unit: 'oneOf' in param ? '' : param.unit,
      value: known?.value ?? param.default,
      status: known ? 'verified' : 'typical',
      source: known ? `${known.source} (${known.by})` : sentences.typicalSource(family.source),
      usual: usualRange(param),
      ...('oneOf' in param ? { oneOf: param.oneOf } : {}),
    };
  }
  return resolved;
}

export function valuesOf(params: Record<string, ResolvedParam>): ParamValues {
  return Object.fromEntries(Object.values(params).map((p) => [p.name, p.value]));
}

/**
 * What a test does to the vehicle, with how long the lockout is where the family has a number for it.
 * @param effect of the test
 */
export function effectWords(effect: Effect, params: Record<string, ResolvedParam>): string {
  const { lockout } = params;
  if (effect !== 'lockout' || !lockout) return gates[effect].says;
  const known = lockout.status === 'verified' ? '' : ', typical';
  return sentences.lockoutOf(paramWords(lockout.value, lockout.unit), known);
}

/** The parameters that a procedure names, in words, for reports and lists. */
export function formatParams(
  params: Record<string, ResolvedParam>,
  names: readonly string[],
): { name: string; label: string; value: string; status: ResolvedParam['status']; source: string }[] {
  return names.flatMap((name) => {
    const p = params[name];
    return p ? [{ name, label: p.label, value: paramWords(p.value, p.unit), status: p.status, source: p.source }] : [];
  });
}
