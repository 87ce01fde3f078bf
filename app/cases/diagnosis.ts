import { here } from '../../server/http/requestContext';
import { readFinalDiagnosis } from '../../server/cases/caseView';
import { parseSupposed } from '../../server/cases/queries';
import { caseId, noCase } from './caseId.server';
import type { Route } from './+types/diagnosis';

/** The answer that looks far ahead, for a page that shows the first one meanwhile. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const supposing = parseSupposed(new URL(request.url).searchParams);
  const view = (await readFinalDiagnosis(services, caseId(params.caseId), supposing)) ?? noCase(params.caseId);
  return Response.json(view, { headers: { 'Cache-Control': 'no-store' } });
}
