import { exportSize, listCases } from '../../server/cases/caseList';
import { csv, csvResponse } from '../../server/base/csv';
import { parseCaseQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import type { Route } from './+types/listCsv';

/** The list of cases, as filtered and sorted, for a spreadsheet. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { after: _after, ...query } = parseCaseQuery(new URL(request.url).searchParams);
  const { rows } = await listCases(context.get(here).services.database.db, query, exportSize);
  const iso = (at: number | null) => (at === null ? '' : new Date(at).toISOString());
  return csvResponse(
    'cases.csv',
    csv(
      ['number', 'kind', 'state', 'vehicle', 'plate', 'bay', 'opened', 'closed', 'complaint', 'outcome'],
      rows.map((r) => [r.number, r.kind, r.state, r.vehicle, r.plate, r.bay ?? '', iso(r.openedAt), iso(r.closedAt), r.words, r.outcome ?? '']),
    ),
  );
}
