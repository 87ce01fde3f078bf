import type { OnRecord } from '../../core/library';
import type { CaseRecord } from '../record/cases';

/** What a case's record should hold and does not hold yet. */
export type Missing = 'authority' | 'sender' | 'customer' | 'vin' | 'countersBefore' | 'countersAfter' | 'photos';

/** What an open case still lacks, most pressing first; a closed one lacks nothing any more. */
export function missingOf(
  record: Pick<CaseRecord, 'kind' | 'state' | 'customer' | 'identification' | 'counters' | 'photos' | 'runs' | 'repairActions'>,
  known: Pick<OnRecord, 'authority' | 'senderMissing'>,
): Missing[] {
  if (record.state !== 'open') return [];
  const vehicle = record.kind === 'vehicle';
  const before = record.counters.filter((c) => c.phase === 'before');
  // Work has been done that may have set a counter back.
  const worked = record.runs.length > 0 || record.repairActions.some((d) => d.result !== null && d.kind === 'repair');
  const missing: Record<Missing, boolean> = {
    authority: !known.authority,
    sender: known.senderMissing === true,
    customer: record.customer === null,
    vin: vehicle && record.identification === '',
    countersBefore: vehicle && !worked && before.length === 0,
    countersAfter: vehicle && worked && before.some((c) => !record.counters.some((r) => r.phase === 'after' && r.counter === c.counter)),
    photos: record.photos.length === 0,
  };
  return (Object.keys(missing) as Missing[]).filter((m) => missing[m]);
}
