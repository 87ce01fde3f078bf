import { listCases } from '../../server/cases/caseList';
import type { Services } from '../../server/services/services';

/** The open cases that an instrument can be used for, and the one that was chosen, if it is one of them. */
export async function benchCase({ cases, database: { db } }: Services, caseId: number | undefined) {
  const record = caseId === undefined ? undefined : await cases.one(caseId);
  const chosen = record?.kind === 'vehicle' && record.state === 'open' ? record : undefined;
  const { rows } = await listCases(db, { states: ['open'], kind: 'vehicle', text: '', sort: 'newest' });
  return {
    record: chosen,
    cases: rows.map((r) => ({ id: r.id, number: r.number, vehicle: r.vehicle })),
    keys: chosen ? chosen.keys.filter((k) => k.present).map((k) => k.tag) : [],
  };
}
