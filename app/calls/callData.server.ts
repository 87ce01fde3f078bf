import { callSheetOf, systemOfCall } from '../../server/calls/calls';
import { systemsOf } from '../../server/diagnosis/identification';
import { parseLampQuery } from '../../server/cases/queries';
import type { Services } from '../../server/services/services';
import { keptShop } from '../../server/shop/shop';

/** What the sheet of a call shows besides the call itself. The address names the system that the caller speaks of. */
export async function callData(services: Services, request: Request, kept: string) {
  const { library } = services;
  const { db } = services.database;
  const { searchParams } = new URL(request.url);
  const asked = searchParams.has('system') ? parseLampQuery(searchParams).system : kept;
  const known = await systemOfCall(db, library, asked);
  const { labourRate, currency } = await keptShop(services);
  return {
    sheet: callSheetOf(library),
    systems: await systemsOf(services),
    system: known ? asked : '',
    known,
    shop: { labourRate, currency },
  };
}
