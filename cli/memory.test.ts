import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeIntelHex, writeSlot, writeSRecord } from '../core/memory';
import { library } from './library';
import { memoryDiff, memoryRead } from './memory';

const shipped = ['content'];
const layout = library(shipped).layouts.get('dunmore-five')!;
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'cli-'));
});
afterEach(() => rmSync(folder, { recursive: true }));
const file = (name: string, body: string | Uint8Array) => {
  writeFileSync(join(folder, name), body);
  return join(folder, name);
};
const blank = { segments: [{ at: 0, bytes: new Uint8Array(256).fill(0xff) }] };
const written = () => {
  const result = writeSlot(blank, layout, 4, { identity: '01020304', role: 'main', band: 'lower' });
  if (!result.ok) throw new Error('not written');
  return result.value.image;
};

test('the same slots from all three forms', () => {
  const image = written();
  const found = [file('a.bin', image.segments[0]!.bytes), file('a.hex', writeIntelHex(image)), file('a.s19', writeSRecord(image))].map((path) =>
    memoryRead(shipped, path, 'dunmore-five'),
  );
  expect(found[0]).toMatchObject({ bytes: 256, problems: [], digest: expect.stringMatching(/^[0-9a-f]{64}$/) });
  expect(found[0]!.slots[3]).toEqual({
    slot: 4,
    state: 'used',
    keyId: '01020304',
    fields: { state: 'used', identity: '01020304', role: 'main', band: 'lower', count: '0' },
  });
  expect(found[1]).toEqual(found[0]);
  expect(found[2]).toEqual(found[0]);
});

test('what changed between two files, also of different forms', () => {
  const diff = memoryDiff(shipped, file('before.bin', blank.segments[0]!.bytes), file('after.s19', writeSRecord(written())), 'dunmore-five');
  expect(diff.outsideSlots).toEqual([]);
  expect(diff.changes.map((c) => [c.slot, c.field, c.after])).toEqual([
    [4, 'state', 'used'],
    [4, 'identity', '01020304'],
    [4, 'role', 'main'],
    [4, 'band', 'lower'],
    [4, 'count', '0'],
    [4, 'check', expect.any(String)],
  ]);
});

test.each<[string, () => unknown, RegExp]>([
  [
    'an unknown layout',
    () => memoryRead(shipped, file('a.bin', 'x'), 'nowhere'),
    /^--layout nowhere: this layout was not found\. Use one of: dunmore-five, dunmore-mirrored, veskar-whole\.$/,
  ],
  ['no file', () => memoryRead(shipped, 'nowhere.bin', 'dunmore-five'), /^nowhere\.bin: can’t be read\. Check the path\.$/],
  ['an empty file', () => memoryRead(shipped, file('a.bin', ''), 'dunmore-five'), /a\.bin: The file is empty\. Read the memory again\.$/],
  [
    'a file that is too short',
    () => memoryRead(shipped, file('a.bin', 'short'), 'dunmore-five'),
    /a\.bin: The byte at 0005 is not in the file; the layout “Dunmore box with five slots” takes 256 bytes\./,
  ],
  [
    'a broken record',
    () => memoryRead(shipped, file('a.hex', ':0000000100\n'), 'dunmore-five'),
    /a\.hex: record 1: The checksum is 00; FF would fit\./,
  ],
  [
    'one of two',
    () => memoryDiff(shipped, file('a.bin', new Uint8Array(256)), file('b.bin', 'x'), 'dunmore-five'),
    /The byte at 0001 is not in the file/,
  ],
])('%s can’t be used', (_what, run, message) => {
  expect(run).toThrow(message);
});
