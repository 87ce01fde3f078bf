import type { Library } from '../../content/reader';
import type { Act } from '../acts/commands';
import type { Db } from '../db/open';
import { readLadder } from './ladders';
import { readProfile } from './profiles';
import type { Files } from '../reading/files';
import { readYaml, type ShopKind, takeIn } from './shopDocuments';

/**
 * Takes a profile or a ladder in as YAML, whole or not at all. One that this shop has already becomes its next version; one with the same content is only
 * pointed at.
 * @throws Refused with every problem and its path
 */
export async function importDocument(
  { db, library, files }: { db: Db; library: Library; files: Pick<Files, 'yaml'> },
  act: Act,
  text: string,
): Promise<{ kind: ShopKind; id: string; version: number; known: boolean }> {
  const { kind, value } = await readYaml(files, text);
  return takeIn(db, act, text, kind === 'profile' ? await readProfile(db, library, value) : readLadder(value));
}
