import { createHash, randomUUID } from 'node:crypto';
import { and, count, eq } from 'drizzle-orm';
import { openCaseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader } from '../db/open';
import { photo } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import type { Files } from '../reading/files';

const mostPhotos = 60;

export async function attachPhoto(
  { db, files }: { db: Db; files: Pick<Files, 'photo'> },
  act: Act,
  caseId: number,
  file: Uint8Array,
  form: { caption: string; key: string | null },
): Promise<void> {
  const encoded = await files.photo(file);
  const payload = [caseId, form, createHash('sha256').update(file).digest('hex')];
  await actOnce(db, act, { right: 'attachPhotos', action: 'photo attached', payload, caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    if (form.key !== null && !record.keys.some((k) => k.tag === form.key))
      throw refused(400, 'unknownKey', `Tag ${form.key} does not belong to this case.`, 'key');
    const [{ photos } = { photos: 0 }] = await tx.select({ photos: count() }).from(photo).where(eq(photo.caseId, caseId));
    if (photos >= mostPhotos) throw refused(409, 'manyPhotos', `A case holds ${mostPhotos} photos at most.`, 'file');
    await tx.insert(photo).values({ id: randomUUID(), caseId, keyTag: form.key, caption: form.caption, ...encoded, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** A photo of this case; the address of another case does not show it. */
export async function findPhoto(db: Reader, caseId: number, id: string): Promise<{ data: Uint8Array; type: string } | undefined> {
  const [found] = await db
    .select({ data: photo.data, type: photo.type })
    .from(photo)
    .where(and(eq(photo.id, id), eq(photo.caseId, caseId)));
  return found;
}
