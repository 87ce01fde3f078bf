import type { Problem, Result } from '../units';
import type { CommonParts, Family, TestDefinition } from './documents';

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

  const take = (references: readonly string[], path: string, way: readonly string[]): void => {
    references.forEach((reference, i) => {
      const at = `${path}[${i}]`;
      const [id, version] = reference.split('@') as [string, string];
      if (way.includes(id)) {
        problems.push({
          code: 'cycle',
          path: at,
          message: `${[...way, id].join(' uses ')}. Common parts can't use each other in a circle; remove one.`,
        });
        return;
      }
      const parts = find(id);
      if (!parts || parts.version !== Number(version)) {
        const there = parts ? `It is there in version ${parts.version}.` : `No common parts have this name.`;
        problems.push({ code: 'unknownName', path: at, message: `"${reference}" is not there. ${there} Correct the reference.` });
        return;
      }
      for (const test of parts.tests) if (!tests.has(test.id)) tests.set(test.id, fit(test, links));
      take(parts.use, at, [...way, id]);
    });
  };
  take(family.use, 'use', []);
  return problems.length > 0 ? { ok: false, problems } : { ok: true, value: { ...family, tests: [...tests.values()] } };
}

const fit = (test: TestDefinition, links: ReadonlySet<string>): TestDefinition => ({
  ...test,
  outcomes: Object.fromEntries(
    Object.entries(test.outcomes).map(([id, outcome]) => [id, { ...outcome, says: outcome.says.filter((s) => links.has(s.link)) }]),
  ),
});
