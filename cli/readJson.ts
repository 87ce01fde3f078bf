import { readFileSync } from 'node:fs';
import { CannotUse } from './fail';

/** What a JSON file holds, not yet checked. @param form how it is written, for the person whose file is not JSON */
export function readJson(file: string, form: string): unknown {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch {
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
  try {
    return JSON.parse(text);
  } catch {
    throw new CannotUse(`${file}: is not JSON. Write ${form}.`);
  }
}
