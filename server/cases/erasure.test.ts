import { readings } from '../transfer/readings';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { intake, lead, owner } from '../services/harness.testing';
import { parseNotDone } from './forms';
import { closeNotDone } from './closing';
import { ensureTemplate } from '../db/open';
import { person } from '../db/schema';
import { keepDraft, listDrafts } from './drafts';
import { createCase } from './openCase';
import { erasePersonalData } from './personal';
import { attachPhoto, findPhoto } from './photos';
import { decline } from '../offers/acts';
import { parseDeclineForm } from '../offers/forms';
import { loadCase } from '../record/cases';
import { openServices, type Services } from '../services/services';

/** What is erased is gone from the files too: the folder is searched for the very bytes, before and after. */

const root = process.cwd();
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-erasure-'));
let services: Services;
beforeAll(async () => {
  const templates = join(root, '.cache/templates');
  await ensureTemplate(templates, join(root, 'server/db/migrations'));
  services = await openServices({ root, folder, templates, manualClock: true, reading: readings });
  for (const p of [lead, owner]) await services.database.db.insert(person).values({ ...p, state: 'active' });
});
afterAll(async () => {
  await services.close();
  rmSync(folder, { recursive: true, force: true });
});

let count = 0;
const act = (actor = lead) => ({ id: `erasure-${(count += 1)}-x`, actor, now: services.clock.now() });
const files = () =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath, entry.name));
const holding = (bytes: Buffer) => files().filter((path) => readFileSync(path).includes(bytes));

/** The database keeps what is large in chunks of this many bytes; what lies over the border of two is nowhere in one piece. */
const chunk = 1996;
/** A piece from the middle of the second chunk and one of the last whole one. */
const piecesOf = (kept: Buffer): Buffer[] =>
  [1, Math.floor(kept.length / chunk) - 1].map((n) => kept.subarray(n * chunk + chunk / 2, n * chunk + chunk / 2 + 64));

test('name, number, plate, identification number, pictures and drafts are in no file any more', async () => {
  const { db } = services.database;
  const named = { customer: 'Theodwin Quaverley', phone: '555-0147-11', plate: '7-42-QZX', identification: '00BHZ7YK3R9012345' };
  const { id } = await createCase(db, services.library, act(), intake({ ...named, words: 'Does not start.' }));
  const noise = randomBytes(120 * 90 * 3);
  const picture = await sharp(noise, { raw: { width: 120, height: 90, channels: 3 } })
    .png()
    .toBuffer();
  await attachPhoto({ db, files: services.files }, act(), id, picture, { caption: '', key: null });
  const [{ id: photoId } = { id: '' }] = (await loadCase(db, id))!.photos;
  const kept = Buffer.from((await findPhoto(db, id, photoId))!.data);
  await keepDraft(db, lead, 'draft-of-the-same', { customer: named.customer, words: 'again' }, services.clock.now());
  await keepDraft(db, lead, 'draft-of-another', { customer: 'Somebody Else', words: 'x' }, services.clock.now());
  // What was said with an agreement, by whom, and how they sign.
  const spoken = { who: 'Wilhelmina Oakhart', words: 'Tell my brother in Quillmouth' };
  const signature = { width: 3000, height: 900, strokes: [[2718, 281, 1828, 459, 2035, 360]] };
  await decline(db, act(), id, parseDeclineForm({ how: 'signature', ...spoken, signature }), []);
  const said = [...Object.values(spoken), '2718,281,1828,459'].map((text) => Buffer.from(text));
  const traces = [...said, ...Object.values(named).map((text) => Buffer.from(text)), ...piecesOf(kept)];
  // Written into the tables' own files, where a value is in one piece; in the log of changes it may lie over the border of two pages.
  await db.execute(sql`checkpoint`);
  for (const bytes of traces) expect(holding(bytes).length).toBeGreaterThan(0);

  await closeNotDone(db, act(), id, parseNotDone({ reason: 'taken elsewhere' }));
  await erasePersonalData(services.database, act(owner), id);
  expect(traces.map((bytes) => holding(bytes))).toEqual(traces.map(() => []));
  expect((await listDrafts(db, lead)).map((d) => d.id)).toEqual(['draft-of-another']);
  expect((await loadCase(db, id))!.customer).toMatchObject({ name: '', phone: '' });
  // That it was declined, and when, stays.
  expect((await loadCase(db, id))!.offers).toMatchObject([{ kind: 'decline', who: '', words: '', how: 'signature' }]);
  expect(holding(Buffer.from('Somebody Else')).length).toBeGreaterThan(0);
});
