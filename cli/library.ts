import { join } from 'node:path';
import { readPreparedIn } from '../content/prepared';
import { type Library, readContent } from '../content/reader';
import { CannotUse } from './fail';

/** Where the build and the tests leave the content as they have read it. */
const prepared = ['build/templates', '.cache/templates'];

/** The library of some folders; content that can't be used ends the command with its first problem. */
export function library(folders: string[]): Library {
  const [only, ...more] = folders;
  const known =
    only !== undefined && more.length === 0
      ? readPreparedIn(
          only,
          prepared.map((p) => join(process.cwd(), p)),
        )
      : undefined;
  const { library: read, errors } = known ?? readContent(...folders);
  const first = errors[0];
  if (first) throw new CannotUse(`${first.file}: ${first.path}: ${first.message}`);
  return read;
}
