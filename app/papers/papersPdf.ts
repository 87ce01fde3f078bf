import { paperPdf } from '../../server/papers/files';
import { paperKinds, readPapers } from '../../server/papers/view';
import { paperSizes } from '../../server/reading/paper';
import { here } from '../../server/http/requestContext';
import { caseOf } from '../cases/caseId.server';
import { download, notThere } from '../respond.server';
import type { Route } from './+types/papersPdf';

/** A paper of a case as PDF: `paper=customer` or `file`, `size=LETTER` or `A4`. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const asked = new URL(request.url).searchParams;
  const kind = paperKinds.find((k) => k === (asked.get('paper') ?? 'customer')) ?? notThere('Not a paper', 'Choose “customer” or “file”.');
  const size = paperSizes.find((s) => s === (asked.get('size') ?? 'LETTER')) ?? notThere('Not a paper size', 'Choose LETTER or A4.');
  return download(async () => ({
    name: `case-${record.number}-${kind}.pdf`,
    type: 'application/pdf',
    body: await paperPdf(services, record, await readPapers(services, record, zone()), kind, size),
  }));
}

const zone = () => Intl.DateTimeFormat().resolvedOptions().timeZone;
