import type { Scan } from '../../core/codes';
import type { CaseRecord } from '../record/cases';

/** Codes of a scan as they stand on a paper, each once. */
export const codesOf = (found: Scan): string[] => [
  ...new Set(found.codes.map((c) => (c.failureType === undefined ? c.code : `${c.code}-${c.failureType}`))),
];

/** Codes that the last scan after the work still had, unless they were cleared then. */
export function codesLeft(record: Pick<CaseRecord, 'scans'>): string[] {
  const last = record.scans.findLast((s) => s.phase === 'after');
  return last && !last.cleared ? codesOf(last.found) : [];
}
