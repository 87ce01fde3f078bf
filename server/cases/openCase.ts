import { randomInt } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { checkAuthority } from './authority';
import { closeCall } from '../calls/calls';
import { checkSeen, enterIdentification, systemPins } from '../diagnosis/identification';
import { type Act, actOnce, doneAt } from '../acts/commands';
import type { Db, Tx } from '../db/open';
import { ability, authority, caseFile, caseKey, counterReading, custody, customer, draft, part } from '../db/schema';
import { refreshCaseSearch } from '../record/cases';
import { refused } from '../base/expected';
import { enterFilm } from '../ledger/lamps';
import { currentProfile } from '../library/profiles';
import type { KeyForm, NewCase } from './forms';
import { notify } from '../acts/live';
import { listBays } from '../shop/shop';

export async function checkBay(tx: Tx, bay: string): Promise<string | null> {
  if (bay === '') return null;
  if (!(await listBays(tx)).some((b) => b.id === bay)) throw refused(400, 'unknownBay', 'This bay does not exist. Choose one from the list.', 'bay');
  return bay;
}

/** Letters and digits that are not taken for each other. */
const codeAlphabet = '23456789ABCDEFGHJKMNPQRSTVWXYZ';

/** A short code for a label that no other key of the shop has: 30 signs in 6 places, tried again in the rare case that it is taken. */
export async function freeKeyCode(tx: Tx): Promise<string> {
  for (;;) {
    const code = Array.from({ length: 6 }, () => codeAlphabet[randomInt(codeAlphabet.length)]).join('');
    if ((await tx.select({ tag: caseKey.tag }).from(caseKey).where(eq(caseKey.code, code))).length === 0) return code;
  }
}

/** A key of the intake with its custody and what the customer says of it. */
export async function insertKey(tx: Tx, act: Act, caseId: number, { here, told, ...key }: KeyForm): Promise<void> {
  await tx.insert(caseKey).values({ ...key, toFit: key.toFit ?? null, caseId, code: await freeKeyCode(tx), present: here });
  // What the shop ordered itself was not handed over by the customer.
  if (here && !key.toFit) await tx.insert(custody).values({ caseId, tag: key.tag, act: 'received', by: act.actor.id, at: doneAt(act) });
  const rows = Object.entries(told).map(([name, result]) => ({
    caseId,
    keyTag: key.tag,
    ability: name,
    result,
    source: 'told' as const,
    by: act.actor.id,
    at: doneAt(act),
  }));
  if (rows.length > 0) await tx.insert(ability).values(rows);
}

export async function createCase(db: Db, library: Library, act: Act, form: NewCase, draftId?: string): Promise<{ id: number }> {
  return actOnce(db, act, { right: 'openCase', action: 'case opened', payload: form, caseOf: (made) => made.id }, async (tx) => {
    const { family, profile } = await systemPins(tx, library, form.system);
    checkSeen(library.features, form.seen);
    const bayId = await checkBay(tx, form.bay);
    for (const a of form.authority) checkAuthority(act, a, 'authority[0].note');
    const customerId =
      form.customer === '' && form.phone === ''
        ? null
        : (await tx.insert(customer).values({ name: form.customer, phone: form.phone }).returning({ id: customer.id }))[0]!.id;
    const [created] = await tx
      .insert(caseFile)
      .values({
        domain: 'shop',
        kind: form.kind,
        state: 'open',
        bayId,
        customerId,
        vehicle: form.vehicle,
        year: form.year ?? null,
        identification: form.identification,
        plate: form.plate,
        words: form.words,
        changed: form.changed,
        symptoms: form.symptoms,
        complaint: form.complaint,
        condition: form.condition,
        familyId: family.id,
        familyVersion: family.version,
        familyHash: family.hash,
        profileId: profile?.id ?? null,
        profileVersion: profile?.version ?? null,
        profileHash: profile?.hash ?? null,
        openedAt: doneAt(act),
        openedBy: act.actor.id,
      })
      .returning({ id: caseFile.id });
    const id = created!.id;
    const own = { caseId: id, by: act.actor.id, at: doneAt(act) };
    for (const key of form.keys) await insertKey(tx, act, id, key);
    if (form.parts.length > 0) {
      await tx.insert(part).values(form.parts.map((p) => ({ ...p, caseId: id })));
      await tx.insert(custody).values(form.parts.map((p) => ({ ...own, tag: p.tag, act: 'received' as const })));
    }
    if (form.counters.length > 0) await tx.insert(counterReading).values(form.counters.map((c) => ({ ...own, ...c, phase: 'before' as const })));
    if (form.authority.length > 0) await tx.insert(authority).values(form.authority.map((a) => ({ ...own, ...a })));
    if (draftId) await tx.delete(draft).where(eq(draft.id, draftId));
    await enterIdentification(tx, act, id, form.seen, { family, profile });
    if (form.call !== undefined) {
      const { film, answered } = await closeCall(tx, library, form.call, id);
      if (answered.length > 0)
        await tx
          .update(caseFile)
          .set({ complaint: { ...form.complaint, phone: answered } })
          .where(eq(caseFile.id, id));
      // A film says nothing of a key; the taps are kept, and read in the case's family.
      const known = profile ? (await currentProfile(tx, profile.id))?.profile : undefined;
      if (film) await enterFilm(tx, act, id, film, family, library.families.get(family.id)!, known);
    }
    await refreshCaseSearch(tx, id);
    await notify(tx, { what: 'case', id });
    return { id };
  });
}
