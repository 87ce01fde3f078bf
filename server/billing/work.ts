import { type Agreement, type Refusal, type WorkDone } from '../../core/options';
import type { Family } from '../../core/library';
import { type CaseRecord, counting } from '../record/cases';
import { standingRepairActions } from '../ledger/proofs';

const msPerMinute = 60_000;

/**
 * Work that was done in a case: tests by the minutes that somebody counted, else by what they usually take; fixes likewise; runs from their start to their
 * end. A test that was answered in a run has its time there.
 */
export function workDone(record: CaseRecord, family: Family, now: number, titleOf: (procedure: string) => string = (id) => id): WorkDone[] {
  const replaced = new Set(record.evidence.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const tests = new Map(family.tests.map((t) => [t.id, t]));
  const faults = new Map((family.faults ?? []).map((f) => [f.id, f]));
  return [
    ...counting(record.evidence).flatMap((e): WorkDone[] => {
      const test = tests.get(e.test);
      if (!test || e.outcome === null || e.runId !== null || replaced.has(e.id) || test.recorded) return [];
      return [{ title: test.title, minutes: e.minutes ?? test.minutes, counted: e.minutes !== null, part: 'diagnosis' }];
    }),
    ...standingRepairActions(record).flatMap((r): WorkDone[] => {
      const fault = faults.get(r.fault);
      if (!fault || r.kind !== 'repair') return [];
      return [{ title: fault.title, minutes: r.minutes ?? fault.cure.minutes, counted: r.minutes !== null, part: 'fix' }];
    }),
    ...record.runs.map((r): WorkDone => ({
      title: titleOf(r.procedure.id),
      minutes: Math.max(0, ((r.endedAt ?? now) - r.startedAt) / msPerMinute),
      counted: true,
      part: 'fix',
    })),
  ];
}

/** Every agreement and refusal of a case, and the one that counts. */
export const agreedIn = (record: Pick<CaseRecord, 'offers'>): Agreement | Refusal | null =>
  record.offers.findLast((e): e is Agreement | Refusal => e.kind === 'agree' || e.kind === 'decline') ?? null;
