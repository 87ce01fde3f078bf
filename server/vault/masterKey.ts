import { createHash } from 'node:crypto';
import { chmodSync, readFileSync, renameSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import { syncFolder, writeThrough } from '../base/disk';
import { keyBytes, newKey } from './envelope';

/** The key that wraps the keys of the cases. It is never in the database. */
export interface MasterKey {
  key: Uint8Array;
  /** The beginning of its SHA-256: tells which key wrapped something, and nothing of the key. */
  mark: string;
}

export const markOf = (key: Uint8Array): string => createHash('sha256').update(key).digest('hex').slice(0, 16);
const asMaster = (key: Uint8Array): MasterKey => ({ key, mark: markOf(key) });

/** Why there is no master key, for a person: what is wrong and what to do. */
export class NoMasterKey extends Error {}

/** A key in base64, as the environment and the file have it. @throws NoMasterKey */
export function readMasterKey(text: string, where: string): MasterKey {
  const key = new Uint8Array(Buffer.from(text.trim(), 'base64'));
  if (!/^[A-Za-z0-9+/]{43}=$/.test(text.trim()) || key.length !== keyBytes)
    throw new NoMasterKey(`${where} does not hold a master key: ${keyBytes} bytes in base64. Put the right one there, then start again.`);
  return asMaster(key);
}

/** The key in a file that only its owner may read. @throws NoMasterKey */
export function readMasterFile(path: string): MasterKey {
  // Who else may read the file reads the vault as well. Windows keeps no such modes.
  if (process.platform !== 'win32' && (statSync(path).mode & 0o077) !== 0)
    throw new NoMasterKey(`Others than its owner may read ${path}. Set its mode to 600 (chmod 600), then start again.`);
  return readMasterKey(readFileSync(path, 'utf8'), path);
}

/** Writes a new key to a file that only its owner may read, through to the disk, or leaves what is there. */
export function makeMasterFile(path: string): MasterKey {
  const key = newKey();
  const next = `${path}.making`;
  writeThrough(next, `${Buffer.from(key).toString('base64')}\n`);
  chmodSync(next, 0o600);
  renameSync(next, path);
  syncFolder(dirname(path));
  return asMaster(key);
}
