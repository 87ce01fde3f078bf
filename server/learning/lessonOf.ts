import { type Belief, Diagnostician, type Finding, type Situation, somethingElse } from '../../core/diagnosis';
import { isOff, type Lesson, lineOf } from '../../core/learning';
import type { Agreement } from '../../core/options';
import type { Family, ParamValues } from '../../core/library';
import { type CaseRecord, counting } from '../record/cases';
import { standingRepairActions } from '../ledger/proofs';

/** Causes were called, once one of them was more likely than not; it counts as missed where the right one was not among the first so many. */
const called = 0.5;
const firstFew = 3;

/** What a closed case teaches: from its ledger, its conclusion and what was agreed, without anybody's name. */
export function lessonOf(
  record: CaseRecord,
  family: Family,
  params: ParamValues,
  situation: Omit<Situation, 'family' | 'params' | 'findings'>,
  billTotal: number,
): Lesson {
  const proven = record.conclusion === 'proven' ? record.conclusionFault : null;
  const fault = family.faults?.find((f) => f.id === proven);
  const repairs = standingRepairActions(record).filter((r) => r.kind === 'repair');
  const fixed = repairs.findLast((r) => r.fault === proven && r.result !== 'fails');
  const key = fixed?.key ?? undefined;
  const replaced = new Set(record.evidence.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const answers = counting(record.evidence).filter((e) => e.outcome !== null && !replaced.has(e.id));
  // What was seen after the fix speaks of a vehicle that is mended.
  const before = answers.filter((e) => !fixed || e.seq < fixed.seq);
  const known = new Map(family.tests.map((t) => [t.id, t]));
  const findings = before.flatMap((e): Extract<Finding, { test: string }>[] => {
    const test = known.get(e.test);
    return test?.p && test.outcomes[e.outcome!]
      ? [{ id: e.id, test: e.test, outcome: e.outcome!, ...(test.perKey && e.key ? { key: e.key } : {}) }]
      : [];
  });
  // Only tests that were made say anything: the others need not be laid out.
  const made = { ...family, tests: family.tests.filter((t) => findings.some((f) => f.test === t.id)) };
  const beliefs = fault && findings.length > 0 ? new Diagnostician({ ...situation, family: made, params, findings }).beliefs() : [];
  const at = record.offers.findLast((e): e is Agreement => e.kind === 'agree');
  const heard = record.offers.findLast((e) => e.kind === 'lookBack');
  return {
    cause: proven,
    line: lineOf(record.vehicle),
    tests:
      fault === undefined
        ? []
        : before.map((e) => {
            const finding = findings.find((f) => f.id === e.id);
            return { test: e.test, off: finding ? isOff(family, params, fault.id, key, finding) : null, tenths: tenths(e.minutes) };
          }),
    fixes: repairs.flatMap((r) => (r.minutes === null ? [] : [{ fault: r.fault, tenths: tenths(r.minutes)! }])),
    ...saidOf(beliefs, proven),
    options: at
      ? [...new Set(at.options.map((o) => o.id.split('.')[0]!))].map((kind) => ({
          kind,
          within: billTotal <= at.options.reduce((n, o) => n + o.price.high, 0),
        }))
      : [],
    stayed: heard === undefined || heard.kind !== 'lookBack' || heard.stayed === 'unknown' ? null : heard.stayed === 'fixed',
  };
}

const tenths = (minutes: number | null): number | null => (minutes === null ? null : Math.round(minutes * 10));

/** The likeliest cause just before the fix, and whether it was that; missed where the right one was far behind. */
function saidOf(beliefs: readonly Belief[], proven: string | null): Pick<Lesson, 'said' | 'missed'> {
  const byFault = new Map<string, number>();
  for (const b of beliefs) byFault.set(b.fault, (byFault.get(b.fault) ?? 0) + b.p);
  const order = [...byFault].sort((a, b) => b[1] - a[1]);
  const [best] = order;
  if (!best || proven === null) return { said: null, missed: false };
  const place = order.findIndex(([fault]) => fault === proven);
  return {
    said: { hundredths: Math.round(best[1] * 100), right: best[0] === proven },
    missed: proven !== somethingElse && best[1] >= called && (place < 0 || place >= firstFew),
  };
}
