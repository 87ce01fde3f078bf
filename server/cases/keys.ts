import { and, eq } from 'drizzle-orm';
import { heldTags } from '../../core/keys';
import { type CaseRecord, openCaseForChange, refreshCaseSearch } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader, Tx } from '../db/open';
import { caseKey, counterReading, custody, customer, part } from '../db/schema';
import { refused } from '../base/expected';
import type { CounterForm, CustodyForm, KeyChange, KeyForm, PartForm } from './forms';
import { notify } from '../acts/live';
import { insertKey } from './openCase';

const tagTaken = (record: CaseRecord, tag: string) => record.keys.some((k) => k.tag === tag) || record.parts.some((p) => p.tag === tag);

/** A key that came later, or one that is ordered. */
export async function addKey(db: Db, act: Act, caseId: number, form: KeyForm): Promise<void> {
  await actOnce(db, act, { right: 'keepKeys', action: 'key added', payload: [caseId, form], caseId, detail: { tag: form.tag } }, async (tx) => {
    if (tagTaken(await openCaseForChange(tx, caseId), form.tag))
      throw refused(409, 'tagTaken', `Tag ${form.tag} exists in this case. Choose another tag.`, 'tag');
    await insertKey(tx, act, caseId, form);
    await changed(tx, caseId);
    return null;
  });
}

/** What is written about a key. Its tag and code stay: they are on its label. */
export async function changeKey(db: Db, act: Act, caseId: number, tag: string, form: KeyChange): Promise<void> {
  await actOnce(db, act, { right: 'keepKeys', action: 'key described', payload: [caseId, tag, form], caseId, detail: { tag } }, async (tx) => {
    keyOf(await openCaseForChange(tx, caseId), tag);
    await tx
      .update(caseKey)
      .set({ ...form, toFit: form.toFit ?? null })
      .where(and(eq(caseKey.caseId, caseId), eq(caseKey.tag, tag)));
    await changed(tx, caseId);
    return null;
  });
}

function keyOf(record: CaseRecord, tag: string) {
  const key = record.keys.find((k) => k.tag === tag);
  if (!key) throw refused(404, 'noKey', `Case ${record.number} has no key with the tag ${tag}.`);
  return key;
}

/** A key or part changes hands. A key that comes is here from then on; one that goes back is not. */
export async function recordCustody(db: Db, act: Act, caseId: number, form: CustodyForm): Promise<void> {
  await actOnce(db, act, { right: 'keepKeys', action: `${form.act}: ${form.tag}`, payload: [caseId, form], caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    if (!tagTaken(record, form.tag)) throw refused(404, 'noTag', `Case ${record.number} has nothing with the tag ${form.tag}.`, 'tag');
    const held = heldTags(record.custody).includes(form.tag);
    if (form.act === 'returned' && !held) throw refused(409, 'notHeld', `Tag ${form.tag} is not in the shop, so it can’t be returned.`, 'tag');
    if (form.act === 'received' && held) throw refused(409, 'held', `Tag ${form.tag} is in the shop already.`, 'tag');
    const contactId =
      form.person === '' ? null : (await tx.insert(customer).values({ name: form.person, phone: '' }).returning({ id: customer.id }))[0]!.id;
    await tx.insert(custody).values({ caseId, tag: form.tag, act: form.act, contactId, by: act.actor.id, at: act.now });
    await tx
      .update(caseKey)
      .set({ present: form.act === 'received' })
      .where(and(eq(caseKey.caseId, caseId), eq(caseKey.tag, form.tag)));
    await changed(tx, caseId);
    return null;
  });
}

export async function addPart(db: Db, act: Act, caseId: number, form: PartForm): Promise<void> {
  await actOnce(db, act, { right: 'keepKeys', action: 'part received', payload: [caseId, form], caseId, detail: { tag: form.tag } }, async (tx) => {
    if (tagTaken(await openCaseForChange(tx, caseId), form.tag))
      throw refused(409, 'tagTaken', `Tag ${form.tag} exists in this case. Choose another tag.`, 'tag');
    await tx.insert(part).values({ ...form, caseId });
    await tx.insert(custody).values({ caseId, tag: form.tag, act: 'received', by: act.actor.id, at: act.now });
    await changed(tx, caseId);
    return null;
  });
}

export async function readCounter(db: Db, act: Act, caseId: number, form: CounterForm & { phase: 'before' | 'after' }): Promise<void> {
  await actOnce(db, act, { right: 'readCounters', action: 'counter read', payload: [caseId, form], caseId, detail: { ...form } }, async (tx) => {
    await openCaseForChange(tx, caseId);
    await tx.insert(counterReading).values({ ...form, caseId, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

async function changed(tx: Tx, caseId: number): Promise<void> {
  await refreshCaseSearch(tx, caseId);
  await notify(tx, { what: 'case', id: caseId });
}

/** The key whose label carries this code. */
export async function findKeyCode(db: Reader, code: string): Promise<{ caseId: number; tag: string } | undefined> {
  const [found] = await db.select({ caseId: caseKey.caseId, tag: caseKey.tag }).from(caseKey).where(eq(caseKey.code, code.toUpperCase()));
  return found;
}
