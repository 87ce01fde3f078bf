import { eq } from 'drizzle-orm';
import { initialsOf } from '../accounts/people';
import { type Cost, hashSecret } from '../base/secret';
import { nameKey } from '../accounts/signIn';
import type { Db, Reader } from '../db/open';
import { person, type Role } from '../db/schema';
import type { Person } from '../acts/rights';

/** The people of the demo world. Their passwords are no secret: the sign-in page of the demo shows them, and no other page knows them. */
export const demoPeople: readonly { id: string; name: string; role: Role; password: string; pin: string }[] = [
  { id: 'demo-technician', name: 'Teodor Lusk', role: 'technician', password: 'samphire in the rain', pin: '204060' },
  { id: 'demo-lead', name: 'Ines Marrow', role: 'lead', password: 'curlew over the flats', pin: '135790' },
  { id: 'demo-owner', name: 'Maud Ferrow', role: 'owner', password: 'low tide at wexmoor', pin: '908070' },
];

export const demoPerson = (role: Role): Person => {
  const { id, name } = demoPeople.find((p) => p.role === role)!;
  return { id, name, initials: initialsOf(name), role };
};

/** Their passwords and PINs stand on the sign-in page, so a costly hash would protect nothing: at most this. */
const mostN = 2 ** 12;

export async function enterDemoPeople(db: Db, now: number, shopCost: Cost): Promise<void> {
  const cost = { ...shopCost, N: Math.min(shopCost.N, mostN), p: 1 };
  for (const { id, name, role, password, pin } of demoPeople) {
    await db.insert(person).values({
      id,
      name,
      initials: initialsOf(name),
      role,
      state: 'active',
      nameKey: nameKey(name),
      password: await hashSecret(password, cost),
      pin: await hashSecret(pin, cost),
      createdAt: now,
    });
  }
}

/** Whether the database holds the demo world, so that nothing of the demo can open a shop's own data. */
export async function isDemoData(db: Reader): Promise<boolean> {
  return (
    (
      await db
        .select({ id: person.id })
        .from(person)
        .where(eq(person.id, demoPerson('owner').id))
    ).length > 0
  );
}
