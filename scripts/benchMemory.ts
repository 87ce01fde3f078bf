// Measures memory files for `npm run bench`: a memory of 1 MB in each form, read, compared with a second read and laid out as slots. Prints JSON.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  formOf,
  type Layout,
  lookAtReads,
  readMemory,
  regionsOf,
  sampleMemory,
  simulatedRead,
  writeIntelHex,
  writeRaw,
  writeSRecord,
} from '../core/memory';

const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
const layout: Layout = {
  kind: 'layout',
  id: 'bench',
  version: 1,
  title: 'One megabyte',
  family: 'slot-store',
  source: 'Made up.',
  checked: null,
  base: 0,
  bytes: 2 ** 20,
  order: 'high',
  empty: 0xff,
  slots: { at: 0x1000, bytes: 32, count: 64, first: 1 },
  fields: [
    { id: 'state', title: 'State', kind: 'state', at: 0, bytes: 1, values: { used: 1, empty: 0xff } },
    { id: 'identity', title: 'Identity', kind: 'identity', at: 1, bytes: 8 },
  ],
  areas: [],
  mirrors: [{ id: 'copy', title: 'Copy', from: 0x1000, bytes: 2048, at: 0x2000 }],
  checksums: [{ id: 'all', title: 'All', kind: 'crc16', at: 2 ** 20 - 2, bytes: 2, over: { at: 0, bytes: 2 ** 20 } }],
};
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-bench-'));
const image = sampleMemory(layout, 1);
const other = simulatedRead(image, 'dirty', 2);
const files = { 'a.bin': writeRaw(image)!, 'a.hex': writeIntelHex(image), 'a.s19': writeSRecord(image) };
const rows = Object.entries(files).map(([name, body]) => {
  const path = join(folder, name);
  writeFileSync(path, body);
  const [bytes, all]: [number[], number[]] = [[], []];
  // In turn: the bytes alone, then everything.
  for (let i = 0; i < 25; i += 1) {
    const from = performance.now();
    readFileSync(path);
    const between = performance.now();
    const read = readMemory(readFileSync(path), formOf(name));
    if (!read.ok) throw new Error(read.problems[0]!.message);
    const look = lookAtReads({ first: read.value, second: other }, layout, null);
    if (look.compared?.says !== 'scattered' || regionsOf(layout).length < 64) throw new Error('Not what it should find.');
    if (i >= 5) {
      bytes.push(between - from);
      all.push(performance.now() - between);
    }
  }
  return { name, size: body.length, bytesMs: median(bytes), allMs: median(all) };
});
rmSync(folder, { recursive: true });
process.stdout.write(JSON.stringify(rows));
