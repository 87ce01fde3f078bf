import type { Library } from '../../content/reader';
import type { Act } from '../acts/commands';
import type { Db } from '../db/open';
import { readLadder } from './ladders';
import { readLayout } from './layouts';
import { readProcedure } from './procedures';
import { readProfile } from './profiles';
import type { Files } from '../reading/files';
import { readYaml, type ShopKind, takeIn } from './shopDocuments';

/**
 * Takes a profile, a ladder, a procedure or a layout in as YAML, whole or not at all. One that this shop has already becomes its next version; one with the same content is only
 * pointed at.
 * @throws Refused with every problem and its path
 */
export async function importDocument(
  { db, library, files }: { db: Db; library: Library; files: Pick<Files, 'yaml'> },
  act: Act,
  text: string,
): Promise<{ kind: ShopKind; id: string; version: number; known: boolean }> {
  const { kind, value } = await readYaml(files, text);
  switch (kind) {
    case 'profile':
      return takeIn(db, act, text, await readProfile(db, library, value));
    case 'ladder':
      return takeIn(db, act, text, readLadder(value));
    case 'layout':
      return takeIn(db, act, text, readLayout(value));
    case 'procedure':
      return takeIn(db, act, text, readProcedure(library, value));
  }
}
