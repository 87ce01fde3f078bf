import { and, eq } from 'drizzle-orm';
import { checkBody, type DocumentBody, type DocumentKind, type Library } from '../../content/reader';
import type { Ladder } from '../../core/ladder';
import { type DocumentPin, type Family, type Profile, renameIds } from '../../core/library';
import type { Procedure } from '../../core/procedure';
import type { Db, Reader } from '../db/open';
import { document } from '../db/schema';
import { log } from '../base/log';
import { readShipped } from '../../content/prepared';

/** Content that can't be used stops the start; the message is for the person who edits it. */
export class BrokenContent extends Error {}

/**
 * Reads the shipped YAML and enters versions the database does not have yet. The same id and version with another hash stops the start: old
 * cases point at that version and must find it as it was.
 * @param prepared folder in which the build has left the content as it has read it
 */
export async function enterContent(db: Db, folder: string, now: number, prepared?: string): Promise<Library> {
  const { library, errors } = readShipped(folder, prepared);
  if (errors.length > 0) throw new BrokenContent(errors.map((e) => `content/${e.file}: ${e.path || 'file'}: ${e.message}`).join('\n'));
  const stored = await db.select({ kind: document.kind, id: document.id, version: document.version, hash: document.hash }).from(document);
  const known = new Map(stored.map((d) => [`${d.kind} ${d.id} ${d.version}`, d.hash]));
  for (const { kind, id, version, hash, body, file } of library.documents) {
    const before = known.get(`${kind} ${id} ${version}`);
    if (before === hash) continue;
    if (before !== undefined) {
      throw new BrokenContent(
        `content/${file}: version: ${kind} "${id}" version ${version} was entered before with other content. Give the changed document version ${version + 1}.`,
      );
    }
    await db.insert(document).values({ kind, id, version, hash, origin: 'shipped', body, enteredAt: now });
  }
  return library;
}

/** `on` is the transaction, where there is one: another connection would wait for it for ever. */
export interface Documents {
  family(pin: DocumentPin, on?: Reader): Promise<Family>;
  profile(pin: DocumentPin, on?: Reader): Promise<Profile>;
  procedure(pin: DocumentPin, on?: Reader): Promise<Procedure>;
  ladder(pin: DocumentPin, on?: Reader): Promise<Ladder>;
}

/** Pinned versions from the database. They never change, so what was read once is kept. */
export function openDocuments(db: Db): Documents {
  const cache = new Map<string, DocumentBody>();
  const get = async <T extends DocumentBody>(kind: DocumentKind, pin: DocumentPin, on: Reader = db): Promise<T> => {
    const name = `${kind} ${pin.id} ${pin.version}`;
    const cached = cache.get(name);
    if (cached) return cached as T;
    const row = (
      await on
        .select()
        .from(document)
        .where(and(eq(document.kind, kind), eq(document.id, pin.id), eq(document.version, pin.version)))
    )[0];
    // Whoever asked at the same time may have been quicker: it is read into its form once.
    const meanwhile = cache.get(name);
    if (meanwhile) return meanwhile as T;
    if (!row || row.hash !== pin.hash) throw new Error(`Pinned document ${name} with hash ${pin.hash} is not in the database`);
    // A body of an older version gets what was added to the form since. One that no longer passes the check is used as it was written: the case that
    // pins it was worked with it, and its page stays.
    const parsed = checkBody(kind, row.body);
    if (!parsed.ok)
      log.warn(
        { document: name, problems: parsed.problems.slice(0, 3).map((p) => p.path) },
        'A pinned document does not pass the check of its form any more.',
      );
    const body = (parsed.ok ? parsed.value : renameIds(row.body)) as T;
    cache.set(name, body);
    return body;
  };
  return {
    family: (pin, on) => get<Family>('family', pin, on),
    profile: (pin, on) => get<Profile>('profile', pin, on),
    procedure: (pin, on) => get<Procedure>('procedure', pin, on),
    ladder: (pin, on) => get<Ladder>('ladder', pin, on),
  };
}
