import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { audit, person } from '../db/schema';
import { refused } from '../base/expected';
import { type Cost, verifySecret } from '../base/secret';
import { beginSession, type Browser, forgetSessions } from './sessions';
import { countTry, forgive } from './throttle';
import type { SignIn } from './forms';

/** Names are compared without regard to case, width and spacing. */
export const nameKey = (name: string): string => name.normalize('NFKC').trim().replace(/\s+/g, ' ').toLowerCase();

/**
 * Signs in. Unknown name, person without an account, locked person and wrong password take the same way, the same time and get the same text.
 * @returns the token for the cookie
 * @throws Refused 403, or 429 with the time to wait
 */
export async function signIn(
  db: Db,
  form: SignIn,
  browser: Browser,
  now: number,
  before?: string,
  cost?: Cost,
): Promise<{ token: string; personId: string; hasPin: boolean }> {
  const key = nameKey(form.name);
  const tried = { name: key, address: browser.address };
  await countTry(db, tried, now);
  const [found] = await db.select().from(person).where(eq(person.nameKey, key));
  const usable = found?.state === 'active' ? found.password : null;
  const right = await verifySecret(form.password, usable, cost);
  if (!found || !right) throw refused(403, 'wrongSignIn', 'Name and password don’t match. Check both, then try again.');
  await forgive(db, tried);
  const token = await db.transaction(async (tx) => {
    await tx.insert(audit).values({ at: now, by: found.id, action: 'signed in', detail: form.atBay ? { device: 'stays at a bay' } : {} });
    await forgetSessions(tx, now);
    return beginSession(tx, found.id, browser, form.atBay, now, before);
  });
  return { token, personId: found.id, hasPin: found.pin !== null };
}
