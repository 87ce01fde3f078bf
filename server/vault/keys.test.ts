import { chmodSync, copyFileSync, existsSync, mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newKey, NotOpened, openBytes, sealBytes } from './envelope';
import { vaultFolder } from './folders.testing';
import { openKeys, rotateMaster } from './keys';
import { KeyGone, KeyStore, OtherMaster } from './keyStore';
import { makeMasterFile, readMasterFile } from './masterKey';

const item = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
const storeOf = (folder: string, used = false): KeyStore => {
  const keys = openKeys({ folder }, used);
  if (!keys.open) throw new Error(keys.why);
  return keys.store;
};

describe('an envelope', () => {
  const key = newKey();
  const plain = Uint8Array.from({ length: 100 }, (_, i) => i);
  test('opens with its key, in its place, and nowhere else', () => {
    const sealed = sealBytes(key, plain, 'here');
    expect([...openBytes(key, sealed, 'here')]).toEqual([...plain]);
    expect(() => openBytes(key, sealed, 'there')).toThrow(NotOpened);
    expect(() => openBytes(newKey(), sealed, 'here')).toThrow(NotOpened);
    expect(sealed.length).toBe(100 + 12 + 16);
    expect(Buffer.from(sealBytes(key, plain, 'here')).equals(Buffer.from(sealed))).toBe(false);
  });
  test('with any byte changed, or any byte missing, it does not open', () => {
    const sealed = sealBytes(key, plain, 'here');
    for (let i = 0; i < sealed.length; i += 1) {
      const changed = sealed.slice();
      changed[i]! ^= 0x10;
      expect(() => openBytes(key, changed, 'here')).toThrow(NotOpened);
      expect(() => openBytes(key, sealed.slice(0, i), 'here')).toThrow(NotOpened);
    }
  });
  test('of nothing is sealed as well', () => expect(openBytes(key, sealBytes(key, new Uint8Array(), 'x'), 'x')).toHaveLength(0));
});

describe('the master key', () => {
  test('is made once, with a mode for its owner alone', () => {
    const folder = vaultFolder();
    storeOf(folder).makeItemKey(1, item(1));
    const path = join(folder, 'master.key');
    expect(statSync(path).mode & 0o777).toBe(0o600);
    const before = readFileSync(path, 'utf8');
    storeOf(folder, true);
    expect(readFileSync(path, 'utf8')).toBe(before);
  });
  test('that others may read, or that is none, closes the vault and says what to do', () => {
    const folder = vaultFolder();
    storeOf(folder);
    const path = join(folder, 'master.key');
    chmodSync(path, 0o644);
    expect(openKeys({ folder }, false)).toEqual({
      open: false,
      why: `Others than its owner may read ${path}. Set its mode to 600 (chmod 600), then start again.`,
    });
    chmodSync(path, 0o600);
    writeFileSync(path, 'nonsense');
    expect(openKeys({ folder }, false)).toMatchObject({
      open: false,
      why: expect.stringContaining('does not hold a master key: 32 bytes in base64'),
    });
  });
  test('is never made anew where there are keys of cases', () => {
    const folder = vaultFolder();
    storeOf(folder).makeItemKey(1, item(1));
    renameSync(join(folder, 'master.key'), join(folder, 'kept'));
    expect(openKeys({ folder }, false)).toMatchObject({ open: false });
    expect(existsSync(join(folder, 'master.key'))).toBe(false);
  });
});

describe('exchanging the master key', () => {
  const filled = () => {
    const folder = vaultFolder();
    const store = storeOf(folder);
    const keys = [1, 2, 3].map((n) => store.makeItemKey(n, item(n)));
    return { folder, keys };
  };
  const all = (folder: string) => [1, 2, 3].map((n) => Buffer.from(storeOf(folder, true).itemKey(n, item(n))).toString('hex'));
  const hex = (keys: Uint8Array[]) => keys.map((k) => Buffer.from(k).toString('hex'));

  test('every item opens as before, and the old one opens nothing', () => {
    const { folder, keys } = filled();
    copyFileSync(join(folder, 'master.key'), join(folder, 'old'));
    const old = readMasterFile(join(folder, 'old'));
    expect(rotateMaster(folder)).toBe(3);
    expect(all(folder)).toEqual(hex(keys));
    expect(existsSync(join(folder, 'master.key.next'))).toBe(false);
    expect(() => new KeyStore(join(folder, 'keys'), [old]).itemKey(1, item(1))).toThrow(OtherMaster);
  });

  test('ended in the middle: everything opens, also what is sealed then, and the next time finishes it', () => {
    const { folder, keys } = filled();
    const next = makeMasterFile(join(folder, 'master.key.next'));
    const old = readMasterFile(join(folder, 'master.key'));
    // One case was wrapped anew, two were not.
    const parted = vaultFolder();
    mkdirSync(join(parted, 'keys'));
    const only = new KeyStore(join(folder, 'keys'), [next, old]);
    renameSync(join(folder, 'keys', '2'), join(parted, 'keys', '2'));
    renameSync(join(folder, 'keys', '3'), join(parted, 'keys', '3'));
    expect(only.rewrap()).toBe(1);
    renameSync(join(parted, 'keys', '2'), join(folder, 'keys', '2'));
    renameSync(join(parted, 'keys', '3'), join(folder, 'keys', '3'));
    expect(all(folder)).toEqual(hex(keys));
    const more = storeOf(folder, true).makeItemKey(4, item(4));
    expect(rotateMaster(folder)).toBe(2);
    expect(all(folder)).toEqual(hex(keys));
    expect(Buffer.from(storeOf(folder, true).itemKey(4, item(4))).equals(Buffer.from(more))).toBe(true);
  });
});

describe('keys of items', () => {
  test('belong to their case and their item', () => {
    const folder = vaultFolder();
    const store = storeOf(folder);
    store.makeItemKey(1, item(1));
    store.makeItemKey(1, item(2));
    store.makeItemKey(2, item(3));
    const at = (caseId: number, n: number) => join(folder, 'keys', String(caseId), `${item(n)}.key`);
    copyFileSync(at(1, 1), at(1, 2));
    expect(() => store.itemKey(1, item(2))).toThrow(NotOpened);
    copyFileSync(at(1, 1), at(2, 1));
    expect(() => store.itemKey(2, item(1))).toThrow(NotOpened);
    expect(() => store.itemKey(9, item(1))).toThrow(KeyGone);
    expect(() => store.itemKey(1, '../../master')).toThrow(KeyGone);
  });
  test('destroyed, it is gone; twice is no error', () => {
    const store = storeOf(vaultFolder());
    store.makeItemKey(1, item(1));
    store.destroyItemKey(1, item(1));
    store.destroyItemKey(1, item(1));
    expect(() => store.itemKey(1, item(1))).toThrow(KeyGone);
    expect([...store.items()]).toEqual([]);
  });
});
