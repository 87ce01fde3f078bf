import { and, eq, gt, isNull } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { refused } from '../base/expected';
import { newToken, tokenHash } from '../base/secret';
import { passing, sealed } from '../db/schema';
import { itemOf, type Opened, opened, plainFrom, type With, withAuthority } from './held';
import { useRelease } from './release';

/** How long a code for a second device lives, ms. */
export const passingMs = 2 * 60_000;

/** A code that brings an item to a second device of the shop, once and within two minutes. Only its hash is kept. */
export async function makePassing({ db, keys }: With, act: Act, caseId: number, id: string, reason: string): Promise<string> {
  const store = opened(keys);
  let token: string | undefined;
  await actOnce(
    db,
    act,
    { right: 'openSecrets', action: 'code for a second device', payload: [caseId, id, reason], caseId, detail: { item: id, reason } },
    async (tx) => {
      const row = await itemOf(tx, caseId, id);
      await withAuthority(tx, caseId);
      // What can't be opened gets no code.
      plainFrom(store, row);
      await useRelease(tx, act, id);
      token = newToken();
      await tx.insert(passing).values({ hash: tokenHash(token), sealedId: id, by: act.actor.id, at: act.now });
      return null;
    },
  );
  if (token === undefined) throw refused(409, 'openedBefore', 'This code was made already. Make another one.');
  return token;
}

/** What the code brings, to the first who comes with it. */
export async function takePassing({ db, keys }: With, act: Act, token: string): Promise<Opened> {
  const store = opened(keys);
  const hash = tokenHash(token);
  let out: Opened | undefined;
  await actOnce(db, act, { right: 'openSecrets', action: 'taken to a second device', payload: hash }, async (tx) => {
    const [used] = await tx
      .update(passing)
      .set({ usedBy: act.actor.id, usedAt: act.now })
      .where(and(eq(passing.hash, hash), isNull(passing.usedAt), gt(passing.at, act.now - passingMs)))
      .returning({ id: passing.sealedId });
    const [row] = used ? await tx.select().from(sealed).where(eq(sealed.id, used.id)) : [];
    if (!row) throw refused(409, 'codeOver', 'This code was used, or it is older than two minutes. Make another one on the first device.');
    out = { name: row.name, kind: row.kind, file: row.file, bytes: plainFrom(store, row) };
    return null;
  });
  if (!out) throw refused(409, 'openedBefore', 'This was taken already. Make another code on the first device.');
  return out;
}
