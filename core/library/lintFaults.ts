import type { Problem } from '../units';
import { comparisonsIn, subjectOf } from './condition';
import type { ChanceRow, Family, TestDefinition } from './documents';
import { cautionProblems } from './dangers';
import { isPutBack } from './documents';
import { type Aspect, aspects } from './vocabulary';
import { lintSentences } from './lintSentences';

/** Chances are written to two or three digits; a sum that misses 1 by more is a slip. */
const sumTolerance = 0.005;

/** Every set of chances of a row with its place. */
export function chancesIn(row: ChanceRow): { at: string; p: Record<string, number> }[] {
  return Array.isArray(row) ? row.map(({ p }, i) => ({ at: `[${i}].p`, p })) : [{ at: '', p: row }];
}

/** What a schema can't see in the faults of a family and in the chances of its tests. */
export function lintFaults(family: Family, known: { procedures: ReadonlySet<string>; cautions: ReadonlySet<string> }): Problem[] {
  const problems: Problem[] = [];
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const links = family.chain.map((l) => l.id);
  const unknown = (path: string, what: string, name: string, allowed: readonly string[]) =>
    problems.push({
      code: 'unknownName',
      path,
      message: lintSentences.unknownInFaults(what, name, allowed.join(', ') || lintSentences.noneDefined),
    });
  const adds = (path: string, shares: Record<string, number>) => {
    const total = Object.values(shares).reduce((a, b) => a + b, 0);
    if (Math.abs(total - 1) > sumTolerance) problems.push({ code: 'sum', path, message: lintSentences.chancesSum(Number(total.toFixed(4))) });
  };

  const checkOutcome = (name: string, path: string) => {
    const [id, outcome] = name.split('.') as [string, string?];
    const outcomes = Object.keys(tests.get(id)?.outcomes ?? {});
    if (outcome === undefined || !outcomes.includes(outcome))
      unknown(
        path,
        lintSentences.outcome,
        name,
        outcomes.map((o) => `${id}.${o}`),
      );
  };

  const faults = family.faults ?? [];
  for (const name of Object.keys(family.fixedBy ?? {}))
    if (!faults.some((f) => f.id === name))
      unknown(
        `fixedBy.${name}`,
        lintSentences.fault,
        name,
        faults.map((f) => f.id),
      );
  const seen = new Set<string>();
  faults.forEach((fault, i) => {
    const path = `faults[${i}]`;
    if (seen.has(fault.id)) problems.push({ code: 'twice', path: `${path}.id`, message: lintSentences.faultTwice(fault.id) });
    seen.add(fault.id);
    if (!links.includes(fault.link)) unknown(`${path}.link`, lintSentences.link, fault.link, links);
    if (fault.like !== undefined) unknown(`${path}.like`, lintSentences.picture, fault.like, []);
    if (fault.perKey && !family.chain.some((l) => l.perKey))
      problems.push({ code: 'keyMissing', path: `${path}.perKey`, message: lintSentences.noLinkPerKey });
    if (fault.cure.procedure !== undefined && !known.procedures.has(fault.cure.procedure))
      unknown(`${path}.cure.procedure`, lintSentences.procedure, fault.cure.procedure, [...known.procedures]);
    (fault.cure.after?.tests ?? []).forEach(
      (t, k) =>
        family.tests.some((x) => x.id === t) ||
        unknown(
          `${path}.cure.after.tests[${k}]`,
          lintSentences.test,
          t,
          family.tests.map((x) => x.id),
        ),
    );
    fault.cure.unless?.forEach((name, k) => checkOutcome(name, `${path}.cure.unless[${k}]`));
    (fault.cure.cautions ?? []).forEach(
      (c, k) => known.cautions.has(c) || unknown(`${path}.cure.cautions[${k}]`, lintSentences.caution, c, [...known.cautions]),
    );
    problems.push(...cautionProblems(`${path}.cure`, fault.id, fault.cure.do, fault.cure.cautions ?? [], fault.cure.harmless));
    if (fault.prove.how === undefined)
      problems.push({
        code: 'proofMissing',
        path: `${path}.prove.how`,
        message: lintSentences.proofMissing,
      });
    if (fault.prove.putBack !== undefined && isPutBack(fault.prove) !== (fault.prove.how === 'putBack'))
      problems.push({ code: 'proofMissing', path: `${path}.prove.putBack`, message: lintSentences.proofNotPutBack });
    if (fault.prove.how === 'rest' && fault.prove.waitMin === undefined)
      problems.push({
        code: 'proofMissing',
        path: `${path}.prove.waitMin`,
        message: lintSentences.proofWithoutRest,
      });
    for (const lifted of Object.keys(fault.lifts ?? {}))
      if (family.statements?.some((s) => s.symptom === lifted))
        problems.push({
          code: 'twice',
          path: `${path}.lifts.${lifted}`,
          message: lintSentences.statementTwice(lifted),
        });
    for (const [aspect, shows] of Object.entries(fault.shows ?? {})) if (typeof shows === 'object') adds(`${path}.shows.${aspect}`, shows);
  });

  family.tests.forEach((test, i) => {
    const path = `tests[${i}]`;
    if (test.same !== undefined && !tests.has(test.same)) unknown(`${path}.same`, lintSentences.test, test.same, [...tests.keys()]);
    test.needs?.after?.forEach((name, k) => {
      const [before, outcome] = name.split('.') as [string, string?];
      const at = `${path}.needs.after[${k}]`;
      const needed = tests.get(before);
      if (!needed) unknown(at, lintSentences.test, before, [...tests.keys()]);
      else if (outcome !== undefined && !(outcome in needed.outcomes))
        unknown(at, lintSentences.outcomeOf(before), outcome, Object.keys(needed.outcomes));
    });
    test.needs?.unless?.forEach((name, k) => checkOutcome(name, `${path}.needs.unless[${k}]`));
    problems.push(...cautionProblems(path, test.id, test.do, test.cautions, test.harmless));
    const circle = circleFrom(test, tests);
    if (circle)
      problems.push({
        code: 'cycle',
        path: `${path}.needs.after`,
        message: lintSentences.testsInCircle(circle.join(lintSentences.comesAfter)),
      });
    const asked = new Set<string>();
    for (const [name, row] of Object.entries(test.p ?? {})) {
      const at = `${path}.p.${name}`;
      const [aspect, state] = name.split('.') as [string, string | undefined];
      if (state !== undefined) {
        asked.add(aspect);
        if (!(aspect in aspects)) unknown(at, lintSentences.aspect, aspect, Object.keys(aspects));
        else if (!(aspects[aspect as Aspect] as readonly string[]).includes(state))
          unknown(at, lintSentences.stateOf(aspect), state, aspects[aspect as Aspect]);
      }
      for (const { at: part, p } of chancesIn(row)) {
        for (const outcome of Object.keys(p))
          if (!(outcome in test.outcomes)) unknown(`${at}${part}.${outcome}`, lintSentences.outcomeOf(test.id), outcome, Object.keys(test.outcomes));
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
                message: lintSentences.notAParameter(subject),
              });
            else if (!(param in family.params) && family.faults)
              unknown(`${at}[${k}].when`, lintSentences.parameter, param, Object.keys(family.params));
          }
        });
    }
    if (test.p && test.p.default === undefined && asked.size === 0)
      problems.push({
        code: 'unknownName',
        path: `${path}.p`,
        message: lintSentences.noDefaultRows,
      });
    const aspect = [...asked][0] as Aspect | undefined;
    const normal = aspect && aspect in aspects ? `${aspect}.${aspects[aspect][0]}` : undefined;
    if (normal && test.p!.default === undefined && test.p![normal] === undefined)
      problems.push({
        code: 'unknownName',
        path: `${path}.p`,
        message: lintSentences.normalMissing(normal),
      });
  });

  family.statements?.forEach((statement, i) => {
    const path = `statements[${i}].p`;
    const faultIds = new Set(faults.map((f) => f.id));
    for (const name of Object.keys(statement.p)) {
      const [aspect, state] = name.split('.') as [string, string | undefined];
      if (state === undefined) continue;
      if (!(aspect in aspects)) unknown(`${path}.${name}`, lintSentences.aspect, aspect, Object.keys(aspects));
      else if (!(aspects[aspect as Aspect] as readonly string[]).includes(state))
        unknown(`${path}.${name}`, lintSentences.stateOf(aspect), state, aspects[aspect as Aspect]);
    }
    if (statement.p.default === undefined && !Object.keys(statement.p).some((n) => n.includes('.')))
      problems.push({ code: 'unknownName', path, message: lintSentences.noDefaultRow });
    if (faultIds.size === 0) problems.push({ code: 'unknownName', path, message: lintSentences.noFaults });
  });
  family.without?.forEach(
    (name, i) =>
      tests.has(name) &&
      problems.push({
        code: 'twice',
        path: `without[${i}]`,
        message: lintSentences.statementIsTest(name),
      }),
  );
  family.fixed?.forEach((name, i) => tests.has(name) || unknown(`fixed[${i}]`, lintSentences.test, name, [...tests.keys()]));
  return problems;
}

/** The way from a test back to itself over what must come before it. */
function circleFrom(test: TestDefinition, tests: ReadonlyMap<string, TestDefinition>): string[] | null {
  const walk = (id: string, way: readonly string[]): string[] | null => {
    for (const before of (tests.get(id)?.needs?.after ?? []).map((name) => name.split('.')[0]!)) {
      if (before === test.id) return [...way, before];
      if (way.includes(before)) continue;
      const found = walk(before, [...way, before]);
      if (found) return found;
    }
    return null;
  };
  return walk(test.id, [test.id]);
}
