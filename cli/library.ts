import { type Library, readContent } from '../content/reader';
import { CannotUse } from './fail';

/** The library of some folders; content that can't be used ends the command with its first problem. */
export function library(folders: string[]): Library {
  const { library: read, errors } = readContent(...folders);
  const first = errors[0];
  if (first) throw new CannotUse(`${first.file}: ${first.path}: ${first.message}`);
  return read;
}
