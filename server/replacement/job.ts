import { communicationCodes } from '../../core/codes';
import type { Family } from '../../core/library';
import { foldJob, type Job, type Witnessed } from '../../core/replacement';
import { latestSeen } from '../../core/keys';
import { type CaseRecord, entriesOf, keysHere } from '../record/cases';

/** Where the work after a replacement stands in a case, null where no plan is being worked. */
export const jobOf = (record: CaseRecord, family: Family): Job | null =>
  record.replacement.length === 0 ? null : foldJob(record.replacement, witnessed(record, family));

function witnessed(record: CaseRecord, family: Family): Witnessed {
  const entries = entriesOf(record, family);
  const at = (tag: string) => {
    const seen = family.verify.map((ability) => latestSeen(entries, tag, ability)?.at ?? null);
    return seen.length === 0 || seen.includes(null) ? null : Math.min(...seen.map(Number));
  };
  return {
    runs: record.runs.flatMap((r) =>
      r.status === 'finished' && r.endedAt !== null ? [{ id: r.id, procedure: r.procedure.id, endedAt: r.endedAt }] : [],
    ),
    scans: record.scans.map((s) => ({ at: s.at, quiet: communicationCodes(s.found).length === 0 })),
    counters: record.counters,
    keys: keysHere(record).map(({ tag }) => ({ tag, at: at(tag) })),
  };
}
