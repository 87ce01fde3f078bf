import { createHmac, randomBytes } from 'node:crypto';
import { existsSync, linkSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { newKey, openBytes, sealBytes } from './envelope';
import { syncFolder, writeThrough } from '../base/disk';
import type { MasterKey } from './masterKey';

/** The item's key is not there any more: it was destroyed, or the folder of keys is not the one that belongs to this database. */
export class KeyGone extends Error {}
/** The case's key is wrapped by another master key than the one that is there. */
export class OtherMaster extends Error {}

/**
 * The keys of the vault, in files beside the database and never in it, so that a copy of the database opens nothing, and what was destroyed is not in an
 * older copy either: one key per case, wrapped by the master key; one per item, wrapped by its case's.
 *
 *     keys/CASE/case.key    mark of the master key, then the wrapped key, base64
 *     keys/CASE/ITEM.key    the wrapped key, base64
 */
export class KeyStore {
  /** @param masters the master key that wraps from now on, and while they are exchanged the one before it */
  constructor(
    private readonly folder: string,
    private readonly masters: readonly [MasterKey, ...MasterKey[]],
  ) {}

  /** A new key for an item; on the disk when this returns. */
  makeItemKey(caseId: number, item: string): Uint8Array {
    const caseKey = this.#caseKey(caseId) ?? this.#makeCaseKey(caseId);
    const key = newKey();
    this.#write(this.#itemPath(caseId, item), encode(sealBytes(caseKey, key, itemPlace(caseId, item))));
    return key;
  }

  /** @throws KeyGone | OtherMaster | NotOpened */
  itemKey(caseId: number, item: string): Uint8Array {
    const path = this.#itemPath(caseId, item);
    const caseKey = this.#caseKey(caseId);
    if (!caseKey || !existsSync(path)) throw new KeyGone();
    return openBytes(caseKey, decode(readFileSync(path, 'utf8')), itemPlace(caseId, item));
  }

  /** Tells the same bytes again, to whoever has the master key and to nobody else. */
  fingerprint = (bytes: Uint8Array): string => createHmac('sha256', this.masters[0].key).update(bytes).digest('hex');

  has = (caseId: number, item: string): boolean => existsSync(this.#itemPath(caseId, item));

  /** From here on nobody opens the item, in no copy of the database; gone from the disk's directory when this returns. */
  destroyItemKey(caseId: number, item: string): void {
    const path = this.#itemPath(caseId, item);
    if (!existsSync(path)) return;
    rmSync(path);
    syncFolder(dirname(path));
  }

  /** Every item that has a key. */
  *items(): Generator<{ caseId: number; item: string; madeMs: number }> {
    for (const name of list(this.folder))
      for (const file of list(join(this.folder, name)))
        if (/^\d+$/.test(name) && file.endsWith('.key') && file !== caseFile)
          yield { caseId: Number(name), item: file.slice(0, -4), madeMs: statSync(join(this.folder, name, file)).mtimeMs };
  }

  /** Wraps every case's key by the first master key. One that is wrapped already is left; so it can be ended and begun again. @returns how many were wrapped anew */
  rewrap(): number {
    let count = 0;
    for (const name of list(this.folder).filter((n) => /^\d+$/.test(n))) {
      const path = this.#casePath(Number(name));
      if (!existsSync(path) || readFileSync(path, 'utf8').startsWith(`${this.masters[0].mark} `)) continue;
      this.#write(path, this.#wrapped(Number(name), this.#caseKey(Number(name))!));
      count += 1;
    }
    return count;
  }

  #casePath = (caseId: number) => join(this.folder, String(caseId), caseFile);
  #itemPath(caseId: number, item: string): string {
    if (!/^[0-9a-f-]{36}$/.test(item)) throw new KeyGone();
    return join(this.folder, String(caseId), `${item}.key`);
  }

  #caseKey(caseId: number): Uint8Array | undefined {
    const path = this.#casePath(caseId);
    if (!existsSync(path)) return undefined;
    const [mark = '', wrapped = ''] = readFileSync(path, 'utf8').split(' ');
    const master = this.masters.find((m) => m.mark === mark);
    if (!master) throw new OtherMaster();
    return openBytes(master.key, decode(wrapped), casePlace(caseId));
  }

  #makeCaseKey(caseId: number): Uint8Array {
    // Another server may make one at the same moment: the one that is there first counts.
    this.#write(this.#casePath(caseId), this.#wrapped(caseId, newKey()), 'first');
    return this.#caseKey(caseId)!;
  }

  #wrapped(caseId: number, key: Uint8Array): string {
    const [{ key: master, mark }] = this.masters;
    return `${mark} ${encode(sealBytes(master, key, casePlace(caseId)))}`;
  }

  /** On the disk, whole or not at all. @param which `first`: what is there already stays */
  #write(path: string, text: string, which: 'first' | 'last' = 'last'): void {
    const folder = dirname(path);
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const making = `${path}.${randomBytes(6).toString('hex')}`;
    writeThrough(making, `${text}\n`);
    if (which === 'last') renameSync(making, path);
    else {
      if (!existsSync(path)) linkOnce(making, path);
      rmSync(making);
    }
    for (const named of [folder, this.folder, dirname(this.folder)]) syncFolder(named);
  }
}

function linkOnce(from: string, to: string): void {
  try {
    linkSync(from, to);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
}

const caseFile = 'case.key';
const casePlace = (caseId: number) => `case ${caseId}`;
const itemPlace = (caseId: number, item: string) => `case ${caseId} item ${item}`;
const encode = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');
const decode = (text: string) => new Uint8Array(Buffer.from(text, 'base64'));
const list = (folder: string): string[] => (existsSync(folder) ? readdirSync(folder) : []);
