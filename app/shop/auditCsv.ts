import { auditExport, readAudit } from '../../server/acts/audit';
import { csv, csvResponse } from '../../server/base/csv';
import { parseAuditQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import type { Route } from './+types/auditCsv';

/** The audit log, as searched, for a spreadsheet. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const lines = await readAudit(context.get(here).services.database.db, parseAuditQuery(new URL(request.url).searchParams), auditExport);
  const rows = lines.map((l) => [l.id, new Date(l.at).toISOString(), l.by, l.action, l.caseId, l.detail]);
  return csvResponse('audit.csv', csv(['number', 'time', 'person', 'act', 'case', 'detail'], rows));
}
