import { randomUUID } from 'node:crypto';
import { and, asc, eq, gt, isNotNull, isNull } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import type { Db, Reader, Tx } from '../db/open';
import { person, release, sealed, shop } from '../db/schema';
import { itemOf } from './held';

/** How long somebody who was released may open, and how long a request waits, ms. */
export const releaseMs = 10 * 60_000;

/** Where two people are asked for: uses up what somebody else released to this person. @throws Refused */
export async function useRelease(tx: Tx, act: Act, id: string): Promise<void> {
  const [on] = await tx.select({ two: shop.releaseByTwo }).from(shop);
  if (!on?.two) return;
  const mine = and(
    eq(release.sealedId, id),
    eq(release.by, act.actor.id),
    isNull(release.usedAt),
    isNotNull(release.grantedAt),
    gt(release.grantedAt, act.now - releaseMs),
  );
  const [found] = await tx.select({ id: release.id }).from(release).where(mine).orderBy(asc(release.at)).limit(1).for('update');
  if (!found) throw refused(409, 'notReleased', 'Two people open this: ask for its release, and have another lead release it within ten minutes.');
  await tx.update(release).set({ usedAt: act.now }).where(eq(release.id, found.id));
}

/** Asks somebody else to release an item. @returns the id of the request */
export async function askRelease(db: Db, act: Act, caseId: number, id: string, reason: string): Promise<string> {
  const detail = { item: id, reason };
  return actOnce(db, act, { right: 'openSecrets', action: 'release asked for', payload: [caseId, id, reason], caseId, detail }, async (tx) => {
    await itemOf(tx, caseId, id);
    const asked = randomUUID();
    await tx.insert(release).values({ id: asked, sealedId: id, reason, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id: caseId });
    return asked;
  });
}

/** Releases an item to whoever asked; nobody releases to themselves. */
export async function grantRelease(db: Db, act: Act, caseId: number, requestId: string): Promise<void> {
  await actOnce(
    db,
    act,
    { right: 'openSecrets', action: 'released', payload: [caseId, requestId], caseId, detail: { release: requestId } },
    async (tx) => {
      const [row] = await tx
        .select({ release })
        .from(release)
        .innerJoin(sealed, eq(sealed.id, release.sealedId))
        .where(and(eq(release.id, requestId), eq(sealed.caseId, caseId)))
        .for('update');
      if (!row) throw refused(404, 'noRequest', 'This request was not found in this case.');
      if (row.release.by === act.actor.id) throw refused(403, 'yourself', 'You asked for this release yourself. Another lead has to release it.');
      if (row.release.grantedAt !== null) throw refused(409, 'granted', 'This was released already.');
      await tx.update(release).set({ grantedBy: act.actor.id, grantedAt: act.now }).where(eq(release.id, requestId));
      await notify(tx, { what: 'case', id: caseId });
      return null;
    },
  );
}

/** Releases of a case that are asked for or granted, and neither used nor over. */
export async function pendingReleases(
  db: Reader,
  caseId: number,
  now: number,
): Promise<{ id: string; item: string; by: string; byId: string; reason: string; granted: boolean }[]> {
  const rows = await db
    .select({ release, by: person.name })
    .from(release)
    .innerJoin(sealed, eq(sealed.id, release.sealedId))
    .innerJoin(person, eq(person.id, release.by))
    .where(and(eq(sealed.caseId, caseId), isNull(release.usedAt), isNull(sealed.destroyedAt)))
    .orderBy(asc(release.at));
  return rows
    .filter(({ release: r }) => (r.grantedAt ?? r.at) > now - releaseMs)
    .map(({ release: r, by }) => ({ id: r.id, item: r.sealedId, by, byId: r.by, reason: r.reason, granted: r.grantedAt !== null }));
}

export async function setReleaseByTwo(db: Db, act: Act, on: boolean): Promise<void> {
  await actOnce(db, act, { right: 'setRelease', action: on ? 'release by two people on' : 'release by two people off', payload: on }, async (tx) => {
    await tx.update(shop).set({ releaseByTwo: on });
    return null;
  });
}

export async function isReleaseByTwo(db: Reader): Promise<boolean> {
  const [row] = await db.select({ on: shop.releaseByTwo }).from(shop);
  return row?.on ?? false;
}
