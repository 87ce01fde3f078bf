import { type Cured, type ProofEntry, proofOf } from '../../core/diagnosis';
import { type Family, type FaultDefinition, isPutBack } from '../../core/library';
import { type CaseRecord, counting, entriesOf, type LedgerEntry, type RepairAction } from '../record/cases';

/** RepairActions that count: corrected and withdrawn ones are gone. */
export function standingRepairActions(record: Pick<CaseRecord, 'repairActions'>) {
  const replaced = new Set(record.repairActions.flatMap((d) => (d.replaces ? [d.replaces] : [])));
  return counting(record.repairActions).filter((d) => d.result !== null && !replaced.has(d.id));
}

/** What was changed and tried, in order: repairs, runs that were finished, keys that started it or did not, the cause brought back and taken away. */
export function proofEntriesOf(record: CaseRecord, family: Family): ProofEntry[] {
  const title = (fault: string) => family.faults?.find((f) => f.id === fault)?.title ?? fault;
  const lines: { at: number; seq: number; entries: Omitted[] }[] = [
    ...standingRepairActions(record).map((d) => ({
      at: d.occurredAt,
      seq: d.seq,
      entries: entriesOfRepairAction(d, title(d.fault)),
    })),
    ...record.runs
      .filter((r) => r.status === 'finished')
      .map((r) => ({ at: r.endedAt ?? r.startedAt, seq: 0, entries: [{ kind: 'change' as const, what: r.procedure.id }] })),
    ...entriesOf(record, family)
      .filter((e) => e.ability === 'runs' && e.source !== 'told' && (e.result === 'yes' || e.result === 'no'))
      .map((e) => ({ at: e.at, seq: seqOf(record, e), entries: [{ kind: 'tried' as const, key: e.key, works: e.result === 'yes' }] })),
  ];
  return lines.sort((a, b) => a.at - b.at || a.seq - b.seq).flatMap((l) => l.entries.map((e) => ({ at: l.at, ...e })));
}
/** An entry whose moment is its line's. */
type Omitted = ProofEntry extends infer E ? (E extends ProofEntry ? Omit<E, 'at'> : never) : never;

const afterAll = Number.MAX_SAFE_INTEGER;
/** Of the same moment, what a person judged comes last and what a test showed stands at its place in the ledger. */
const seqOf = (record: CaseRecord, e: { source: string; key: string; at: number }): number =>
  e.source === 'seen' ? afterAll : (record.evidence.findLast((x) => x.key === e.key && x.occurredAt === e.at)?.seq ?? afterAll);

function entriesOfRepairAction({ kind, result, key }: RepairAction, what: string): Omitted[] {
  const works = result === 'works';
  switch (kind) {
    case 'repair':
      return [{ kind: 'change', what }, ...(result === 'done' ? [] : [{ kind: 'tried' as const, works }])];
    case 'triedAgain':
      return [{ kind: 'tried', works, ...(key === null ? {} : { key }) }];
    case 'broughtBack':
      return [{ kind: 'broughtBack', fails: !works }];
    case 'takenAway':
      return [{ kind: 'takenAway', works }];
  }
}

/** How well a fault is proven to have been the cause, by what was changed and tried; `key`: the one that was mended. */
function proofOfFault(record: CaseRecord, family: Family, fault: FaultDefinition, key?: string) {
  const keys = record.keys.filter((k) => k.present).map((k) => k.tag);
  const { waitMin, starts } = fault.prove;
  return proofOf(proofEntriesOf(record, family), keys, { putBack: isPutBack(fault.prove), waitMin, starts, key });
}

/** A cure with its place in the ledger: what was seen from there on speaks of a vehicle that is mended. */
export interface CuredHere extends Cured {
  id: string;
  isAfter: (entry: LedgerEntry) => boolean;
}

/** The latest repair that worked, or a run that was finished and is the cure of a fault, unless it has failed since. */
export function curedOf(record: CaseRecord, family: Family): CuredHere | null {
  const repair = standingRepairActions(record).findLast((d) => d.kind === 'repair');
  const run = record.runs.findLast((r) => r.status === 'finished');
  const byRun = run && family.faults?.find((f) => f.cure.procedure === run.procedure.id);
  const later = repair && (!run || repair.occurredAt >= (run.endedAt ?? run.startedAt));
  const fault = later ? (repair.result === 'works' ? family.faults?.find((f) => f.id === repair.fault) : undefined) : byRun;
  if (!fault) return null;
  const key = later ? (repair.key ?? undefined) : undefined;
  const proof = proofOfFault(record, family, fault, key);
  if (proof.standing === 'failed') return null;
  return later
    ? { fault, ...(key === undefined ? {} : { key }), proof, id: repair.id, isAfter: (e) => e.seq > repair.seq }
    : { fault, proof, id: `run-${run!.id}`, isAfter: (e) => e.runId === run!.id || e.occurredAt > (run!.endedAt ?? run!.startedAt) };
}
