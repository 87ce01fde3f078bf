import { timingSafeEqual } from 'node:crypto';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { refused } from '../base/expected';
import type { Reader } from '../db/open';
import { sealed } from '../db/schema';
import { itemOf, opened, plainFrom, type With } from './held';

/** Wrong entries in a row, and how long nobody compares after them, ms: whoever guesses gets nowhere. */
export const wrongTries = 8;
export const waitMs = 30 * 60_000;

/** Secrets of a case that what is typed may be compared with: their names, and nothing of them. */
export async function secretsOf(db: Reader, caseId: number): Promise<{ id: string; name: string }[]> {
  return db
    .select({ id: sealed.id, name: sealed.name })
    .from(sealed)
    .where(and(eq(sealed.caseId, caseId), eq(sealed.kind, 'secret'), isNull(sealed.destroyedAt)))
    .orderBy(asc(sealed.at), asc(sealed.id));
}

/** Blanks and dashes are no part of a secret, nor whether its letters are large. */
const bare = (text: string) => text.replace(/[\s-]+/g, '').toUpperCase();

/** As a file of text has it, and as a file of bytes. */
function isSame(plain: Uint8Array, typed: string): boolean {
  const forms = [bare(new TextDecoder().decode(plain)), Buffer.from(plain).toString('hex').toUpperCase()];
  const given = Buffer.from(bare(typed));
  return forms.map((form) => Buffer.from(form)).some((form) => form.length === given.length && timingSafeEqual(form, given));
}

/** Whether what was typed is the sealed secret: only yes or no comes out, and who asked is in the audit log. */
export async function compareTyped({ db, keys }: With, act: Act, caseId: number, id: string, typed: string): Promise<boolean> {
  const store = opened(keys);
  const what = {
    right: 'work',
    action: 'typed secret compared',
    payload: [caseId, id, store.fingerprint(Buffer.from(typed))],
    caseId,
    detail: { item: id },
  } as const;
  const { equal, waitS } = await actOnce(db, act, what, async (tx) => {
    const row = await itemOf(tx, caseId, id);
    if (row.kind !== 'secret') throw refused(404, 'noItem', 'This item was not found in this case.');
    const recent = row.wrongAt !== null && row.wrongAt > act.now - waitMs ? row.wrongTries : 0;
    if (recent >= wrongTries) return { equal: false, waitS: Math.ceil((row.wrongAt! + waitMs - act.now) / 1000) };
    const same = isSame(plainFrom(store, row), typed);
    await tx
      .update(sealed)
      .set(same ? { wrongTries: 0, wrongAt: null } : { wrongTries: recent + 1, wrongAt: act.now })
      .where(eq(sealed.id, id));
    return { equal: same, waitS: 0 };
  });
  if (waitS > 0)
    throw refused(
      429,
      'tooManyWrong',
      `Too many entries that differ. Wait ${Math.ceil(waitS / 60)} min, and find out which original is the right one.`,
    );
  return equal;
}
