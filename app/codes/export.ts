import { csv, csvResponse } from '../../server/base/csv';
import { scanColumns, scanRows, scansAsJson } from '../../server/cases/scans';
import { caseOf } from '../cases/caseId.server';
import type { Route } from './+types/export';

/** The scans of a case as a table, a line for each trouble code; or, with `as=json`, as they are kept. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const record = await caseOf(context, params.caseId);
  const name = `case-${record.number}-codes`;
  if (new URL(request.url).searchParams.get('as') !== 'json') return csvResponse(`${name}.csv`, csv([...scanColumns], scanRows(record.scans)));
  return new Response(scansAsJson(record.scans), {
    headers: {
      'Content-Type': 'application/json; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}.json"`,
      'Cache-Control': 'no-store',
    },
  });
}
