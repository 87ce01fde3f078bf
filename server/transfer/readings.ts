import type { Readings } from '../reading/files';
import { parseYaml } from '../../content/reader';
import { readExchange } from '../../core/learning/schema';
import type { Result } from '../../core/units';
import { readCaseFile } from './caseFile';
import { makePdf } from '../reading/paper';
import { encodePhoto } from '../reading/picture';

/**
 * Everything that is read of a file from outside: bytes or text in, plain data out, and no database. They run in a process of their own
 * (reading/files.ts), so what comes back is data, a refusal too.
 */
export const readings: Readings = {
  yaml: (text: string): Result<unknown> => parseYaml(text),
  caseFile: readCaseFile,
  photo: encodePhoto,
  learned: readExchange,
  paper: makePdf,
};
