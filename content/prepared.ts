// The shipped content as the build has read and checked it, so that a start need not do so again.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { type ReadContent, readContent } from './reader';

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

/** What one of several places has prepared of exactly these files; undefined where none has. */
export function readPreparedIn(folder: string, places: readonly string[]): ReadContent | undefined {
  const path = existsSync(folder) ? places.map((p) => preparedPath(folder, p)).find((p) => existsSync(p)) : undefined;
  return path === undefined ? undefined : (deserialize(readFileSync(path)) as ReadContent);
}

/** The same, prepared first where nobody has done so yet: for tests, each file of which would read all YAML anew. */
export function readPrepared(folder: string, prepared: string): ReadContent {
  if (!existsSync(preparedPath(folder, prepared))) prepareContent(folder, prepared);
  return readShipped(folder, prepared);
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
