import type { Problem } from '../units';
import { comparisonsIn, subjectOf } from './condition';
import type { ChanceRow, Family, TestDefinition } from './documents';
import { type Aspect, aspects } from './vocabulary';

/** Chances are written to two or three digits; a sum that misses 1 by more is a slip. */
const sumTolerance = 0.005;

/** Every set of chances of a row with its place. */
export function chancesIn(row: ChanceRow): { at: string; p: Record<string, number> }[] {
  return Array.isArray(row) ? row.map(({ p }, i) => ({ at: `[${i}].p`, p })) : [{ at: '', p: row }];
}

/** What a schema can't see in the faults of a family and in the chances of its tests. */
export function lintFaults(family: Family, known: { procedures: ReadonlySet<string> }): Problem[] {
  const problems: Problem[] = [];
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const links = family.chain.map((l) => l.id);
  const unknown = (path: string, what: string, name: string, allowed: readonly string[]) =>
    problems.push({
      code: 'unknownName',
      path,
      message: `${what} "${name}" does not exist here. Use one of: ${allowed.join(', ') || '(none defined)'}.`,
    });
  const adds = (path: string, shares: Record<string, number>) => {
    const total = Object.values(shares).reduce((a, b) => a + b, 0);
    if (Math.abs(total - 1) > sumTolerance)
      problems.push({ code: 'sum', path, message: `The chances add up to ${Number(total.toFixed(4))}; they must add up to 1. Correct one of them.` });
  };

  const faults = family.faults ?? [];
  const seen = new Set<string>();
  faults.forEach((fault, i) => {
    const path = `faults[${i}]`;
    if (seen.has(fault.id))
      problems.push({ code: 'twice', path: `${path}.id`, message: `"${fault.id}" stands twice in faults. Give each its own id.` });
    seen.add(fault.id);
    if (!links.includes(fault.link)) unknown(`${path}.link`, 'Link', fault.link, links);
    if (fault.like !== undefined) unknown(`${path}.like`, 'Picture', fault.like, []);
    if (fault.perKey && !family.chain.some((l) => l.perKey))
      problems.push({ code: 'keyMissing', path: `${path}.perKey`, message: 'No link of this family is judged key by key. Remove perKey.' });
    if (fault.cure.procedure !== undefined && !known.procedures.has(fault.cure.procedure))
      unknown(`${path}.cure.procedure`, 'Procedure', fault.cure.procedure, [...known.procedures]);
    for (const [aspect, shows] of Object.entries(fault.shows ?? {})) if (typeof shows === 'object') adds(`${path}.shows.${aspect}`, shows);
  });

  family.tests.forEach((test, i) => {
    const path = `tests[${i}]`;
    if (test.same !== undefined && !tests.has(test.same)) unknown(`${path}.same`, 'Test', test.same, [...tests.keys()]);
    test.needs?.after?.forEach((t, k) => tests.has(t) || unknown(`${path}.needs.after[${k}]`, 'Test', t, [...tests.keys()]));
    const circle = circleFrom(test, tests);
    if (circle)
      problems.push({
        code: 'cycle',
        path: `${path}.needs.after`,
        message: `${circle.join(' comes after ')}. No test can wait for itself; remove one.`,
      });
    const asked = new Set<string>();
    for (const [name, row] of Object.entries(test.p ?? {})) {
      const at = `${path}.p.${name}`;
      const [aspect, state] = name.split('.') as [string, string | undefined];
      if (state !== undefined) {
        asked.add(aspect);
        if (!(aspect in aspects)) unknown(at, 'Aspect', aspect, Object.keys(aspects));
        else if (!(aspects[aspect as Aspect] as readonly string[]).includes(state))
          unknown(at, `State of "${aspect}"`, state, aspects[aspect as Aspect]);
      }
      for (const { at: part, p } of chancesIn(row)) {
        for (const outcome of Object.keys(p))
          if (!(outcome in test.outcomes)) unknown(`${at}${part}.${outcome}`, `Outcome of "${test.id}"`, outcome, Object.keys(test.outcomes));
        adds(`${at}${part}`, p);
      }
      if (Array.isArray(row))
        row.forEach(({ when }, k) => {
          for (const comparison of when ? comparisonsIn(when) : []) {
            const { subject, name: param } = subjectOf(comparison);
            if (subject !== 'param')
              problems.push({
                code: 'unknownName',
                path: `${at}[${k}].when`,
                message: `Chances can depend on parameters only, not on "${subject}".`,
              });
            else if (!(param in family.params) && family.faults) unknown(`${at}[${k}].when`, 'Parameter', param, Object.keys(family.params));
          }
        });
    }
    if (test.p && test.p.default === undefined && asked.size === 0)
      problems.push({
        code: 'unknownName',
        path: `${path}.p`,
        message: 'There is no default and no aspect, so most faults have no chances. Add default.',
      });
    const aspect = [...asked][0] as Aspect | undefined;
    const normal = aspect && aspect in aspects ? `${aspect}.${aspects[aspect][0]}` : undefined;
    if (normal && test.p!.default === undefined && test.p![normal] === undefined)
      problems.push({
        code: 'unknownName',
        path: `${path}.p`,
        message: `Neither default nor ${normal} stands here, so a vehicle without a fault has no chances. Add one.`,
      });
  });

  family.fixed?.forEach((name, i) => tests.has(name) || unknown(`fixed[${i}]`, 'Test', name, [...tests.keys()]));
  return problems;
}

/** The way from a test back to itself over what must come before it. */
function circleFrom(test: TestDefinition, tests: ReadonlyMap<string, TestDefinition>): string[] | null {
  const walk = (id: string, way: readonly string[]): string[] | null => {
    for (const before of tests.get(id)?.needs?.after ?? []) {
      if (before === test.id) return [...way, before];
      if (way.includes(before)) continue;
      const found = walk(before, [...way, before]);
      if (found) return found;
    }
    return null;
  };
  return walk(test.id, [test.id]);
}
