import type { Problem, Result } from '../units';
import type { CommonParts, Family, FaultDefinition, Showing, TestDefinition } from './documents';
import { lintSentences } from './lintSentences';

/** Finds common parts by name; undefined when there are none of that name. */
export type CommonLookup = (id: string) => CommonParts | undefined;

/**
 * Puts the common tests that a family uses behind its own. A test that the family defines itself takes the place of the common one; what a common
 * test says of a link that the family does not have is left out, since a scooter has no steering lock to be doubted.
 * @returns the family with its tests, or a problem for each reference that leads nowhere, to another version, or back to itself
 */
export function mergeCommon(family: Family, find: CommonLookup): Result<Family> {
  const problems: Problem[] = [];
  const links = new Set(family.chain.map((l) => l.id));
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const own = new Set(tests.keys());
  const without = new Set(family.without ?? []);
  const hasOutcome = (beside: readonly TestDefinition[]) => (name: string) => {
    const [test, outcome] = name.split('.') as [string, string];
    return outcome in ((tests.get(test) ?? beside.find((t) => t.id === test))?.outcomes ?? {});
  };
  const faults = new Map((family.faults ?? []).map((f) => [f.id, f]));
  const statements = new Map((family.statements ?? []).map((s) => [s.symptom, s]));

  const take = (references: readonly string[], path: string, way: readonly string[]): void => {
    references.forEach((reference, i) => {
      const at = `${path}[${i}]`;
      const [id, version] = reference.split('@') as [string, string];
      if (way.includes(id)) {
        problems.push({
          code: 'cycle',
          path: at,
          message: lintSentences.commonInCircle([...way, id].join(' uses ')),
        });
        return;
      }
      const parts = find(id);
      if (!parts || parts.version !== Number(version)) {
        const there = parts ? lintSentences.otherVersion(parts.version) : lintSentences.noSuchCommon;
        problems.push({ code: 'unknownName', path: at, message: lintSentences.referenceMissing(reference, there) });
        return;
      }
      for (const test of parts.tests)
        if (!tests.has(test.id) && !without.has(test.id))
          tests.set(test.id, fit(test, links, new Set([...own, ...parts.tests.map((t) => t.id)]), hasOutcome(parts.tests)));
      for (const statement of parts.statements ?? []) if (!statements.has(statement.symptom)) statements.set(statement.symptom, statement);
      for (const fault of parts.faults ?? []) {
        const prior = family.often?.[fault.id] ?? fault.prior;
        const procedure = family.fixedBy?.[fault.id];
        const cure = procedure === undefined ? fault.cure : { ...fault.cure, procedure };
        if (!faults.has(fault.id) && links.has(fault.link) && prior > 0) faults.set(fault.id, paint({ ...fault, prior, cure }, parts.pictures));
      }
      for (const [id, picture] of Object.entries(parts.pictures ?? {})) pictures.set(id, picture);
      take(parts.use, at, [...way, id]);
    });
  };
  const pictures = new Map<string, Showing>();
  take(family.use, 'use', []);
  if (problems.length > 0) return { ok: false, problems };
  const drawn = [...faults.values()].map((f) => paint(fitCure(f, hasOutcome([])), Object.fromEntries(pictures)));
  return {
    ok: true,
    value: {
      ...family,
      tests: [...tests.values()],
      ...(drawn.length > 0 ? { faults: drawn } : {}),
      ...(statements.size > 0 ? { statements: [...statements.values()] } : {}),
    },
  };
}

function fitNeeds(needs: TestDefinition['needs'], tests: ReadonlySet<string>, has: (name: string) => boolean): Pick<TestDefinition, 'needs'> {
  if (!needs) return {};
  const after = (needs.after ?? []).filter((name) => tests.has(name.split('.')[0]!));
  const unless = (needs.unless ?? []).filter(has);
  const fitted = { ...(needs.keys ? { keys: needs.keys } : {}), ...(after.length > 0 ? { after } : {}), ...(unless.length > 0 ? { unless } : {}) };
  return Object.keys(fitted).length > 0 ? { needs: fitted } : {};
}

/** A fault of common parts names tests that a family may not have. */
function fitCure({ cure: { unless, ...cure }, ...fault }: FaultDefinition, has: (name: string) => boolean): FaultDefinition {
  const fitted = (unless ?? []).filter(has);
  return { ...fault, cure: fitted.length > 0 ? { ...cure, unless: fitted } : cure };
}

/** Puts the picture that a fault is like under what it shows itself. A name without a picture stays, for the lint to find. */
function paint(fault: FaultDefinition, pictures: Readonly<Record<string, Showing>> | undefined): FaultDefinition {
  const picture = fault.like === undefined ? undefined : pictures?.[fault.like];
  if (!picture) return fault;
  const { like: _, ...rest } = fault;
  return { ...rest, shows: { ...picture, ...fault.shows } };
}

/** @param tests ids of the family's own tests, and of the same common parts: a common test waits for those among them that it names */
const fit = (
  { needs, ...test }: TestDefinition,
  links: ReadonlySet<string>,
  tests: ReadonlySet<string>,
  has: (name: string) => boolean,
): TestDefinition => ({
  ...test,
  ...fitNeeds(needs, tests, has),
  outcomes: Object.fromEntries(
    Object.entries(test.outcomes).map(([id, outcome]) => [id, { ...outcome, says: outcome.says.filter((s) => links.has(s.link)) }]),
  ),
});
