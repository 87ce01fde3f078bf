import { itemsCsv } from '../../core/quote';
import { csvResponse } from '../../server/base/csv';
import { here } from '../../server/http/requestContext';
import { pricesNow } from '../../server/shop/prices';
import type { Route } from './+types/pricesCsv';

/** The items of the price book in force, as the page takes them in again. */
export async function loader({ context }: Route.LoaderArgs) {
  const now = await pricesNow(context.get(here).services);
  return csvResponse('prices.csv', `${itemsCsv(now?.book ?? { items: [], decimals: 2 })}\n`);
}
