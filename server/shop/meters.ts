import { randomUUID } from 'node:crypto';
import { asc, eq } from 'drizzle-orm';
import type { MeterRange } from '../../core/ladder';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { meter } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import { meterRanges } from './meterRanges';
import { line, needed, orEmpty, pattern } from '../base/field';
import { parseForm } from '../base/parseForm';

export interface ShopMeter {
  id: string;
  name: string;
  ranges: MeterRange[];
  /** host:port; empty where it is read by eye. */
  address: string;
  simulated: boolean;
}

/** A host name or address with a port: nothing that could be read as anything else. */
const address = orEmpty(
  pattern(/^([A-Za-z0-9]([A-Za-z0-9.-]{0,250}[A-Za-z0-9])?|\[[0-9A-Fa-f:]{2,45}\]):\d{1,5}$/, 'host and port, such as 192.168.0.40:5025', (s) =>
    s.trim(),
  ).custom((value: string) => {
    const port = Number(value.slice(value.lastIndexOf(':') + 1));
    if (port < 1 || port > 65535) throw new Error('a port is between 1 and 65535');
    return value;
  }),
);

/** Without an id: a new one. */
const meterForm = { id: line(60).empty(''), name: needed(line(60).min(1)), address, ranges: meterRanges };
export type MeterForm = ReturnType<typeof parseMeter>;
export const parseMeter = (data: unknown) => {
  const form = parseForm(meterForm, data);
  form.ranges.forEach((r, i) => {
    if (i > 0 && r.upToOhms <= form.ranges[i - 1]!.upToOhms)
      throw refused(400, 'order', 'The ranges must increase. Write the smallest first.', `ranges[${i}].upToOhms`);
  });
  return form;
};
export const parseMeterId = (data: unknown): string => parseForm({ id: needed(line(60)) }, data).id;

export async function listMeters(db: Reader): Promise<ShopMeter[]> {
  const rows = await db.select().from(meter).where(eq(meter.retired, false)).orderBy(asc(meter.name), asc(meter.id));
  return rows.map(({ retired: _retired, ...m }) => m);
}

export const keptMeters = ({ kept, database }: Keeping): Promise<ShopMeter[]> => kept.read('meters', [meter], () => listMeters(database.db));

/** @throws Refused when the shop has no such meter, or does not use it any more */
export async function meterNamed(db: Reader, id: string): Promise<ShopMeter> {
  const found = (await listMeters(db)).find((m) => m.id === id);
  if (!found) throw refused(400, 'noMeter', 'This meter is not in the shop’s list. Choose one from the list.', 'meter');
  return found;
}

export async function saveMeter(db: Db, act: Act, form: MeterForm): Promise<{ id: string }> {
  const what = { right: 'editShop', action: 'meter saved', payload: form, detail: { name: form.name, address: form.address } } as const;
  return actOnce(db, act, what, async (tx) => {
    const { id: given, ...fields } = form;
    const meters = await listMeters(tx);
    const before = given === undefined ? undefined : meters.find((m) => m.id === given);
    if (given !== undefined && !before) throw refused(404, 'noMeter', 'This meter is no longer in the list. Check again.');
    if (before?.simulated) throw refused(409, 'simulated', 'The simulated meter is not edited.');
    if (meters.some((m) => m.id !== given && m.name.toLowerCase() === fields.name.toLowerCase()))
      throw refused(409, 'nameTaken', 'A meter with this name exists already. Choose another name.', 'name');
    const id = given ?? randomUUID();
    await tx
      .insert(meter)
      .values({ id, ...fields })
      .onConflictDoUpdate({ target: meter.id, set: fields });
    await notify(tx, { what: 'library' });
    return { id };
  });
}

/** Takes a meter out of use; what was measured with it keeps its description. */
export async function retireMeter(db: Db, act: Act, id: string): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'meter retired', payload: id, detail: { meter: id } }, async (tx) => {
    const changed = await tx.update(meter).set({ retired: true }).where(eq(meter.id, id)).returning({ id: meter.id });
    if (changed.length === 0) throw refused(404, 'noMeter', 'This meter is no longer in the list. Check again.');
    await notify(tx, { what: 'library' });
    return null;
  });
}

/** The stand-in that ships with the app, where it listens; kept under one id, so that a new port replaces the old one. */
export async function enterSimulatedMeter(db: Db, port: number): Promise<void> {
  const row = { name: 'Simulated meter', ranges: simulatedRanges, address: `127.0.0.1:${port}`, simulated: true, retired: false };
  await db
    .insert(meter)
    .values({ id: 'simulated', ...row })
    .onConflictDoUpdate({ target: meter.id, set: row });
}

/** As a data sheet of a middling bench meter would have it; invented. */
export const simulatedRanges: MeterRange[] = [
  { upToOhms: 500, percent: 0.3, digits: 4, resolutionOhms: 0.01 },
  { upToOhms: 5_000, percent: 0.3, digits: 3, resolutionOhms: 0.1 },
  { upToOhms: 50_000, percent: 0.4, digits: 3, resolutionOhms: 1 },
  { upToOhms: 5e6, percent: 1, digits: 4, resolutionOhms: 100 },
];
