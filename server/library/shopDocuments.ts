import { randomInt } from 'node:crypto';
import { and, desc, eq, max, sql } from 'drizzle-orm';
import { checkBody, contentHash, type Library, maxContentBytes } from '../../content/reader';
import type { Ladder } from '../../core/ladder';
import type { DocumentPin, Profile } from '../../core/library';
import type { Layout } from '../../core/memory';
import type { Procedure } from '../../core/procedure';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader, Tx } from '../db/open';
import { document, person, retiredDocument } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { notify } from '../acts/live';
import type { Files } from '../reading/files';

/** The kinds of documents that a shop makes its own of, beside the shipped ones; the kind is also the word for one in a message. */
interface Bodies {
  profile: Profile;
  ladder: Ladder;
  procedure: Procedure;
  layout: Layout;
}
export type ShopKind = keyof Bodies;
export const shopKinds = ['profile', 'ladder', 'procedure', 'layout'] as const satisfies readonly ShopKind[];

/** One version of a document with where it stands. */
export interface DocumentEntry<K extends ShopKind> {
  pin: DocumentPin;
  body: Bodies[K];
  origin: 'shipped' | 'shop';
  enteredAt: number;
  /** Who saved it; empty for what is shipped. */
  by: string;
}
export interface ListedDocument<K extends ShopKind> extends DocumentEntry<K> {
  /** Not offered any more; what was worked with it keeps it. */
  retired: boolean;
}

/** A version that was written once and can't be read as the form is now: it is told with its reason, and takes no page with it. */
export interface Unreadable {
  kind: ShopKind;
  id: string;
  version: number;
  reason: string;
  retired: boolean;
}

type Row = { document: typeof document.$inferSelect; by: string | null };

function read<K extends ShopKind>({ document: d, by }: Row): DocumentEntry<K> | { reason: string } {
  // A body of an older version gets what was added to the form since.
  const parsed = checkBody(d.kind, d.body);
  if (!parsed.ok)
    return {
      reason: parsed.problems
        .slice(0, 3)
        .map((p) => [p.path, p.message].filter(Boolean).join(': '))
        .join(' '),
    };
  return {
    pin: { id: d.id, version: d.version, hash: d.hash },
    body: parsed.value as Bodies[K],
    origin: d.origin === 'shipped' ? 'shipped' : 'shop',
    enteredAt: d.enteredAt,
    by: by ?? '',
  };
}

/** The newest version of each of the shop's own. */
const newestOwn = (db: Reader, kind: ShopKind) =>
  db
    .selectDistinctOn([document.id], { document, by: person.name, retired: retiredDocument.at })
    .from(document)
    .leftJoin(person, eq(document.by, person.id))
    .leftJoin(retiredDocument, and(eq(retiredDocument.kind, document.kind), eq(retiredDocument.id, document.id)))
    .where(and(eq(document.kind, kind), eq(document.origin, 'shop')))
    .orderBy(document.id, desc(document.version));

/** The newest version of each: the shop's own and the shipped ones, by title. What can't be read is left out; `unreadable` tells of it. */
export async function listDocuments<K extends ShopKind>(db: Reader, library: Library, kind: K): Promise<ListedDocument<K>[]> {
  const shop = (await newestOwn(db, kind)).flatMap((row): ListedDocument<K>[] => {
    const entry = read<K>(row);
    return 'reason' in entry ? [] : [{ ...entry, retired: row.retired !== null }];
  });
  const shipped = library.documents.flatMap((d): ListedDocument<K>[] =>
    d.kind === kind
      ? [
          {
            pin: { id: d.id, version: d.version, hash: d.hash },
            body: d.body as Bodies[K],
            origin: 'shipped',
            enteredAt: 0,
            by: '',
            retired: false,
          },
        ]
      : [],
  );
  return [...shop, ...shipped].sort((a, b) => (a.body.title < b.body.title ? -1 : 1));
}

/** The shop's own documents whose newest version can't be read. */
export async function unreadable(db: Reader): Promise<Unreadable[]> {
  const found: Unreadable[] = [];
  for (const kind of shopKinds)
    for (const row of await newestOwn(db, kind)) {
      const entry = read(row);
      if ('reason' in entry)
        found.push({ kind, id: row.document.id, version: row.document.version, reason: entry.reason, retired: row.retired !== null });
    }
  return found;
}

/** What comes by an address may be anything; only this can be the name of a document. */
const isName = (id: string): boolean => /^[a-z][A-Za-z0-9-]{0,59}$/.test(id);

/** Every version of one document that can be read, the newest first; empty when there is none. Versions that only came with a case of another shop are left out. */
export async function documentVersions<K extends ShopKind>(db: Reader, kind: K, id: string): Promise<DocumentEntry<K>[]> {
  if (!isName(id)) return [];
  const rows = await db
    .select({ document, by: person.name })
    .from(document)
    .leftJoin(person, eq(document.by, person.id))
    .where(and(eq(document.kind, kind), eq(document.id, id)))
    .orderBy(desc(document.version));
  return rows.flatMap((row) => {
    const entry = row.document.origin === 'case' ? undefined : read<K>(row);
    return entry && !('reason' in entry) ? [entry] : [];
  });
}

export async function isRetired(db: Reader, kind: ShopKind, id: string): Promise<boolean> {
  const rows = await db
    .select({ id: retiredDocument.id })
    .from(retiredDocument)
    .where(and(eq(retiredDocument.kind, kind), eq(retiredDocument.id, id)));
  return rows.length > 0;
}

const idAlphabet = '23456789abcdefghjkmnpqrstvwxyz';

/** An id in words, with a few letters of chance: documents of two shops must not be taken for each other. */
export function newDocumentId(title: string): string {
  const words = title
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 36)
    .replace(/-+$/, '');
  const chance = Array.from({ length: 4 }, () => idAlphabet[randomInt(idAlphabet.length)]).join('');
  return ['shop', words, chance].filter(Boolean).join('-');
}

/** What a kind of document is called in sentences. */
const called = { profile: 'profile', ladder: 'value chart', procedure: 'procedure', layout: 'layout' } as const;

/** Two who save the same document at once do it one after the other, on any number of servers; held until the transaction ends. */
async function lock(tx: Tx, kind: ShopKind, id: string): Promise<void> {
  if (isName(id)) await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`${kind} ${id}`}))`);
}

/**
 * The newest version, when it is the shop's own; nobody else changes it until the transaction ends.
 * @param from the version that was edited; another newest one is refused, so that nobody's work is covered up
 */
export async function editable<K extends ShopKind>(tx: Tx, kind: K, id: string, from?: number): Promise<Bodies[K]> {
  await lock(tx, kind, id);
  const [newest] = await documentVersions(tx, kind, id);
  if (!newest) throw refused(404, 'noDocument', `This ${called[kind]} was not found.`);
  if (newest.origin === 'shipped') throw refused(409, 'shipped', `Shipped documents can’t be edited. Copy it to a ${called[kind]} of the shop.`);
  if (from !== undefined && newest.pin.version !== from) {
    const message = `Someone saved version ${newest.pin.version} meanwhile. Check it in another tab, then enter your numbers there.`;
    throw refused(409, 'stale', message, 'from');
  }
  return newest.body;
}

/** Saves a body of the shop under the next version number of its id. */
export async function insertNext(tx: Tx, act: Act, body: Bodies[ShopKind]): Promise<DocumentPin> {
  const { kind, id } = body;
  const [row] = await tx
    .select({ version: max(document.version) })
    .from(document)
    .where(and(eq(document.kind, kind), eq(document.id, id)));
  const checked = checkBody(kind, { ...body, version: (row?.version ?? 0) + 1 });
  if (!checked.ok) throw new Refused(400, checked.problems);
  const next = checked.value as Bodies[ShopKind];
  const pin = { id, version: next.version, hash: contentHash(next) };
  await tx.insert(document).values({ kind, ...pin, origin: 'shop', body: next, enteredAt: act.now, by: act.actor.id });
  await notify(tx, { what: 'library' });
  return pin;
}

/** Takes a document of the shop out of what is offered, or back in. */
export async function setRetired(db: Db, act: Act, kind: ShopKind, id: string, retired: boolean): Promise<void> {
  const action = `${called[kind]} ${retired ? 'retired' : 'offered again'}`;
  await actOnce(db, act, { right: 'editLibrary', action, payload: id, detail: { [kind]: id } }, async (tx) => {
    await lock(tx, kind, id);
    const [own] = isName(id)
      ? await tx
          .select({ origin: document.origin })
          .from(document)
          .where(and(eq(document.kind, kind), eq(document.id, id)))
          .orderBy(desc(document.version))
          .limit(1)
      : [];
    if (!own) throw refused(404, 'noDocument', `This ${called[kind]} was not found.`);
    if (own.origin === 'shipped') throw refused(409, 'shipped', `Shipped documents can’t be retired. Only a ${called[kind]} of the shop can.`);
    if (retired) await tx.insert(retiredDocument).values({ kind, id, at: act.now, by: act.actor.id }).onConflictDoNothing();
    else await tx.delete(retiredDocument).where(and(eq(retiredDocument.kind, kind), eq(retiredDocument.id, id)));
    await notify(tx, { what: 'library' });
    return null;
  });
}

/** YAML that a shop takes in, as data of its kind. @throws Refused with path and mend when it is too large, no YAML, or of another kind */
export async function readYaml(files: Pick<Files, 'yaml'>, text: string): Promise<{ kind: ShopKind; value: unknown }> {
  if (Buffer.byteLength(text) > maxContentBytes) {
    const message = `The file is larger than ${maxContentBytes / 1e6} MB. A document of the Library has a few kilobytes; choose the right file.`;
    throw refused(413, 'tooLarge', message, 'file');
  }
  const data = await files.yaml(text);
  if (!data.ok) throw new Refused(400, data.problems);
  const { kind } = data.value as { kind?: unknown };
  if (typeof kind === 'string' && (shopKinds as readonly string[]).includes(kind)) return { kind: kind as ShopKind, value: data.value };
  const message = `The file has ${JSON.stringify(kind)?.slice(0, 80) ?? 'nothing'}. A shop imports profiles, value charts, procedures and layouts: kind: profile, kind: ladder, kind: procedure, or kind: layout.`;
  throw refused(400, 'kind', message, 'kind');
}

/** A document that came as a file: the next version of its id; one with the same content as a version that is there is only pointed at. */
export async function takeIn(
  db: Db,
  act: Act,
  text: string,
  body: Bodies[ShopKind],
): Promise<{ kind: ShopKind; id: string; version: number; known: boolean }> {
  const { kind, id } = body;
  const what = { right: 'editLibrary', action: `${called[kind]} imported`, payload: text, detail: { [kind]: id } } as const;
  return actOnce(db, act, what, async (tx) => {
    await lock(tx, kind, id);
    const versions = await documentVersions(tx, kind, id);
    if (versions[0]?.origin === 'shipped') {
      const message = `"${id}" is the name of a shipped ${called[kind]}. Give yours another id, such as shop-${id}.`;
      throw refused(409, 'shipped', message, 'id');
    }
    const content = (b: Bodies[ShopKind]) => contentHash({ ...b, version: 0 });
    const twin = versions.find((v) => content(v.body) === content(body));
    if (twin) return { kind, id, version: twin.pin.version, known: true };
    const { version } = await insertNext(tx, act, body);
    return { kind, id, version, known: false };
  });
}
