import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib';
import { PGlite } from '@electric-sql/pglite';
import { asc, sql } from 'drizzle-orm';
import { parseCall } from '../calls/forms';
import { saveCall } from '../calls/calls';
import type { Db } from '../db/open';
import { call, lampLook, measurement, runEvent, stepTry } from '../db/schema';
import { parseLook } from '../ledger/forms';
import { recordLook } from '../ledger/lamps';
import { parseMeasurement } from '../ledger/measurements/form';
import { recordMeasurement } from '../ledger/measurements/record';
import { parseTry, recordTry } from '../ledger/stepSearch';
import { parseRunCommand } from '../runs/forms';
import { commandRun, startRun } from '../runs/runs';
import { cheap, Harness, lead } from '../services/harness.testing';
import { openServices } from '../services/services';
import { exportCase } from './exportCase';
import { importCase } from './importCase';
import { readings } from './readings';

/**
 * A data folder and the files of two cases, made by the version in which what is stored carries its version for the first time. When a form changes, this
 * one stays and the new one is made beside it: FIXTURE=name npm run unit server/transfer/versions
 */
const made = 'with-versions';
const folderOf = (name: string) => join(process.cwd(), 'server/fixtures', name);
const fixture = (name: string) => readFileSync(join(folderOf(made), name));

/** Something of every kind that is stored as JSON, in two cases and a call. */
async function everything(harness: Harness): Promise<number[]> {
  const { db, services } = harness;
  const authority = [{ kind: 'registration', note: '' }];
  const keys = [{ tag: 'A', role: 'main', here: true }];
  const resistor = await harness.openCase({ system: 'profile:veskar-ledger', vehicle: 'Veskar Ledger, red', keys, authority });
  const measure = (form: object) => recordMeasurement(services, harness.act(), parseMeasurement({ case: resistor, ...form }));
  await measure({
    kind: 'pellet',
    key: 'A',
    ladder: 'veskar-twelve',
    raw: { leadOhms: 0.4, temperatureC: null, groups: [{ side: 1, turned: false, readings: [402.5, null, 403] }] },
  });
  await measure({
    kind: 'wiggle',
    raw: {
      samples: [
        [0, 402],
        [0.5, null],
        [1, 403],
      ],
      marks: [[0.5, 'by the column']],
    },
  });
  await recordTry(services, harness.act(), parseTry({ case: resistor, ladder: 'veskar-twelve', step: 3, resistor: '590 Ω', result: 'refused' }));
  const relearned = await harness.openCase({ keys, authority, changed: [{ what: 'ecm', note: 'new part' }] });
  await recordLook(
    db,
    services.documents,
    services.library,
    harness.act(),
    parseLook({ case: relearned, key: 'A', moment: 'ignition-on', origin: 'tapped', lit: [[0.2, 3.1]], lengthS: 12 }),
  );
  const { id: runId } = await startRun(db, services.documents, services.library, harness.act(), relearned, 'relearn-ignition-on');
  const act = harness.act();
  const command = { id: act.id, occurredAt: act.now, expectedSeq: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 };
  await commandRun(db, services.documents, act, runId, parseRunCommand(command));
  const said = {
    customer: 'Ottoline Vane',
    phone: '555-0137',
    vehicle: 'Tarn Weir',
    words: 'It clicks.',
    system: 'profile:tarn-gantry',
    answers: {},
  };
  await saveCall(db, services.library, harness.act(), parseCall({ ...said, film: { moment: 'ignition-on', lit: [[0.4, 2]], lengthS: 6 } }));
  return [resistor, relearned];
}

/** What is stored, as it is read. */
const held = async (db: Db) => ({
  events: (await db.select({ event: runEvent.event }).from(runEvent).orderBy(asc(runEvent.runId), asc(runEvent.seq))).map((r) => r.event),
  measurements: (await db.select().from(measurement).orderBy(asc(measurement.kind))).map(({ kind, raw, verdict }) => ({ kind, raw, verdict })),
  lights: (await db.select().from(lampLook)).map(({ moment, lit, lengthS }) => ({ moment, lit, lengthS })),
  films: (await db.select({ film: call.film }).from(call)).map((c) => c.film),
  tries: (await db.select().from(stepTry)).map(({ step, resistor, result }) => ({ step, resistor, result })),
});

test('what is stored carries its version', async () => {
  const harness = await Harness.open();
  const cases = await everything(harness);
  const { rows } = (await harness.db.execute(
    sql`select event ->> 'v' as v from run_event union all select raw ->> 'v' from measurement
        union all select lit ->> 'v' from lamp_look union all select film ->> 'v' from call`,
  )) as unknown as { rows: { v: string }[] };
  expect(rows.map((r) => r.v)).toEqual(['2', '2', '2', '2', '2', '2']);
  if (process.env.FIXTURE) {
    const folder = folderOf(process.env.FIXTURE);
    mkdirSync(folder, { recursive: true });
    for (const [i, id] of cases.entries()) writeFileSync(join(folder, `case-${i}.zip`), (await exportCase(harness.db, harness.act(), id)).zip);
    writeFileSync(join(folder, 'held.json'), `${JSON.stringify(await held(harness.db), null, 1)}\n`);
    const dump = await (harness.db as unknown as { $client: PGlite }).$client.dumpDataDir('none');
    writeFileSync(join(folder, 'data.tar.br'), brotliCompressSync(new Uint8Array(await dump.arrayBuffer())));
  }
  await harness.close();
});

test('a data folder of before opens with all it held', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-versions-'));
  const tar = new Blob([new Uint8Array(brotliDecompressSync(fixture('data.tar.br')))]);
  await (await PGlite.create({ dataDir: join(folder, 'pg'), loadDataDir: tar })).close();
  const services = await openServices({ root: process.cwd(), folder, manualClock: true, reading: readings, secretCost: cheap });
  expect(await held(services.database.db)).toEqual(JSON.parse(fixture('held.json').toString()));
  await services.close();
  rmSync(folder, { recursive: true, force: true });
});

test('exported cases of before are imported with all they held', async () => {
  const harness = await Harness.open();
  for (const name of ['case-0.zip', 'case-1.zip']) await importCase(harness.with, harness.act(lead), fixture(name));
  const { events, films: _noCall, ...rest } = await held(harness.db);
  const was = JSON.parse(fixture('held.json').toString()) as Awaited<ReturnType<typeof held>>;
  expect(rest).toEqual({ measurements: was.measurements, lights: was.lights, tries: was.tries });
  // The run was going on: its clock was another shop's.
  expect(events.slice(0, -1)).toEqual(was.events);
  expect(events.at(-1)).toMatchObject({ type: 'stopped' });
  await harness.close();
});
