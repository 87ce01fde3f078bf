import { desc, eq } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { caseNumber } from '../base/caseNumber';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import type { Db, Reader } from '../db/open';
import { audit, caseFile, customer } from '../db/schema';
import { enterIdentification, systemPins } from '../diagnosis/identification';
import { forget } from '../learning/lessons';
import { caseForChange, refreshCaseSearch } from '../record/cases';
import type { CameBack } from './forms';
import { insertKey } from './openCase';

/** The case as which a vehicle came back, the latest. */
export async function cameBackAs(db: Reader, caseId: number): Promise<{ id: number; number: string } | null> {
  const [found] = await db.select({ id: caseFile.id }).from(caseFile).where(eq(caseFile.cameFrom, caseId)).orderBy(desc(caseFile.id)).limit(1);
  return found ? { id: found.id, number: caseNumber(found.id) } : null;
}

/**
 * Opens a case for a vehicle that came back: the same vehicle, system and keys, linked to the old case, whose proven cause no longer counts for the shop.
 * @throws Refused for a case that is not closed, or that has come back already
 */
export async function cameBack(db: Db, library: Library, act: Act, caseId: number, form: CameBack): Promise<{ id: number }> {
  return actOnce(
    db,
    act,
    { right: 'openCase', action: 'case came back', payload: [caseId, form], caseOf: (made) => made.id, detail: { from: caseId } },
    async (tx) => {
      // Locked, so that of two who open it at once the second is told.
      const old = await caseForChange(tx, caseId);
      if (old.state !== 'closed') throw refused(409, 'notClosed', `Case ${old.number} is not closed: go on in it.`);
      const again = await cameBackAs(tx, caseId);
      if (again) throw refused(409, 'backAlready', `The vehicle is here already, as case ${again.number}. Go on there.`);
      const strange = form.keys.find((tag) => !old.keys.some((k) => k.tag === tag));
      if (strange !== undefined) throw refused(400, 'noKey', `Tag ${strange} is not in case ${old.number}. Reload the page.`, 'keys');
      const known = library.profiles.has(old.profile?.id ?? '') ? `profile:${old.profile!.id}` : `family:${old.family.id}`;
      const { family, profile } = await systemPins(tx, library, known);
      const person = old.customer && old.customer.erasedAt === null ? { name: old.customer.name, phone: old.customer.phone } : null;
      const customerId = person ? (await tx.insert(customer).values(person).returning({ id: customer.id }))[0]!.id : null;
      const [made] = await tx
        .insert(caseFile)
        .values({
          domain: 'shop',
          kind: old.kind,
          state: 'open',
          customerId,
          vehicle: old.vehicle,
          year: old.year,
          identification: old.identification,
          plate: old.plate,
          words: form.words,
          changed: [],
          symptoms: [],
          familyId: family.id,
          familyVersion: family.version,
          familyHash: family.hash,
          profileId: profile?.id ?? null,
          profileVersion: profile?.version ?? null,
          profileHash: profile?.hash ?? null,
          openedAt: act.now,
          openedBy: act.actor.id,
          cameFrom: caseId,
        })
        .returning({ id: caseFile.id });
      const id = made!.id;
      for (const { tag, role, kind, marks, colour, condition, cell, note } of old.keys)
        await insertKey(tx, act, id, {
          tag,
          role: role as never,
          kind,
          marks,
          colour,
          condition,
          cell,
          note,
          here: form.keys.includes(tag),
          told: {},
        });
      await enterIdentification(tx, act, id, old.identifications.at(-1)?.seen ?? {}, { family, profile });
      await forget(tx, caseId);
      // The old case is another one now too.
      await tx.insert(audit).values({ at: act.now, by: act.actor.id, action: 'vehicle came back', caseId, detail: { as: id, command: act.id } });
      await refreshCaseSearch(tx, id);
      await notify(tx, { what: 'case', id });
      await notify(tx, { what: 'case', id: caseId });
      return { id };
    },
  );
}
