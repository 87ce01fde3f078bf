import { eq } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import { exchangeFile } from '../../core/learning';
import { mostExchangeBytes } from '../../core/learning/schema';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { Refused, refused } from '../base/expected';
import type { Db } from '../db/open';
import { learnedElsewhere } from '../db/schema';
import type { Files } from '../reading/files';
import { readTallies } from '../record/experience';
import { readShop } from '../shop/shop';

/** Shops whose sums are kept at most. */
export const mostShops = 50;

/** What this shop has learned, for other shops: sums by system type, without names, vehicles and cases. */
export async function exportLearned(db: Db, now: number): Promise<string> {
  const { name } = await readShop(db);
  return exchangeFile(name, new Date(now).toISOString().slice(0, 10), await readTallies(db));
}

/** Takes in what another shop has learned; the same file once. @throws Refused with what is wrong in the file */
export async function importLearned({ db, files }: { db: Db; files: Pick<Files, 'learned'> }, act: Act, file: Uint8Array): Promise<{ shop: string }> {
  if (file.byteLength > mostExchangeBytes)
    throw refused(400, 'large', `The file is larger than ${mostExchangeBytes / 1000} kB. Choose the right file.`, 'file');
  const text = new TextDecoder().decode(file);
  const read = await files.learned(text);
  if (!read.ok)
    throw new Refused(
      400,
      read.problems.map((p) => ({ ...p, path: 'file', message: [p.path !== 'file' && p.path, p.message].filter(Boolean).join(': ') })),
    );
  const { shop, families } = read.value;
  if (Object.keys(families).length === 0) throw refused(400, 'empty', 'Nothing is in this file: that shop has learned nothing yet.', 'file');
  const payload = createHash('sha256').update(text).digest('hex');
  return actOnce(db, act, { right: 'editShop', action: 'learned things imported', payload, detail: { shop } }, async (tx) => {
    await tx.execute('lock table learned_elsewhere in exclusive mode');
    const all = await tx.select().from(learnedElsewhere);
    if (all.some((a) => a.shop === shop && JSON.stringify(a.families) === JSON.stringify(families)))
      throw refused(409, 'hereAlready', `This file is here already, from “${shop}”.`, 'file');
    if (all.length >= mostShops) throw refused(409, 'tooMany', `${mostShops} shops are the most. Remove one first.`, 'file');
    await tx.insert(learnedElsewhere).values({ shop, families, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'library' });
    return { shop };
  });
}

/** Removes what came from another shop, whole; cases that began with it keep what they began with. */
export async function removeLearned(db: Db, act: Act, id: number): Promise<void> {
  await actOnce(db, act, { right: 'editShop', action: 'learned things removed', payload: id, detail: { id } }, async (tx) => {
    const gone = await tx.delete(learnedElsewhere).where(eq(learnedElsewhere.id, id)).returning({ id: learnedElsewhere.id });
    if (gone.length === 0) throw refused(404, 'gone', 'This is gone already. Reload the page.');
    await notify(tx, { what: 'library' });
    return null;
  });
}
