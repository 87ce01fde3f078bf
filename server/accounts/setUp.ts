import type { Db } from '../db/open';
import { insertBays, writeShop } from '../shop/shop';
import type { SetUp } from './forms';
import { needsSetUp, setUpOver, setUpOwner } from './people';
import { type Cost, hashSecret } from '../base/secret';
import { beginSession, type Browser } from './sessions';

/** The first start: shop, bays and owner, all or nothing; the owner is signed in. Returns the token for the cookie. */
export async function setUpShop(db: Db, form: SetUp, browser: Browser, now: number, cost?: Cost): Promise<string> {
  if (!(await needsSetUp(db))) throw setUpOver();
  const hash = await hashSecret(form.password, cost);
  return db.transaction(async (tx) => {
    const owner = await setUpOwner(tx, { name: form.name, hash }, now);
    await writeShop(tx, { name: form.shop, address: '', phone: '', currency: form.currency, labourRate: 0, equipment: [], units: form.units });
    await insertBays(
      tx,
      Array.from({ length: form.bays }, (_, i) => `Bay ${i + 1}`),
    );
    return beginSession(tx, owner, browser, false, now);
  });
}
