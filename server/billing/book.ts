import { bookAt, type PriceBook } from '../../core/quote';
import { listPrices, type SavedPrices } from '../shop/prices';
import type { Reader } from '../db/open';
import { readShop, type Shop } from '../shop/shop';

/** A price book with its version; 0: the shop has none, and only its labor rate is known. */
export interface BookInForce {
  version: number;
  book: PriceBook;
}

/** What a shop without a price book charges: its labor rate by the minute, in two places, without tax. */
const bare = ({ labourRate }: Pick<Shop, 'labourRate'>): BookInForce => ({
  version: 0,
  book: { decimals: 2, rate: Math.round(labourRate * 100), stepMin: 1, leastMin: 0, callOut: 0, leastBill: 0, tax: 0, taxName: '', items: [] },
});

/** The book in force at a moment, or the one of a version, as an agreement keeps it. */
export function bookFrom(versions: readonly SavedPrices[], shop: Pick<Shop, 'labourRate'>, at: number, version?: number): BookInForce {
  const found = version === undefined ? bookAt(versions, at) : versions.find((v) => v.version === version);
  return found ? { version: found.version, book: found.book } : bare(shop);
}

export const readBook = async (db: Reader, at: number, version?: number): Promise<BookInForce & { currency: string }> => {
  const shop = await readShop(db);
  return { ...bookFrom(await listPrices(db), shop, at, version), currency: shop.currency };
};
