import { csvResponse } from '../../server/base/csv';
import { billCsv } from '../../server/papers/files';
import { readPapers } from '../../server/papers/view';
import { here } from '../../server/http/requestContext';
import { caseOf } from '../cases/caseId.server';
import type { Route } from './+types/billCsv';

/** The bill of a case, a line for each of its lines. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const record = await caseOf(context, params.caseId);
  return csvResponse(`case-${record.number}-bill.csv`, billCsv(await readPapers(context.get(here).services, record, 'UTC'), record));
}
