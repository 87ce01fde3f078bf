// The shipped content as the build has read and checked it, so that a start need not do so again.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { type ReadContent, readContent } from '../../content/reader';

/** A short name for exactly these files: another letter in one of them is another name. */
export function contentName(folder: string): string {
  const hash = createHash('sha256').update(process.versions.v8);
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((name) => /\.ya?ml$/.test(name));
  for (const name of files.sort()) {
    const text = readFileSync(join(folder, name));
    hash.update(`\0${name}\0${text.length}\0`).update(text);
  }
  return hash.digest('hex').slice(0, 16);
}

const preparedPath = (folder: string, prepared: string): string => join(prepared, `content-${contentName(folder)}`);

/** @param prepared folder in which the build leaves what it has read; what was changed since is read from its YAML */
export function readShipped(folder: string, prepared?: string): ReadContent {
  const path = prepared === undefined ? undefined : preparedPath(folder, prepared);
  return path !== undefined && existsSync(path) ? (deserialize(readFileSync(path)) as ReadContent) : readContent(folder);
}

/** Part of the build. Content with errors is not prepared: the start reads it and says what is wrong. */
export function prepareContent(folder: string, prepared: string): void {
  const content = readContent(folder);
  if (content.errors.length > 0) return;
  const path = preparedPath(folder, prepared);
  mkdirSync(prepared, { recursive: true });
  writeFileSync(`${path}.${process.pid}`, serialize(content));
  renameSync(`${path}.${process.pid}`, path);
}
