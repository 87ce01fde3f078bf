import { existsSync, mkdirSync, mkdtempSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { KeyStore } from './keyStore';
import { syncFolder } from '../base/disk';
import { makeMasterFile, type MasterKey, NoMasterKey, readMasterFile, readMasterKey } from './masterKey';

/** Where the master key and the keys of cases and items are. */
export interface VaultPlace {
  /** Folder of the vault's keys, beside the database. */
  folder: string;
  /** The master key itself in base64, in place of its file. */
  key?: string;
}

/** The keys, or why the vault is closed while everything else is open. */
export type VaultKeys = { open: true; store: KeyStore } | { open: false; why: string };

const masterPath = (folder: string) => join(folder, 'master.key');
/** There while the master key is being exchanged: the new one. */
const nextPath = (folder: string) => join(folder, 'master.key.next');
const keysPath = (folder: string) => join(folder, 'keys');

/**
 * Opens the keys. A vault that was never used gets a master key; one that was and has none stays closed.
 * @param used whether something is sealed in the database
 */
export function openKeys({ folder, key }: VaultPlace, used: boolean): VaultKeys {
  try {
    const masters = mastersOf(folder, key, used);
    return { open: true, store: new KeyStore(keysPath(folder), masters) };
  } catch (error) {
    if (error instanceof NoMasterKey) return { open: false, why: error.message };
    throw error;
  }
}

function mastersOf(folder: string, given: string | undefined, used: boolean): [MasterKey, ...MasterKey[]] {
  if (given !== undefined) return [readMasterKey(given, 'BLOODSTONE_VAULT_KEY')];
  const path = masterPath(folder);
  const next = existsSync(nextPath(folder)) ? [readMasterFile(nextPath(folder))] : [];
  const [first, ...more] = [...next, ...(existsSync(path) ? [readMasterFile(path)] : [])];
  if (first) return [first, ...more];
  if (used || existsSync(keysPath(folder)))
    throw new NoMasterKey(`The vault’s master key is missing: ${path}. Put it back from where you keep it, then start again. Everything else works.`);
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  syncFolder(dirname(folder));
  return [makeMasterFile(path)];
}

/**
 * Exchanges the master key: a new one is made, every case's key is wrapped by it, then it takes the old one's place. Ended in the middle, it is gone on with
 * the next time; until then both are there and everything opens.
 * @returns how many cases' keys were wrapped
 * @throws NoMasterKey
 */
export function rotateMaster(folder: string): number {
  const old = readMasterFile(masterPath(folder));
  const next = existsSync(nextPath(folder)) ? readMasterFile(nextPath(folder)) : makeMasterFile(nextPath(folder));
  const count = new KeyStore(keysPath(folder), [next, old]).rewrap();
  renameSync(nextPath(folder), masterPath(folder));
  syncFolder(folder);
  return count;
}

/** Keys for a database in memory: in a folder of their own that goes with the process. */
export function fleetingFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-vault-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  return folder;
}
