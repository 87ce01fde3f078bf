import { createHash, randomUUID } from 'node:crypto';
import { and, asc, eq, isNotNull, max } from 'drizzle-orm';
import { type ShopUnits, usUnits } from '../../core/units';
import { caseNumber } from '../base/caseNumber';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader, Tx } from '../db/open';
import { bay, caseFile, shop, shopPicture } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import { pricesNow, type SavedPrices } from './prices';
import type { Files } from '../reading/files';

/** What a shop may own, with the tools of tests that it stands for: a test whose tool is not owned is not proposed. */
export const equipment = {
  meter: { say: 'Ohmmeter and voltmeter', tools: ['voltmeter', 'ohmmeter'] },
  keyReader: { say: 'Key reader', tools: ['key reader'] },
  scanner: { say: 'Scan tool', tools: ['scan tool', 'scanner'] },
  scope: { say: 'Scope with near-field probe', tools: [] },
  coilDetector: { say: 'Field detector', tools: ['field detector'] },
  benchSupply: { say: 'Bench power supply, current limited', tools: [] },
  stableSupply: { say: 'Battery support power supply', tools: [] },
  memoryProgrammer: { say: 'Memory programmer with adapters', tools: [] },
  solderingStation: { say: 'Soldering station and magnifier', tools: [] },
} as const satisfies Record<string, { say: string; tools: readonly string[] }>;
export type Equipment = keyof typeof equipment;

export interface Shop {
  name: string;
  /** As it stands on papers; several lines are one text. */
  address: string;
  phone: string;
  currency: string;
  labourRate: number;
  equipment: string[];
  units: ShopUnits;
}

/** A shop that nobody has described yet. */
const unnamed: Shop = { name: '', address: '', phone: '', currency: '', labourRate: 0, equipment: [], units: usUnits };

export async function readShop(db: Reader): Promise<Shop> {
  const [row] = await db.select().from(shop);
  if (!row) return unnamed;
  const { id: _, ...known } = row;
  return known;
}

/** The shop with the rate of a price book: one object for as long as both are the same, since what was read with it is kept by it. */
const withRate = new WeakMap<Shop, { prices: SavedPrices; shop: Shop }>();

/** The shop as pages show it. The hourly rate is that of the price book in force; the shop's own, where there is none. */
export async function keptShop(services: Keeping & { clock: { now(): number } }): Promise<Shop> {
  const { kept, database } = services;
  const [own, prices] = [await kept.read('shop', [shop], () => readShop(database.db)), await pricesNow(services)];
  if (!prices) return own;
  const before = withRate.get(own);
  if (before?.prices === prices) return before.shop;
  const priced = { ...own, labourRate: prices.book.rate / 10 ** prices.book.decimals };
  withRate.set(own, { prices, shop: priced });
  return priced;
}

export async function writeShop(tx: Tx, to: Shop): Promise<void> {
  await tx
    .insert(shop)
    .values({ id: 'shop', ...to })
    .onConflictDoUpdate({ target: shop.id, set: to });
}

export async function saveShop(db: Db, act: Act, to: Shop): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'shop data changed', payload: to, detail: { to } }, async (tx) => {
    await writeShop(tx, to);
    await notify(tx, { what: 'case' });
    return null;
  });
}

/** Puts a picture at the head of the shop's papers, in place of the one before. */
export async function savePicture({ db, files }: { db: Db; files: Pick<Files, 'photo'> }, act: Act, file: Uint8Array): Promise<void> {
  const encoded = await files.photo(file);
  const payload = createHash('sha256').update(file).digest('hex');
  await actOnce(db, act, { right: 'editShop', action: 'shop picture changed', payload }, async (tx) => {
    await tx
      .insert(shopPicture)
      .values({ id: 'shop', ...encoded })
      .onConflictDoUpdate({ target: shopPicture.id, set: encoded });
    return null;
  });
}

export async function removePicture(db: Db, act: Act): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'shop picture removed', payload: '' }, async (tx) => {
    await tx.delete(shopPicture);
    return null;
  });
}

/** Size of the picture, without the picture itself. */
export async function pictureSize(db: Reader): Promise<{ width: number; height: number } | null> {
  const [found] = await db.select({ width: shopPicture.width, height: shopPicture.height }).from(shopPicture);
  return found ?? null;
}

export async function readPicture(db: Reader): Promise<{ data: Uint8Array; type: string } | undefined> {
  const [found] = await db.select({ data: shopPicture.data, type: shopPicture.type }).from(shopPicture);
  return found;
}

export interface Bay {
  id: string;
  name: string;
}

export async function listBays(db: Reader): Promise<Bay[]> {
  return db.select({ id: bay.id, name: bay.name }).from(bay).where(eq(bay.retired, false)).orderBy(asc(bay.position));
}

export const keptBays = ({ kept, database }: Keeping): Promise<Bay[]> => kept.read('bays', [bay], () => listBays(database.db));

/** The bays with the open cases that stand in them. */
export async function baysInUse(db: Reader): Promise<(Bay & { cases: { id: number; number: string; vehicle: string }[] })[]> {
  const bays = await listBays(db);
  const there = await db
    .select({ id: caseFile.id, vehicle: caseFile.vehicle, bayId: caseFile.bayId })
    .from(caseFile)
    .where(and(eq(caseFile.state, 'open'), isNotNull(caseFile.bayId)))
    .orderBy(asc(caseFile.id))
    .limit(200);
  return bays.map((b) => ({
    ...b,
    cases: there.flatMap((c) => (c.bayId === b.id ? [{ id: c.id, number: caseNumber(c.id), vehicle: c.vehicle }] : [])),
  }));
}

export async function insertBays(tx: Tx, names: string[]): Promise<void> {
  const [last] = await tx.select({ position: max(bay.position) }).from(bay);
  const from = (last?.position ?? -1) + 1;
  if (names.length > 0) await tx.insert(bay).values(names.map((name, i) => ({ id: randomUUID(), name, position: from + i })));
}

const sameName = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
async function freeName(tx: Tx, name: string, but?: string): Promise<void> {
  if ((await listBays(tx)).some((b) => b.id !== but && sameName(b.name, name)))
    throw refused(409, 'bayTaken', 'A place with this name exists already. Choose another name.', 'name');
}

export async function addBay(db: Db, act: Act, name: string): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'bay added', payload: name, detail: { name } }, async (tx) => {
    await freeName(tx, name);
    await insertBays(tx, [name]);
    await notify(tx, { what: 'case' });
    return null;
  });
}

export async function renameBay(db: Db, act: Act, form: { bay: string; name: string }): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'bay renamed', payload: form, detail: form }, async (tx) => {
    await freeName(tx, form.name, form.bay);
    const changed = await tx.update(bay).set({ name: form.name }).where(eq(bay.id, form.bay)).returning({ id: bay.id });
    if (changed.length === 0) throw refused(404, 'noBay', 'This place no longer exists. Check the list again.');
    await notify(tx, { what: 'case' });
    return null;
  });
}

/** Takes a place out of use; cases that stood there keep its name. */
export async function retireBay(db: Db, act: Act, id: string): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'bay retired', payload: id, detail: { bay: id } }, async (tx) => {
    const changed = await tx.update(bay).set({ retired: true }).where(eq(bay.id, id)).returning({ id: bay.id });
    if (changed.length === 0) throw refused(404, 'noBay', 'This place no longer exists. Check the list again.');
    await notify(tx, { what: 'case' });
    return null;
  });
}
