import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { refused } from '../base/expected';
import { choice, flag, line, needed } from '../base/field';
import { rowId } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { newToken, tokenHash } from '../base/secret';
import type { Db, Reader } from '../db/open';
import { openAddress, person } from '../db/schema';

/** What an address without signing in is for. */
export const addressKinds = ['wall', 'calendar'] as const;
export type AddressKind = (typeof addressKinds)[number];

/** Most that work at the same time. */
export const mostAddresses = 20;

export interface OpenAddress {
  id: number;
  kind: AddressKind;
  name: string;
  vehicles: boolean;
  by: string;
  at: number;
}

const newAddress = { kind: needed(choice(...addressKinds)), name: needed(line(60)), vehicles: flag() };
export const parseNewAddress = (data: Record<string, unknown>) => parseForm(newAddress, data);
export const parseAddressId = (data: Record<string, unknown>) => parseForm({ id: needed(rowId) }, data).id;

/** Makes an address that works without signing in. Its secret part is shown once and not kept. */
export async function openAddressFor(
  db: Db,
  act: Act,
  form: ReturnType<typeof parseNewAddress>,
): Promise<{ kind: AddressKind; name: string; token: string }> {
  let token: string | undefined;
  const detail = { kind: form.kind, name: form.name, vehicles: form.vehicles };
  await actOnce(db, act, { right: 'openAddresses', action: 'address without signing in made', payload: form, detail }, async (tx) => {
    // One after the other: each sees what the one before made.
    await tx.execute(sql`lock table open_address in exclusive mode`);
    const works = await tx.select({ id: openAddress.id }).from(openAddress).where(isNull(openAddress.revokedAt));
    if (works.length >= mostAddresses)
      throw refused(409, 'tooMany', `${mostAddresses} addresses work at the same time at most. Revoke one that nobody uses.`, 'name');
    token = newToken();
    await tx.insert(openAddress).values({ ...form, hash: tokenHash(token), by: act.actor.id, at: act.now });
    return null;
  });
  if (token === undefined) throw refused(409, 'shownBefore', 'This was done before; its address was shown then. Make a new one if it is needed.');
  return { kind: form.kind, name: form.name, token };
}

/** From then on the address answers nobody. */
export async function revokeAddress(db: Db, act: Act, id: number): Promise<void> {
  await actOnce(
    db,
    act,
    { right: 'openAddresses', action: 'address without signing in revoked', payload: id, detail: { address: id } },
    async (tx) => {
      const gone = await tx
        .update(openAddress)
        .set({ revokedAt: act.now })
        .where(and(eq(openAddress.id, id), isNull(openAddress.revokedAt)))
        .returning({ id: openAddress.id });
      if (gone.length === 0) throw refused(409, 'revoked', 'This address was revoked already. Check the list again.');
      return null;
    },
  );
}

/** Those that work, the newest first. */
export const listAddresses = (db: Reader): Promise<OpenAddress[]> =>
  db
    .select({
      id: openAddress.id,
      kind: openAddress.kind,
      name: openAddress.name,
      vehicles: openAddress.vehicles,
      by: person.name,
      at: openAddress.at,
    })
    .from(openAddress)
    .innerJoin(person, eq(openAddress.by, person.id))
    .where(isNull(openAddress.revokedAt))
    .orderBy(desc(openAddress.id));

/** What an address shows; nothing where it does not work, or is for something else. */
export async function findAddress(db: Reader, kind: AddressKind, token: string): Promise<{ name: string; vehicles: boolean } | undefined> {
  const [found] = await db
    .select({ name: openAddress.name, vehicles: openAddress.vehicles })
    .from(openAddress)
    .where(and(eq(openAddress.hash, tokenHash(token)), eq(openAddress.kind, kind), isNull(openAddress.revokedAt)));
  return found;
}
