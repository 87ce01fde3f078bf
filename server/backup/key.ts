import { randomBytes, scryptSync } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, renameSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import { syncFolder, writeThrough } from '../base/disk';

/** A backup can't be made, read or restored: why, and what to do, for a person. */
export class BackupProblem extends Error {}

/** What opens a backup: a password, or the 32 bytes of a key file. */
export type BackupSecret = { password: string } | { key: Uint8Array };

const keyBytes = 32;
/** Shortest password, signs. */
const leastPassword = 12;
/** Cost of turning a password into a key (scrypt, RFC 7914), once for each backup. */
const cost = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };
export const saltBytes = 16;

/** @throws BackupProblem */
export function readKeyFile(path: string): BackupSecret {
  let text: string;
  try {
    if (process.platform !== 'win32' && (statSync(path).mode & 0o077) !== 0)
      throw new BackupProblem(`Others than its owner may read ${path}. Set its mode to 600 (chmod 600).`);
    text = readFileSync(path, 'utf8').trim();
  } catch (error) {
    if (error instanceof BackupProblem) throw error;
    throw new BackupProblem(`${path}: can’t be read (${(error as NodeJS.ErrnoException).code}). Name the key file of the backups.`);
  }
  const key = new Uint8Array(Buffer.from(text, 'base64'));
  if (!/^[A-Za-z0-9+/]{43}=$/.test(text) || key.length !== keyBytes)
    throw new BackupProblem(`${path} does not hold a key: ${keyBytes} bytes in base64. Name the key file of the backups.`);
  return { key };
}

/** The key file, made when there is none yet. */
export function keyFile(path: string): BackupSecret {
  if (!existsSync(path)) {
    writeThrough(`${path}.making`, `${randomBytes(keyBytes).toString('base64')}\n`);
    chmodSync(`${path}.making`, 0o600);
    renameSync(`${path}.making`, path);
    syncFolder(dirname(path));
  }
  return readKeyFile(path);
}

/** @throws BackupProblem for one that is guessed too easily */
export function password(text: string): BackupSecret {
  if (text.length < leastPassword) throw new BackupProblem(`The password of backups has ${text.length} signs; take at least ${leastPassword}.`);
  return { password: text };
}

export const kindOf = (secret: BackupSecret): 'password' | 'key file' => ('key' in secret ? 'key file' : 'password');

export const keyOf = (secret: BackupSecret, salt: Uint8Array): Uint8Array =>
  'key' in secret ? secret.key : new Uint8Array(scryptSync(secret.password.normalize('NFKC'), salt, keyBytes, cost));
