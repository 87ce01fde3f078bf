import type { CaseFile } from './caseFile';
import { type Act, actOnce } from '../acts/commands';
import type { Db } from '../db/open';
import type { Files } from '../reading/files';
import { enterCase } from './enterCase';

/**
 * Takes over a case that another shop exported: checked whole, then taken whole in one transaction, or refused whole with everything that is
 * wrong with it. Runs that were going on are taken over as stopped: their clock was another shop's.
 */
export async function importCase({ db, files }: { db: Db; files: Pick<Files, 'caseFile'> }, act: Act, file: Uint8Array): Promise<{ id: number }> {
  const { form, photos, hash } = await files.caseFile<CaseFile>(file);
  return actOnce(
    db,
    act,
    { right: 'importCase', action: 'case imported', payload: hash, caseOf: (made) => made.id, detail: { number: form.case.number } },
    (tx) => enterCase(tx, act, form, photos),
  );
}
