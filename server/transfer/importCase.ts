import { contentHash } from '../../content/reader';
import { parseWith } from '../../core/library/parseWith';
import type { Problem } from '../../core/units';
import { type Act, actOnce } from '../commands';
import type { Db } from '../db/open';
import { Refused, refused } from '../expected';
import { encodePhoto, type Encoded } from '../photos';
import { documentProblems, nameProblems, replayProblems } from './checkCase';
import { enterCase } from './enterCase';
import { caseForm, type CaseFileForm } from './form';
import { unpack } from './zip';

const entryName = /^(case\.json|photos\/[0-9a-f-]{36}\.(jpg|png))$/;

/**
 * Takes over a case that another shop exported: checked whole, then taken whole in one transaction, or refused whole with everything that is
 * wrong with it. Runs that were going on are taken over as stopped: their clock was another shop's.
 */
export async function importCase(db: Db, act: Act, file: Uint8Array): Promise<{ id: number }> {
  const files = await unpack(file, entryName);
  const body = readJson(files);
  const { form, photos } = await check(body, files);
  return actOnce(
    db,
    act,
    { right: 'importCase', action: 'case imported', payload: contentHash(body), caseOf: (made) => made.id, detail: { number: form.case.number } },
    (tx) => enterCase(tx, act, form, photos),
  );
}

function readJson(files: Map<string, Uint8Array>): unknown {
  const json = files.get('case.json');
  if (!json) throw refused(400, 'noCaseFile', 'The file holds no case.json. Choose the file that the other shop exported.', 'file');
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(json)) as unknown;
  } catch {
    throw refused(400, 'notJson', 'case.json in the file can’t be read. Export the case again.', 'file');
  }
}

async function check(body: unknown, files: Map<string, Uint8Array>): Promise<{ form: CaseFileForm; photos: Map<string, Encoded> }> {
  const parsed = parseWith<CaseFileForm>(caseForm, body);
  if (!parsed.ok) throw new Refused(400, parsed.problems.slice(0, 200));
  const form = parsed.value;
  const problems: Problem[] = [...nameProblems(form), ...documentProblems(form)];
  if (problems.length === 0) problems.push(...replayProblems(form));
  const photos = new Map<string, Encoded>();
  for (const [i, { file }] of form.photos.entries()) {
    const data = files.get(file);
    try {
      if (data) photos.set(file, await encodePhoto(data));
      else problems.push({ code: 'photoMissing', path: `photos[${i}].file`, message: `${file} is not in the file. Export the case again.` });
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      problems.push(...error.problems.map((p) => ({ ...p, path: `photos[${i}].file` })));
    }
  }
  if (problems.length > 0) throw new Refused(400, problems.slice(0, 200));
  return { form, photos };
}
