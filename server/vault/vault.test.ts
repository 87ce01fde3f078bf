import { readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { readAudit } from '../acts/audit';
import { recordAuthority } from '../cases/authority';
import { closeNotDone } from '../cases/closing';
import { readReport } from '../cases/report';
import { audit, command, passing, person, release, sealed } from '../db/schema';
import { hashSecret } from '../base/secret';
import { mostPacked } from '../../core/burst';
import { cheap, Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { destroyItem, dispose, finishDestroying, listSealed, openItem, overdue, sealItem, type Sealing, sweepKeys } from './items';
import { vaultFolder } from './folders.testing';
import { openKeys } from './keys';
import { compareTyped, secretsOf, waitMs, wrongTries } from './compare';
import { makePassing, passingMs, takePassing } from './passing';
import { askRelease, grantRelease, pendingReleases, releaseMs, setReleaseByTwo } from './release';
import type { KeyStore } from './keyStore';
import type { With } from './held';

let harness: Harness;
const folder = vaultFolder();
beforeAll(async () => {
  harness = await Harness.open();
  const second = { id: 'l2', name: 'Brandt Osk', initials: 'BO', role: 'lead', state: 'active' } as const;
  await harness.db.insert(person).values({ ...second, nameKey: 'brandt osk', password: await hashSecret('x', cheap) });
});
afterAll(() => harness.close());
beforeEach(() => setReleaseByTwo(harness.db, harness.act(owner), false));

const keys = openKeys({ folder }, false);
const on = (): With => ({ db: harness.db, keys });
const store = () => (keys as { store: KeyStore }).store;
const other = { ...lead, id: 'l2', name: 'Brandt Osk' };
const secret = '3F A8 19 C4 77 0B 5D E2';
const bare = '3FA819C4770B5DE2';
const form: Sealing = {
  name: 'Secret of the body control module',
  kind: 'secret',
  reason: 'Key is written today.',
  text: secret,
  again: bare,
  alphabet: 'hex',
  fileName: '',
};
const files = { photo: (file: Uint8Array) => harness.services.files.photo(file) };
const seal = (caseId: number, more: Partial<Sealing> = {}, file?: Uint8Array, act = harness.act()) =>
  sealItem({ ...on(), files }, act, caseId, { ...form, ...more }, file);
const text = ({ bytes }: { bytes: Uint8Array }) => new TextDecoder().decode(bytes);
async function authorized(): Promise<number> {
  const id = await harness.openCase();
  await recordAuthority(harness.db, harness.act(), id, { kind: 'registration', note: '' });
  return id;
}

describe('sealing and opening', () => {
  test('what was typed twice comes out again, without its blanks; every step has its line in the audit log, and no line has the secret', async () => {
    const id = await authorized();
    const item = await seal(id);
    expect(text(await openItem(on(), harness.act(), id, item, 'For the tool'))).toBe(bare);
    const lines = await readAudit(harness.db, { text: '', caseId: id });
    expect(lines.map((l) => l.action)).toEqual(expect.arrayContaining(['sealed', 'opened']));
    const everything = JSON.stringify([
      lines,
      await harness.db.select().from(audit),
      await harness.db.select().from(command),
      await listSealed(harness.db, id),
      await harness.db.select().from(sealed),
    ]);
    for (const plain of [bare, secret, Buffer.from(bare).toString('base64'), Buffer.from(bare).toString('hex')])
      expect(everything).not.toContain(plain);
  });

  test('a memory file byte for byte with its digest; a photo is made anew', async () => {
    const id = await authorized();
    const bytes = Uint8Array.from({ length: 4096 }, (_, i) => (i * 7) & 255);
    const item = await seal(id, { kind: 'memory', name: 'Box, first read', fileName: 'box.bin' }, bytes);
    expect([...(await openItem(on(), harness.act(), id, item, 'Compare')).bytes]).toEqual([...bytes]);
    expect((await listSealed(harness.db, id))[0]).toMatchObject({
      name: 'Box, first read',
      file: 'box.bin',
      size: 4096,
      digest: expect.stringMatching(/^[0-9a-f]{16}$/),
    });
    expect(await refusal(seal(id, { kind: 'photo', name: 'Label' }, bytes))).toMatchObject({ status: 400 });
    const taken = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#2a7454' } })
      .withExif({ IFD0: { Copyright: 'somebody' } })
      .jpeg()
      .toBuffer();
    const photo = (await openItem(on(), harness.act(), id, await seal(id, { kind: 'photo', name: 'Label', fileName: 'a.jpg' }, taken), 'Look')).bytes;
    expect(await sharp(photo).metadata()).toMatchObject({ width: 40, height: 30 });
    expect(Buffer.from(photo).toString('latin1')).not.toContain('somebody');
  });

  test.each<[string, Partial<Sealing>, object]>([
    ['nothing typed', { text: ' ', again: '' }, { code: 'noText', path: 'text' }],
    [
      'two entries that differ',
      { again: '3FA819C4770B5DE3' },
      { code: 'differ', path: 'again', message: 'The two entries differ. Type both again, each from the original.' },
    ],
    ['a character that is none', { text: '3G', again: '3G' }, { path: 'text', message: expect.stringContaining('Another character is in it.') }],
    ['a memory without its file', { kind: 'memory' }, { code: 'noFile', path: 'file' }],
  ])('%s is refused', async (_what, more, answer) => {
    expect(await refusal(seal(await authorized(), more))).toMatchObject({ status: 400, ...answer });
  });

  test('without authority on record, in a parked case, by a technician: nothing is sealed or opened, and no key is left', async () => {
    const bareCase = await harness.openCase();
    const before = [...store().items()].length;
    expect(await refusal(seal(bareCase))).toMatchObject({ status: 409, code: 'locked', message: expect.stringMatching(/authority/i) });
    const id = await authorized();
    expect(await refusal(seal(id, {}, undefined, harness.act(technician)))).toMatchObject({ status: 403, code: 'notAllowed' });
    expect([...store().items()].length).toBe(before);
    const item = await seal(id);
    for (const work of [
      openItem(on(), harness.act(technician), id, item, 'I want to'),
      destroyItem(on(), harness.act(technician), id, item, 'I want to'),
      makePassing(on(), harness.act(technician), id, item, 'I want to'),
    ])
      expect(await refusal(work)).toMatchObject({ status: 403 });
    expect(await refusal(openItem(on(), harness.act(), bareCase, item, 'From another case'))).toMatchObject({ status: 404, code: 'noItem' });
  });

  test('the same act sent again seals once, and opens once', async () => {
    const id = await authorized();
    const act = harness.act();
    const [first, again] = [await seal(id, {}, undefined, act), await seal(id, {}, undefined, act)];
    expect(again).toBe(first);
    expect(await listSealed(harness.db, id)).toHaveLength(1);
    expect(await refusal(seal(id, { text: 'AB', again: 'AB' }, undefined, act))).toMatchObject({ status: 409, code: 'idReused' });
    const open = harness.act();
    await openItem(on(), open, id, first, 'Once');
    expect(await refusal(openItem(on(), open, id, first, 'Once'))).toMatchObject({ status: 409, code: 'openedBefore' });
  });

  test('a capture has 6 MB at most: the last byte decides', async () => {
    const id = await authorized();
    const capture = (bytes: number) => seal(id, { kind: 'capture', name: 'capture', fileName: 'scope.wav.gz' }, new Uint8Array(bytes));
    expect(await refusal(capture(mostPacked + 1))).toMatchObject({
      status: 413,
      message: 'The file is larger than 6 MB. Choose the right file, or a shorter one.',
    });
    await capture(mostPacked);
    expect((await listSealed(harness.db, id)).map((i) => [i.kind, i.size])).toEqual([['capture', mostPacked]]);
  });

  test('a hundred at once under one id: one item, one key', async () => {
    const id = await authorized();
    const act = harness.act();
    const made = await Promise.all(Array.from({ length: 100 }, () => seal(id, {}, undefined, act)));
    expect(new Set(made).size).toBe(1);
    expect(await listSealed(harness.db, id)).toHaveLength(1);
    expect([...store().items()].filter((k) => k.caseId === id)).toHaveLength(1);
  });

  test('forty items at most, also when a hundred come at once', async () => {
    const id = await authorized();
    const made = await Promise.all(Array.from({ length: 100 }, (_, i) => refusal(seal(id, { name: `Item ${i}` }))));
    expect(made.filter((m) => m === 'accepted')).toHaveLength(40);
    expect(made.find((m) => m !== 'accepted')).toMatchObject({ status: 409, code: 'manyItems' });
    expect([...store().items()].filter((k) => k.caseId === id)).toHaveLength(40);
  });
});

describe('exchanged or changed', () => {
  test('two items whose envelopes are exchanged, a renamed one, one moved to another case, a changed byte: none opens', async () => {
    const [id, elsewhere] = [await authorized(), await authorized()];
    const [a, b] = [await seal(id, { name: 'A' }), await seal(id, { name: 'B', text: 'AB', again: 'AB' })];
    const row = async (item: string) => (await harness.db.select().from(sealed).where(eq(sealed.id, item)))[0]!;
    const [rowA, rowB] = [await row(a), await row(b)];
    const put = (item: string, to: object) => harness.db.update(sealed).set(to).where(eq(sealed.id, item));
    const open = (item: string, caseId = id) => refusal(openItem(on(), harness.act(), caseId, item, 'Look'));
    await put(a, { envelope: rowB.envelope });
    expect(await open(a)).toMatchObject({ status: 409, code: 'changed' });
    await put(a, { envelope: rowA.envelope });
    expect(await open(a)).toBe('accepted');
    await put(a, { name: 'B' });
    expect(await open(a)).toMatchObject({ code: 'changed' });
    await put(a, { name: 'A', caseId: elsewhere });
    expect(await open(a, elsewhere)).toMatchObject({ code: 'keyGone' });
    const changed = new Uint8Array(rowA.envelope!);
    changed[20]! ^= 1;
    await put(a, { caseId: id, envelope: changed });
    expect(await open(a)).toMatchObject({ code: 'changed', message: expect.stringContaining('it was changed, or exchanged with another one') });
  });

  test('a copy of the database without its keys, or with another master key: nothing opens, and it says why', async () => {
    const id = await authorized();
    const item = await seal(id);
    const restored = openKeys({ folder: vaultFolder() }, true);
    expect(restored).toMatchObject({
      open: false,
      why: expect.stringMatching(
        /^The vault’s master key is missing: .*Put it back from where you keep it, then start again\. Everything else works\.$/,
      ),
    });
    const open = (k: With['keys']) => refusal(openItem({ db: harness.db, keys: k }, harness.act(), id, item, 'Restored'));
    expect(await open(restored)).toMatchObject({ status: 409, code: 'vaultClosed' });
    const stranger = openKeys({ folder: vaultFolder() }, false);
    expect(await open(stranger)).toMatchObject({ status: 409, code: 'keyGone' });
    const given = openKeys({ folder, key: Buffer.alloc(32, 7).toString('base64') }, true);
    expect(await open(given)).toMatchObject({ status: 409, code: 'otherMaster' });
    expect(openKeys({ folder, key: 'short' }, true)).toMatchObject({ open: false, why: expect.stringContaining('32 bytes in base64') });
    expect(await open(keys)).toBe('accepted');
  });
});

describe('destroying', () => {
  test('the key is gone from the disk, and an older copy of the row doesn’t open either', async () => {
    const id = await authorized();
    const item = await seal(id);
    const [older] = await harness.db.select().from(sealed).where(eq(sealed.id, item));
    expect(readdirSync(join(folder, 'keys', String(id)))).toContain(`${item}.key`);
    await destroyItem(on(), harness.act(), id, item, 'The job is done.');
    expect(readdirSync(join(folder, 'keys', String(id)))).toEqual(['case.key']);
    expect((await listSealed(harness.db, id))[0]).toMatchObject({ disposition: 'destroyed', destroyed: { why: 'The job is done.' } });
    expect(await refusal(openItem(on(), harness.act(), id, item, 'Again'))).toMatchObject({ code: 'destroyed' });
    await harness.db
      .update(sealed)
      .set({ ...older! })
      .where(eq(sealed.id, item));
    expect(await refusal(openItem(on(), harness.act(), id, item, 'Restored'))).toMatchObject({ code: 'keyGone' });
  });

  test('ended in between: the start finishes it; keys that nobody wrote down go after an hour', async () => {
    const id = await authorized();
    const item = await seal(id);
    await harness.db.update(sealed).set({ destroyedAt: 1, destroyedBy: lead.id, destroyedWhy: 'x' }).where(eq(sealed.id, item));
    expect(store().has(id, item)).toBe(true);
    await finishDestroying(harness.db, store());
    expect(store().has(id, item)).toBe(false);
    const orphan = '00000000-0000-4000-8000-000000000001';
    store().makeItemKey(id, orphan);
    await sweepKeys(harness.db, store(), Date.now() + 59 * 60_000);
    expect(store().has(id, orphan)).toBe(true);
    await sweepKeys(harness.db, store(), Date.now() + 61 * 60_000);
    expect(store().has(id, orphan)).toBe(false);
    expect([...store().items()].length).toBeGreaterThan(0);
  });

  test('kept until a day, given away, overdue', async () => {
    const id = await authorized();
    const item = await seal(id);
    const { now } = harness.act();
    const day = 24 * 3600_000;
    expect(await refusal(dispose(harness.db, harness.act(), id, item, { disposition: 'kept', keepUntil: now }))).toMatchObject({
      status: 400,
      path: 'keepUntil',
    });
    await dispose(harness.db, harness.act(), id, item, { disposition: 'kept', keepUntil: now + day });
    const over = async (at: number) => (await overdue(harness.db, at)).map((o) => o.id);
    expect(await over(now + day)).not.toContain(item);
    expect(await over(now + day + 1)).toContain(item);
    await dispose(harness.db, harness.act(), id, item, { disposition: 'given', keepUntil: null });
    expect(await over(now + 2 * day)).not.toContain(item);
  });
});

describe('two people', () => {
  test('one asks, another one releases, and it opens once within ten minutes', async () => {
    const id = await authorized();
    const item = await seal(id);
    expect(await refusal(setReleaseByTwo(harness.db, harness.act(lead), true))).toMatchObject({ status: 403 });
    await setReleaseByTwo(harness.db, harness.act(owner), true);
    const open = (act = harness.act()) => refusal(openItem(on(), act, id, item, 'For the tool'));
    expect(await open()).toMatchObject({ status: 409, code: 'notReleased' });
    const asked = await askRelease(harness.db, harness.act(), id, item, 'For the tool');
    expect(await open()).toMatchObject({ code: 'notReleased' });
    expect(await refusal(grantRelease(harness.db, harness.act(), id, asked))).toMatchObject({ status: 403, code: 'yourself' });
    const now = harness.services.clock.now();
    expect((await pendingReleases(harness.db, id, now)).map((p) => [p.item, p.by, p.granted])).toEqual([[item, 'Ines Marrow', false]]);
    await grantRelease(harness.db, harness.act(other), id, asked);
    // Whoever released it doesn't open it by that.
    expect(await open(harness.act(other))).toMatchObject({ code: 'notReleased' });
    const tries = await Promise.all(Array.from({ length: 100 }, () => open()));
    expect(tries.filter((t) => t === 'accepted')).toHaveLength(1);
    expect(await pendingReleases(harness.db, id, now)).toEqual([]);
    const second = await askRelease(harness.db, harness.act(), id, item, 'Again');
    await grantRelease(harness.db, harness.act(other, now), id, second);
    expect(await open(harness.act(lead, now + releaseMs))).toMatchObject({ code: 'notReleased' });
    expect(await open(harness.act(lead, now + releaseMs - 1))).toBe('accepted');
    expect(await refusal(grantRelease(harness.db, harness.act(other), id, second))).toMatchObject({ code: 'granted' });
    expect(await harness.db.select().from(release)).toHaveLength(2);
  });
});

describe('to a second device', () => {
  test('one of a hundred at once gets it, and nobody after two minutes', async () => {
    const id = await authorized();
    const item = await seal(id);
    const now = harness.services.clock.now();
    const token = await makePassing(on(), harness.act(lead, now), id, item, 'To the tool');
    expect(JSON.stringify(await harness.db.select().from(passing))).not.toContain(token);
    expect(JSON.stringify(await harness.db.select().from(command))).not.toContain(token);
    expect(await refusal(takePassing(on(), harness.act(technician), token))).toMatchObject({ status: 403 });
    const all = await Promise.all(Array.from({ length: 100 }, () => takePassing(on(), harness.act(other, now), token).then(text, () => 'refused')));
    expect(all.filter((t) => t === bare)).toHaveLength(1);
    expect(all.filter((t) => t === 'refused')).toHaveLength(99);
    const late = await makePassing(on(), harness.act(lead, now), id, item, 'Again');
    expect(await refusal(takePassing(on(), harness.act(lead, now + passingMs), late))).toMatchObject({ status: 409, code: 'codeOver' });
    expect(await refusal(takePassing(on(), harness.act(lead, now + passingMs - 1), late))).toBe('accepted');
    expect(await refusal(takePassing(on(), harness.act(lead, now), 'nothing'))).toMatchObject({ code: 'codeOver' });
  });
});

describe('what is typed, compared with the sealed one', () => {
  const compare = (id: string, item: string, typed: string, act = harness.act(technician)) => compareTyped(on(), act, Number(id), item, typed);
  test('a technician learns yes or no; blanks and small letters don’t matter; a file of text and one of bytes are the same secret', async () => {
    const id = await authorized();
    const ask = (item: string, typed: string) => compare(String(id), item, typed);
    const item = await seal(id);
    expect(await secretsOf(harness.db, id)).toEqual([{ id: item, name: form.name }]);
    expect([await ask(item, secret.toLowerCase()), await ask(item, bare.replace('5D', '5E')), await ask(item, `${bare}0`)]).toEqual([
      true,
      false,
      false,
    ]);
    const asText = await seal(id, { fileName: 'a.txt' }, new TextEncoder().encode('3fa819c4-770b5de2\r\n'));
    const asBytes = await seal(id, { fileName: 'a.bin' }, Uint8Array.from(Buffer.from(bare, 'hex')));
    expect([await ask(asText, bare), await ask(asBytes, bare)]).toEqual([true, true]);
    const memory = await seal(id, { kind: 'memory', fileName: 'm.bin' }, new Uint8Array(8));
    expect(await refusal(ask(memory, '0000000000000000'))).toMatchObject({ status: 404 });
    expect(JSON.stringify([await harness.db.select().from(audit), await harness.db.select().from(command)])).not.toContain(bare);
  });
  test('eight wrong ones, also when a hundred come at once: then nobody compares for half an hour, not the right one either', async () => {
    const id = await authorized();
    const item = await seal(id);
    const now = harness.services.clock.now();
    const at = (typed: string, moment: number) => refusal(compare(String(id), item, typed, harness.act(technician, moment)));
    const all = await Promise.all(Array.from({ length: 100 }, (_, i) => at(`AA${String(i).padStart(4, '0')}`, now)));
    expect(all.filter((a) => a === 'accepted')).toHaveLength(wrongTries);
    expect(all.find((a) => a !== 'accepted')).toMatchObject({
      status: 429,
      message: 'Too many entries that differ. Wait 30 min, and find out which original is the right one.',
    });
    expect(await at(bare, now + waitMs - 1)).toMatchObject({ status: 429 });
    expect(await compare(String(id), item, bare, harness.act(technician, now + waitMs))).toBe(true);
    expect(await compare(String(id), item, 'AA', harness.act(technician, now + waitMs))).toBe(false);
  });
});

describe('hand-over', () => {
  test('a case with sealed items is not closed before somebody says what becomes of each; the report tells of them and shows none', async () => {
    const id = await authorized();
    const [a, b] = [await seal(id, { name: 'A' }), await seal(id, { name: 'B' })];
    const close = () => refusal(closeNotDone(harness.db, harness.act(), id, { reason: 'The customer declined.', returned: [] }));
    expect(await close()).toMatchObject({
      status: 409,
      code: 'sealedLeft',
      message: '2 items are in the vault of this case. Decide there for each: keep, give or destroy.',
    });
    await destroyItem(on(), harness.act(), id, a, 'Not needed any more.');
    expect(await close()).toMatchObject({ message: expect.stringContaining('One item is in the vault') });
    await dispose(harness.db, harness.act(), id, b, { disposition: 'given', keepUntil: null });
    expect(await close()).toBe('accepted');
    const report = JSON.stringify(await readReport(harness.services, id));
    for (const line of ['Sealed in the vault', 'Destroyed for good', 'A: Not needed any more.', 'B: Key is written today. (given to the customer)'])
      expect(report).toContain(line);
    expect(report).not.toContain(bare);
  });
});

test('no file of the vault has a plain key of an item or a plain secret in it', async () => {
  const id = await authorized();
  const item = await seal(id);
  const key = Buffer.from(store().itemKey(id, item));
  const every = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((f) => f.isFile());
  expect(every.length).toBeGreaterThan(3);
  for (const file of every) {
    const body = readFileSync(join(file.parentPath, file.name));
    for (const plain of [key.toString('base64'), key.toString('hex'), bare]) expect(body.toString('latin1')).not.toContain(plain);
    expect(body.includes(key)).toBe(false);
  }
  rmSync(folder, { recursive: true });
});
