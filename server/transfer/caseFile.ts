import { contentHash } from '../../content/reader';
import { renameIdsInRows } from '../../core/library';
import type { Bounds } from '../../core/library/bounds';
import { parseWith } from '../../core/library/parseWith';
import type { Problem } from '../../core/units';
import { Refused, refused } from '../base/expected';
import { documentProblems, findingProblems, nameProblems, replayProblems } from './checkCase';
import { caseForm, type CaseFileForm } from './form';
import { encodePhoto, type Encoded } from '../reading/picture';
import { unpack } from '../reading/zip';

/** The longest lists of a case have five thousand lines of some twenty fields (form.ts); a case of a shop has some thousand values. */
const caseBounds: Bounds = { values: 600_000, entries: 5_000, depth: 40 };

const entryName = /^(case\.json|photos\/[0-9a-f-]{36}\.(jpg|png))$/;

/** A case of another shop, unpacked and checked whole. */
export interface CaseFile {
  form: CaseFileForm;
  /** By the name of their entry. */
  photos: Map<string, Encoded>;
  /** SHA-256 of the case's description. */
  hash: string;
}

/** @throws Refused with every problem */
export async function readCaseFile(file: Uint8Array): Promise<CaseFile> {
  const files = await unpack(file, entryName);
  const body = readJson(files);
  return { ...(await check(body, files)), hash: contentHash(body) };
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

/** A file of before with today's ids in its rows. Its documents stay as their hashes have them and are read with today's ids wherever they are read. */
function asToday(form: CaseFileForm): CaseFileForm {
  if (form.version > 1) return form;
  const { documents, ...rows } = form;
  return { ...renameIdsInRows(rows), documents: documents.map((d) => ({ ...renameIdsInRows({ ...d, body: null }), body: d.body })) };
}

async function check(body: unknown, files: Map<string, Uint8Array>): Promise<Omit<CaseFile, 'hash'>> {
  const parsed = parseWith<CaseFileForm>(caseForm, body, caseBounds);
  if (!parsed.ok) throw new Refused(400, parsed.problems.slice(0, 200));
  const form = asToday(parsed.value);
  const problems: Problem[] = [...nameProblems(form), ...documentProblems(form)];
  if (problems.length === 0) problems.push(...findingProblems(form), ...replayProblems(form));
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
