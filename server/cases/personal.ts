import { eq, getTableName, inArray } from 'drizzle-orm';
import { caseForChange, type CaseRecord, refreshCaseSearch } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, OpenDatabase, Reader, Tx } from '../db/open';
import { call, caseFile, custody, customer, draft, offer, photo } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';

/** Rows with names and phone numbers that belong to a case: its customer, whoever called for it, and whoever gave or took something. */
async function contactIds(db: Reader, record: CaseRecord): Promise<number[]> {
  const handed = await db.select({ id: custody.contactId }).from(custody).where(eq(custody.caseId, record.id));
  const called = await db.select({ id: call.customerId }).from(call).where(eq(call.caseId, record.id));
  return [...new Set([record.customer?.id ?? null, ...[...handed, ...called].map((h) => h.id)])].filter((id) => id !== null);
}

/** Everything a case holds of a customer, for the customer. */
export async function personalData(db: Db, act: Act, caseId: number) {
  await actOnce(db, act, { right: 'exportPersonalData', action: 'personal data exported', payload: caseId, caseId }, async () => null);
  return db.transaction(async (tx) => {
    const record = await caseForChange(tx, caseId);
    const ids = await contactIds(tx, record);
    const people =
      ids.length === 0 ? [] : await tx.select({ name: customer.name, phone: customer.phone }).from(customer).where(inArray(customer.id, ids));
    return {
      form: 'bloodstone personal data',
      version: 1,
      case: record.number,
      people,
      vehicle: record.vehicle,
      identification: record.identification,
      plate: record.plate,
      words: record.words,
      keys: record.keys.map((k) => k.tag),
      photos: record.photos.length,
      agreements: record.offers.flatMap((e) =>
        e.kind === 'agree' || e.kind === 'decline'
          ? [{ at: new Date(e.at).toISOString(), who: e.who, how: e.how, words: e.words, signed: e.signature !== undefined }]
          : [],
      ),
    };
  });
}

/** Erases names, phone numbers, plate, VIN, photos, signatures and what was said with an agreement of a closed case. The case stays and says so. */
export async function erasePersonalData(database: Pick<OpenDatabase, 'db' | 'purge'>, act: Act, caseId: number): Promise<void> {
  await actOnce(database.db, act, { right: 'erasePersonalData', action: 'personal data erased', payload: caseId, caseId }, async (tx) => {
    const record = await caseForChange(tx, caseId);
    if (record.state !== 'closed') throw refused(409, 'notClosed', 'Personal data of a case is erased when the case is closed. Close it first.');
    await erase(tx, act, record);
    await refreshCaseSearch(tx, caseId);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
  await database.purge(holding);
}

/** Tables that held what is erased: a row that was changed or deleted stays in their files until they are tidied up. */
const holding = [customer, caseFile, call, photo, draft, offer].map(getTableName);

/** Intakes that somebody began and did not finish, and that name the same person or vehicle. */
async function eraseDrafts(tx: Tx, record: CaseRecord, ids: readonly number[]): Promise<void> {
  const people =
    ids.length === 0
      ? []
      : await tx
          .select({ name: customer.name, phone: customer.phone })
          .from(customer)
          .where(inArray(customer.id, [...ids]));
  // Shorter than this may stand in any text.
  const named = [record.plate, record.identification, ...people.flatMap((p) => [p.name, p.phone])]
    .filter((word) => word.length >= 4)
    .map((word) => word.toLowerCase());
  for (const { id, fields } of await tx.select({ id: draft.id, fields: draft.fields }).from(draft)) {
    const text = JSON.stringify(fields).toLowerCase();
    if (named.some((word) => text.includes(JSON.stringify(word).slice(1, -1)))) await tx.delete(draft).where(eq(draft.id, id));
  }
}

async function erase(tx: Tx, act: Act, record: CaseRecord): Promise<void> {
  let ids = await contactIds(tx, record);
  if (record.customer === null) {
    // So that the case can say it: an empty customer that was erased.
    const [made] = await tx.insert(customer).values({ name: '', phone: '', erasedAt: act.now }).returning({ id: customer.id });
    await tx.update(caseFile).set({ customerId: made!.id }).where(eq(caseFile.id, record.id));
    ids = [...ids, made!.id];
  }
  await eraseDrafts(tx, record, ids);
  await tx.update(customer).set({ name: '', phone: '', erasedAt: act.now }).where(inArray(customer.id, ids));
  await tx.update(caseFile).set({ plate: '', identification: '' }).where(eq(caseFile.id, record.id));
  await tx.update(call).set({ plate: '' }).where(eq(call.caseId, record.id));
  await tx.delete(photo).where(eq(photo.caseId, record.id));
  // That somebody agreed, to what and when stays; who it was, in which words and how they sign goes.
  for (const { id, entry } of await tx.select({ id: offer.id, entry: offer.entry }).from(offer).where(eq(offer.caseId, record.id))) {
    if (entry.kind !== 'agree' && entry.kind !== 'decline') continue;
    const { signature: _, ...rest } = entry;
    await tx
      .update(offer)
      .set({ entry: { ...rest, who: '', words: '' } })
      .where(eq(offer.id, id));
  }
}
