// What it costs that an act is on the disk before it is answered: small transactions on PGlite as the server runs it and as it runs by itself, in turn.
// Prints JSON.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { initParams, newSegmentBytes, startParams, SyncedFs } from '../server/db/synced';

const acts = 300;
const warmUp = 30;
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-bench-sync-'));
const fs = new SyncedFs(join(folder, 'synced'));
const synced = await PGlite.create({ fs, startParams: startParams(newSegmentBytes), initDbStartParams: initParams });
const plain = await PGlite.create(join(folder, 'plain'));
const times = { synced: [] as number[], plain: [] as number[] };
for (const db of [synced, plain]) await db.exec('create table act (id serial primary key, body text)');
let syncs = 0;
for (let i = 0; i < warmUp + acts; i += 1)
  for (const [name, db] of [
    ['synced', synced],
    ['plain', plain],
  ] as const) {
    const [before, from] = [fs.syncs, performance.now()];
    await db.transaction((tx) => tx.query('insert into act (body) values ($1)', ['x'.repeat(400)]));
    if (i < warmUp) continue;
    times[name].push(performance.now() - from);
    if (name === 'synced') syncs += fs.syncs - before;
  }
await synced.close();
await plain.close();
rmSync(folder, { recursive: true, force: true });
const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
console.log(JSON.stringify({ acts, syncs, synced: median(times.synced), plain: median(times.plain) }));
