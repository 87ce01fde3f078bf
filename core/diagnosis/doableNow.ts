import type { Family, FaultDefinition, Outcome, TestDefinition } from '../library';
import type { Finding } from './beliefs';
import type { Doable } from './compile';

interface Made {
  family: Family;
  findings: readonly Finding[];
  prepared?: readonly { test: string; outcome: string }[];
}

/** Tries of one key that are asked for at most: what did not show in ten hardly shows in the eleventh. Our own choice. */
const mostTries = 10;
/** The link that every family has. */
const immobilizerLink = 'keyAccepted';
/** A test that asks the immobilizer what it makes of a key. */
export const asksImmobilizer = (test: TestDefinition): boolean => test.triage?.includes('immobilizer') ?? false;
/** The key is accepted, as far as the outcome shows. */
export const accepts = (outcome: Outcome | undefined): boolean =>
  outcome?.provesAll === true || (outcome?.says.some((s) => s.link === immobilizerLink && s.state === 'holds' && s.weight === 'direct') ?? false);

/** A test that must come before another one. */
export interface Before {
  test: TestDefinition;
  /** It says nothing of the vehicle and only readies an instrument. */
  prepares: boolean;
}

/** The test that must be made before this one and has not been, or not with the outcome that is needed; with the same key where both belong to a key. */
export function waitsFor({ test, key }: Pick<Doable, 'test' | 'key'>, { family, findings, prepared = [] }: Made): Before | undefined {
  for (const name of test.needs?.after ?? []) {
    const [id, outcome] = name.split('.') as [string, string?];
    const before = family.tests.find((t) => t.id === id);
    if (!before) continue;
    const prepares = before.p === undefined;
    const perKey = test.perKey && before.perKey;
    // What looks at the same thing will do, where no certain outcome is asked for: the light with the next key is the light with that key.
    const will = (made: string) => made === id || (outcome === undefined && family.tests.some((t) => t.id === made && t.same === id));
    const made = prepares
      ? prepared.filter((p) => p.test === id).slice(-1)
      : findings.flatMap((f) => ('test' in f && will(f.test) && (!perKey || key === undefined || f.key === key) ? [f] : []));
    if (!made.some((m) => outcome === undefined || m.outcome === outcome)) return { test: before, prepares };
  }
  return undefined;
}

/** Whether a fix has nothing left to do, as the latest outcome of a test shows: there is no other key near that could be kept apart. */
export function isMoot({ cure }: FaultDefinition, findings: readonly Finding[]): boolean {
  return (cure.unless ?? []).some((name) => {
    const [id, outcome] = name.split('.') as [string, string];
    const latest = findings.findLast((f): f is Extract<Finding, { test: string }> => 'test' in f && f.test === id);
    return latest?.outcome === outcome;
  });
}

/**
 * Whether a test has nothing left to show: what it says itself (a key that is accepted can't be accepted by a look), and the light with a further key as
 * long as every key that was tried is accepted. What may come out otherwise each time is asked so often and no oftener.
 */
export function isNeedless({ test, key }: Pick<Doable, 'test' | 'key'>, { family, findings }: Made): boolean {
  const latest = (id: string, of: string | undefined) =>
    findings.findLast(
      (f): f is Extract<Finding, { test: string }> => 'test' in f && f.test === id && (of === undefined || f.key === undefined || f.key === of),
    );
  for (const name of test.needs?.unless ?? []) {
    const [id, outcome] = name.split('.') as [string, string];
    if (latest(id, key)?.outcome === outcome) return true;
  }
  const tries = findings.filter((f) => 'test' in f && f.test === test.id && f.key === key).length;
  if (test.independent && tries >= mostTries) return true;
  const light = family.tests.find(asksImmobilizer);
  const isCheapLook = test.triage?.includes('cheap') && Object.values(test.outcomes).some(accepts);
  if (light && key !== undefined && isCheapLook && accepts(light.outcomes[latest(light.id, key)?.outcome ?? ''])) return true;
  if (!light || key === undefined || (test.id !== light.id && test.same !== light.id && test.needs?.keys !== 'second')) return false;
  const ran = (of: string) =>
    findings.some((f) => 'test' in f && f.key === of && family.tests.find((t) => t.id === f.test)?.outcomes[f.outcome]?.provesAll);
  const tried = new Set(findings.flatMap((f) => ('test' in f && f.key !== undefined && (f.test === light.id || ran(f.key)) ? [f.key] : [])));
  return tried.size > 0 && [...tried].every((of) => ran(of) || accepts(light.outcomes[latest(light.id, of)!.outcome]));
}
