import { createHash, randomUUID } from 'node:crypto';
import { alias } from 'drizzle-orm/pg-core';
import { and, asc, eq, getTableColumns, isNotNull, isNull, lt } from 'drizzle-orm';
import { mostPacked } from '../../core/burst';
import { type Alphabet, alphabetWords, type Entry, readEntry } from '../../core/copycheck';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { unwatched } from '../base/watchdog';
import type { Db, Reader } from '../db/open';
import { type Disposition, person, sealed, type SealedKind } from '../db/schema';
import type { Files } from '../reading/files';
import { openCaseForChange } from '../record/cases';
import { sealBytes } from './envelope';
import { itemOf, type Opened, opened, placeOf, plainFrom, type With, withAuthority } from './held';
import type { KeyStore } from './keyStore';
import { useRelease } from './release';

/** Most of one item, bytes; and most items of a case. */
export const mostSealed = 17 * 1024 * 1024;

const mostItems = 40;

/** An item as everybody may see it: what it is, and nothing of what is in it. */
export interface SealedItem {
  id: string;
  name: string;
  kind: SealedKind;
  file: string;
  size: number;
  /** The beginning of the digest of a memory file. */
  digest: string;
  reason: string;
  by: string;
  at: number;
  disposition: Disposition | null;
  keepUntil: number | null;
  destroyed: { at: number; by: string; why: string } | null;
}

const destroyer = alias(person, 'destroyer');
/** Lists read no envelope: it may be megabytes. */
const { envelope: _envelope, ...withoutEnvelope } = getTableColumns(sealed);

export async function listSealed(db: Reader, caseId: number): Promise<SealedItem[]> {
  const rows = await db
    .select({ sealed: withoutEnvelope, by: person.name, destroyer: destroyer.name })
    .from(sealed)
    .innerJoin(person, eq(person.id, sealed.by))
    .leftJoin(destroyer, eq(destroyer.id, sealed.destroyedBy))
    .where(eq(sealed.caseId, caseId))
    .orderBy(asc(sealed.at), asc(sealed.id));
  return rows.map(({ sealed: s, by, destroyer: destroyedBy }) => ({
    id: s.id,
    name: s.name,
    kind: s.kind,
    file: s.file,
    size: s.size,
    digest: s.digest.slice(0, 16),
    reason: s.reason,
    by,
    at: s.at,
    disposition: s.disposition,
    keepUntil: s.keepUntil,
    destroyed: s.destroyedAt === null ? null : { at: s.destroyedAt, by: destroyedBy ?? '', why: s.destroyedWhy ?? '' },
  }));
}

export interface Sealing {
  name: string;
  kind: SealedKind;
  reason: string;
  /** A secret that is typed, twice. */
  text: string;
  again: string;
  alphabet: Alphabet;
  /** Name of the file, for what isn't typed. */
  fileName: string;
}

/** What is to be sealed: the file as it came, a picture anew, or what was typed twice alike. @throws Refused */
async function plainOf(files: Pick<Files, 'photo'>, form: Sealing, file: Uint8Array | undefined): Promise<Uint8Array> {
  const most = form.kind === 'capture' ? mostPacked : mostSealed;
  if (file && file.byteLength > most)
    throw refused(413, 'tooLarge', `The file is larger than ${most / 1024 / 1024} MB. Choose the right file, or a shorter one.`, 'file');
  if (form.kind === 'photo' && file) return (await files.photo(file)).data;
  if (file) return file;
  if (form.kind !== 'secret') throw refused(400, 'noFile', 'No file was chosen. Choose one.', 'file');
  // Blanks and dashes between groups are no part of a secret.
  const [first, second] = [form.text, form.again].map((typed) => readEntry(typed, { alphabet: form.alphabet })) as [Entry, Entry];
  if (first.text === '') throw refused(400, 'noText', 'Type the secret, or choose its file.', 'text');
  if (first.problems[0])
    throw refused(400, first.problems[0].code, `It is made of: ${alphabetWords[form.alphabet]}. Another character is in it.`, 'text');
  if (first.text !== second.text) throw refused(400, 'differ', 'The two entries differ. Type both again, each from the original.', 'again');
  return new TextEncoder().encode(first.text);
}

/** Seals an item. What is sealed goes into nothing but its envelope: not into the act's record, nor into a log. */
export async function sealItem(
  { db, keys, files }: With & { files: Pick<Files, 'photo'> },
  act: Act,
  caseId: number,
  form: Sealing,
  file?: Uint8Array,
): Promise<string> {
  const store = opened(keys);
  const plain = await plainOf(files, form, file);
  const { name, kind, reason, fileName } = form;
  let made: string | undefined;
  const payload = [caseId, name, kind, reason, store.fingerprint(plain)];
  try {
    // Megabytes are sealed and stored on this thread: meanwhile nobody is taken for hanging.
    return await unwatched(() =>
      actOnce(db, act, { right: 'sealSecrets', action: 'sealed', payload, caseId, detail: { name, kind, reason } }, async (tx) => {
        await openCaseForChange(tx, caseId);
        await withAuthority(tx, caseId);
        const there = await tx.select({ id: sealed.id }).from(sealed).where(eq(sealed.caseId, caseId));
        if (there.length >= mostItems) throw refused(409, 'manyItems', `A case holds ${mostItems} sealed items at most.`);
        const id = randomUUID();
        made = id;
        const envelope = sealBytes(store.makeItemKey(caseId, id), plain, placeOf({ caseId, id, kind, name }));
        const digest = kind === 'memory' ? createHash('sha256').update(plain).digest('hex') : '';
        await tx.insert(sealed).values({
          id,
          caseId,
          name,
          kind,
          file: file ? fileName : '',
          size: plain.length,
          digest,
          envelope,
          reason,
          by: act.actor.id,
          at: act.now,
        });
        await notify(tx, { what: 'case', id: caseId });
        return id;
      }),
    );
  } catch (error) {
    if (made !== undefined) store.destroyItemKey(caseId, made);
    throw error;
  }
}

/** Opens an item for whoever asks, once: the same act sent again opens nothing. @param how what is written in the audit log */
export async function openItem(
  { db, keys }: With,
  act: Act,
  caseId: number,
  id: string,
  reason: string,
  how: 'opened' | 'copied out' = 'opened',
): Promise<Opened> {
  const store = opened(keys);
  let out: Opened | undefined;
  await actOnce(db, act, { right: 'openSecrets', action: how, payload: [caseId, id, reason], caseId, detail: { item: id, reason } }, async (tx) => {
    const row = await itemOf(tx, caseId, id);
    await withAuthority(tx, caseId);
    out = { name: row.name, kind: row.kind, file: row.file, bytes: plainFrom(store, row) };
    await useRelease(tx, act, id);
    return null;
  });
  if (!out) throw refused(409, 'openedBefore', 'This was opened already. Open it again if you need it again.');
  return out;
}

/** Removes an item for good. First it is written down, then its key goes, then what it sealed; ended in between, it is gone on with at the start. */
export async function destroyItem({ db, keys }: With, act: Act, caseId: number, id: string, reason: string): Promise<void> {
  const store = opened(keys);
  await actOnce(
    db,
    act,
    { right: 'destroySecrets', action: 'destroyed', payload: [caseId, id, reason], caseId, detail: { item: id, reason } },
    async (tx) => {
      const row = await itemOf(tx, caseId, id);
      if (row.destroyedAt !== null) throw refused(409, 'destroyed', 'This item was destroyed already.');
      await tx
        .update(sealed)
        .set({ destroyedBy: act.actor.id, destroyedAt: act.now, destroyedWhy: reason, disposition: 'destroyed', keepUntil: null })
        .where(eq(sealed.id, id));
      await notify(tx, { what: 'case', id: caseId });
      return null;
    },
  );
  await finishDestroying(db, store);
}

/** Keys and envelopes of what is written down as destroyed. */
export async function finishDestroying(db: Db, store: KeyStore): Promise<void> {
  const rows = await db
    .select({ id: sealed.id, caseId: sealed.caseId })
    .from(sealed)
    .where(and(isNotNull(sealed.destroyedAt), isNotNull(sealed.envelope)));
  for (const { id, caseId } of rows) {
    store.destroyItemKey(caseId, id);
    await db.update(sealed).set({ envelope: null }).where(eq(sealed.id, id));
  }
}

/** What becomes of an item that stays: kept until the end of a day, or given to the customer. */
export async function dispose(
  db: Db,
  act: Act,
  caseId: number,
  id: string,
  form: { disposition: 'kept' | 'given'; keepUntil: number | null },
): Promise<void> {
  const detail = { item: id, ...form };
  await actOnce(db, act, { right: 'sealSecrets', action: 'sealed item kept or given', payload: [caseId, id, form], caseId, detail }, async (tx) => {
    const row = await itemOf(tx, caseId, id);
    if (row.destroyedAt !== null) throw refused(409, 'destroyed', 'This item was destroyed already.');
    if (form.disposition === 'kept' && (form.keepUntil === null || form.keepUntil <= act.now))
      throw refused(400, 'keepUntil', 'Until when is it kept? Choose a day that is still to come.', 'keepUntil');
    await tx
      .update(sealed)
      .set({ disposition: form.disposition, keepUntil: form.disposition === 'kept' ? form.keepUntil : null })
      .where(eq(sealed.id, id));
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** Items of a case of which nobody has said what becomes of them. */
export async function undecided(db: Reader, caseId: number): Promise<number> {
  const rows = await db
    .select({ id: sealed.id })
    .from(sealed)
    .where(and(eq(sealed.caseId, caseId), isNull(sealed.disposition), isNull(sealed.destroyedAt)));
  return rows.length;
}

/** Items that were to be kept until a day that is over, in every case. */
export async function overdue(db: Reader, now: number): Promise<{ id: string; caseId: number; name: string; keepUntil: number }[]> {
  const rows = await db
    .select({ id: sealed.id, caseId: sealed.caseId, name: sealed.name, keepUntil: sealed.keepUntil })
    .from(sealed)
    .where(and(eq(sealed.disposition, 'kept'), isNull(sealed.destroyedAt), lt(sealed.keepUntil, now)))
    .orderBy(asc(sealed.keepUntil));
  return rows.map((r) => ({ ...r, keepUntil: r.keepUntil! }));
}

/** Keys of items that were never written down, since the server ended in between: after an hour nobody waits for them any more. */
export async function sweepKeys(db: Reader, store: KeyStore, nowMs: number): Promise<void> {
  const known = new Set((await db.select({ id: sealed.id }).from(sealed)).map((r) => r.id));
  for (const { caseId, item, madeMs } of store.items()) if (!known.has(item) && madeMs < nowMs - 60 * 60_000) store.destroyItemKey(caseId, item);
}
