import { and, eq } from 'drizzle-orm';
import { Harness, lead, owner, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { audit, document } from '../db/schema';
import { Refused } from '../base/expected';
import { parseNewProfile, parseProfileForm, parseYamlSent } from './forms';
import { searchLibrary } from './librarySearch';
import { importDocument } from './importDocument';
import { createProfile, listProfiles, profileVersions, profileYaml, saveProfile } from './profiles';
import { isRetired, setRetired, unreadable } from './shopDocuments';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const library = () => harness.services.library;
const make = async (title = 'Blue estate, 1999', from = 'family:ring') =>
  (await createProfile(harness.db, library(), harness.act(), parseNewProfile({ title, from }))).id;
/** What the form of a profile sends. */
const form = (from: number, values: Record<string, [value: string, source: string]>, more: object = {}) =>
  parseProfileForm({
    from: String(from),
    title: 'Blue estate, 1999',
    source: 'Folder 3 in the office',
    values: Object.fromEntries(Object.entries(values).map(([name, [value, source]]) => [name, { value, source }])),
    ...more,
  });
const save = (id: string, ...given: Parameters<typeof form>) => saveProfile(harness.db, library(), harness.act(), id, form(...given));
const newest = async (id: string) => (await profileVersions(harness.db, id))[0]!;
const problems = async (work: Promise<unknown>): Promise<string[]> => {
  try {
    await work;
  } catch (error) {
    if (error instanceof Refused) return error.problems.map((p) => `${p.path}: ${p.message}`);
    throw error;
  }
  return [];
};

describe('what is written passes the check that is made when it is read', () => {
  test('a title with markup is refused, and the Library stays', async () => {
    expect(await problems(make('Tarn Gantry <b>2010'))).toEqual([
      'title: The file has "Tarn Gantry <b>2010": markup such as HTML is not shown; write plain text without “<”.',
    ]);
    const id = await make();
    expect(await problems(save(id, 1, {}, { title: 'Tarn <i>Gantry' }))).toHaveLength(1);
    expect((await listProfiles(harness.db, library())).length).toBeGreaterThan(0);
  });
  test('a source as long as a run takes it, and one sign more', async () => {
    const id = await make();
    const [a] = Object.entries(library().families.get('ring')!.params).find(([, p]) => 'min' in p)!;
    await save(id, 1, { [a]: ['7.5', 'p'.repeat(500)] });
    expect((await newest(id)).profile.values[a]!.source).toHaveLength(500);
    expect(() => form(2, { [a]: ['7.5', 'p'.repeat(501)] })).toThrow('501 characters is too long. Write at most 500.');
  });
  test('a copy of a copy, twenty times, can still be saved', async () => {
    let id = await make('The first of many copies of a vehicle');
    for (let i = 0; i < 20; i += 1) id = await make(`Copy ${i} of a vehicle with a long title`, `profile:${id}`);
    const { source } = (await newest(id)).profile;
    expect(source).toMatch(/^Copied from Copy 18 of a vehicle with a long title, version 1\. Copied from Copy 17 .* …$/);
    expect(source.length).toBeLessThanOrEqual(600);
    await save(id, 1, {}, { source: `${source} ` });
  });
  test('a document that cannot be read is told with its reason, takes no list with it, and can be retired', async () => {
    const id = await make('Good at first');
    const good = (await newest(id)).profile;
    await harness.db.insert(document).values({
      kind: 'profile',
      id: 'broken-once',
      version: 1,
      hash: 'x'.repeat(64),
      origin: 'shop',
      body: { ...good, id: 'broken-once', title: 'Tarn <b>Gantry' },
      enteredAt: 1,
    });
    expect((await listProfiles(harness.db, library())).map((p) => p.pin.id)).not.toContain('broken-once');
    const told = async () => (await unreadable(harness.db)).find((d) => d.id === 'broken-once');
    expect(await told()).toMatchObject({
      kind: 'profile',
      version: 1,
      retired: false,
      reason: expect.stringMatching(/^title: The file has "Tarn <b>Gantry": markup/),
    });
    await setRetired(harness.db, harness.act(lead), 'profile', 'broken-once', true);
    expect(await told()).toMatchObject({ retired: true });
    expect(await profileVersions(harness.db, 'broken-once')).toEqual([]);
  });
});

describe('a profile of the shop', () => {
  test('from a family: everything typical; its id is in words and found in the list', async () => {
    const id = await make('Grüner Kombi (ab 2004)!');
    expect(id).toMatch(/^shop-gru-ner-kombi-ab-2004-[a-z2-9]{4}$/);
    expect((await newest(id)).profile).toMatchObject({ version: 1, family: 'ring', values: {}, checked: null });
    expect((await listProfiles(harness.db, library())).find((p) => p.pin.id === id)).toMatchObject({ origin: 'shop', by: lead.name, retired: false });
  });

  test('numbers with their source; who looked one up stays with it until it changes', async () => {
    const id = await make();
    const names = Object.entries(library().families.get('ring')!.params)
      .filter(([, p]) => 'min' in p)
      .map(([name]) => name);
    const [a, b] = names as [string, string];
    await save(id, 1, { [a]: ['7,5', ' page 12 '], [b]: ['', ''] });
    expect((await newest(id)).profile).toMatchObject({ version: 2, values: { [a]: { value: 7.5, source: 'page 12', by: lead.name } } });
    await saveProfile(harness.db, library(), harness.act(owner), id, form(2, { [a]: ['7.5', 'page 12'], [b]: ['3', 'page 13'] }, { check: 'on' }));
    const third = (await newest(id)).profile;
    expect(third.values).toEqual({ [a]: { value: 7.5, source: 'page 12', by: lead.name }, [b]: { value: 3, source: 'page 13', by: owner.name } });
    expect(third.checked).toEqual({ by: owner.name, on: new Date(harness.services.clock.now()).toISOString().slice(0, 10) });
    // A number that changed has not been checked.
    await save(id, 3, { [a]: ['8', 'page 12'], [b]: ['3', 'page 13'] });
    expect((await newest(id)).profile.checked).toBeNull();
    expect((await profileVersions(harness.db, id)).map((v) => v.pin.version)).toEqual([4, 3, 2, 1]);
  });

  test('what is seen on it: answers to the questions, those that are known', async () => {
    const id = await make();
    await save(id, 1, {}, { seen: { keyKind: 'chipHead', mark: '', around: 'collar' } });
    expect((await newest(id)).profile.seen).toEqual({ keyKind: 'chipHead', around: 'collar' });
    expect(await problems(save(id, 2, {}, { seen: { keyKind: 'bread', smell: 'sweet' } }))).toEqual([
      'seen.keyKind: Value "bread" does not exist. Use one of: plain, pellet, chipHead, buttonHead, slotFob, pushFob.',
      expect.stringMatching(/^seen\.smell: Feature "smell" does not exist\. Use one of: service, /),
    ]);
    await save(id, 2, {}, { seen: { keyKind: '', around: '' } });
    expect((await newest(id)).profile).not.toHaveProperty('seen');
  });

  test('an older version, nothing changed, and wrong input are refused in words', async () => {
    const id = await make();
    const [a] = Object.keys(library().families.get('pellet')!.params);
    const pellet = await make('Grey saloon', 'family:pellet');
    await save(pellet, 1, {});
    expect(await problems(save(pellet, 1, { [a!]: ['3', 'p'] }))).toEqual([
      'from: Someone saved version 2 meanwhile. Check it in another tab, then enter your numbers there.',
    ]);
    expect(await problems(saveProfile(harness.db, library(), harness.act(), pellet, form(2, {})))).toEqual([
      ': Nothing was changed, so there is nothing to save.',
    ]);
    expect(await problems(save(id, 1, { gone: ['3', 'p'] }))).toEqual([
      expect.stringMatching(/^values\.gone: System type "ring" has no parameter "gone"\. Use one of: /),
    ]);
    const names = Object.entries(library().families.get('ring')!.params).filter(([, p]) => 'min' in p);
    const [name] = names[0]!;
    expect(await problems(save(id, 1, { [name]: ['soon', ''] }))).toEqual([
      expect.stringMatching(new RegExp(`^values\\.${name}\\.value: You typed "soon"\\. Type seconds`)),
      `values.${name}.source: Where does this number come from? Name document and page.`,
    ]);
    expect(await problems(save(id, 1, { [name]: ['-1', 'p'] }))).toEqual([`values.${name}.value: -1 can’t be used here. Use 0 or more.`]);
    expect(await problems(save(id, 1, { [name]: ['', 'p'] }))).toEqual([
      `values.${name}.value: A source without a number. Type the number, or clear the source.`,
    ]);
    expect((await profileVersions(harness.db, id)).length).toBe(1);
  });

  test('two who save at once: one is saved, the other is told', async () => {
    const id = await make();
    const both = await Promise.all(
      ['page 1', 'page 2'].map((source) => problems(saveProfile(harness.db, library(), harness.act(), id, form(1, {}, { source })))),
    );
    expect(both.map((p) => p.length).sort()).toEqual([0, 1]);
    expect(both.flat()).toEqual([expect.stringMatching(/^from: Someone saved version 2 meanwhile\./)]);
    expect((await profileVersions(harness.db, id)).length).toBe(2);
  });

  test('the ladder of its keys: chosen from the library, kept in a copy; a family without resistor keys has none', async () => {
    const id = await make('Beige saloon', 'family:pellet');
    await save(id, 1, {}, { ladder: 'tarn-ten' });
    expect((await newest(id)).profile).toMatchObject({ version: 2, ladder: 'tarn-ten' });
    expect((await newest(await make('Another', `profile:${id}`))).profile.ladder).toBe('tarn-ten');
    expect(await problems(save(id, 2, {}, { ladder: 'gone' }))).toEqual([
      'ladder: Value chart "gone" is not in the library. Import it first, or leave it out.',
    ]);
    await save(id, 2, {}, { ladder: '' });
    expect((await newest(id)).profile).not.toHaveProperty('ladder');
    const ring = await make();
    await save(ring, 1, {}, { ladder: 'tarn-ten' });
    expect((await newest(ring)).profile).not.toHaveProperty('ladder');
  });

  test('the shipped are copied, not edited', async () => {
    expect(await problems(save('tarn-gantry', 1, {}))).toEqual([': Shipped documents can’t be edited. Copy it to a profile of the shop.']);
    const id = await make('Our own pickup', 'profile:tarn-gantry');
    const copy = (await newest(id)).profile;
    expect(copy.values).toEqual(library().profiles.get('tarn-gantry')!.values);
    expect(copy.source).toMatch(/^Copied from Tarn Gantry/);
    expect(await problems(make('x', 'profile:gone'))).toEqual(['from: "gone" is not in the library. Choose one from the list.']);
  });

  test('a technician only looks', async () => {
    expect(await problems(createProfile(harness.db, library(), harness.act(technician), { title: 'x', from: 'family:ring' }))).toEqual([
      ': Orla Quibb may not do this. Ask somebody who may.',
    ]);
  });

  test('a case keeps the version it was opened with; a retired profile is not offered, and comes back', async () => {
    const id = await make('Van of the baker');
    const caseId = await harness.openCase({ system: `profile:${id}` });
    await save(id, 1, {}, { title: 'Van of the other baker' });
    expect((await loadCase(harness.db, caseId))!.profile).toMatchObject({ id, version: 1 });
    expect((await harness.services.documents.profile((await loadCase(harness.db, caseId))!.profile!)).title).toBe('Van of the baker');
    await setRetired(harness.db, harness.act(), 'profile', id, true);
    expect(await isRetired(harness.db, 'profile', id)).toBe(true);
    expect(await problems(harness.openCase({ system: `profile:${id}` }))).toEqual([
      `system: "${id}" is not in the library. Choose one from the list.`,
    ]);
    await setRetired(harness.db, harness.act(), 'profile', id, false);
    expect((await loadCase(harness.db, await harness.openCase({ system: `profile:${id}` })))!.profile).toMatchObject({ version: 2 });
  });
});

test('names that come by an address and can be no document', async () => {
  for (const id of ['gone', '\u0000', '__proto__', "x'; drop table document; --", 'a'.repeat(5000), '']) {
    expect(await profileVersions(harness.db, id)).toEqual([]);
    expect(await problems(setRetired(harness.db, harness.act(), 'profile', id, true))).toEqual([': This profile was not found.']);
    expect(await problems(setRetired(harness.db, harness.act(), 'profile', id, false))).toEqual([': This profile was not found.']);
  }
});

describe('YAML out and in', () => {
  test('what is exported comes in again as the same; changed, as the next version', async () => {
    const id = await make('Black coupe');
    const yaml = profileYaml((await newest(id)).profile);
    expect(await importDocument(harness.with, harness.act(), yaml)).toEqual({ kind: 'profile', id, version: 1, known: true });
    const changed = yaml.replace('title: Black coupe', 'title: Dark coupe');
    expect(await importDocument(harness.with, harness.act(), changed)).toMatchObject({ id, version: 2, known: false });
    expect((await newest(id)).profile.title).toBe('Dark coupe');
  });

  const good = 'kind: profile\nid: mine\nversion: 1\ntitle: Mine\nfamily: ring\nsource: sheet\nchecked: null\n';
  const bomb = `kind: profile\na: &a [x,x,x,x,x,x,x,x,x]\n${'bcdefgh'.replace(
    /./g,
    (n) =>
      `${n}: &${n} [${Array(9)
        .fill(`*${String.fromCharCode(n.charCodeAt(0) - 1)}`)
        .join(',')}]\n`,
  )}`;
  test.each<[string, string, RegExp]>([
    ['an anchor bomb', bomb, /^: Too many aliases\. Write the values out\.$/],
    ['a circle of anchors', 'kind: profile\nid: &x [*x]', /^id\[0\]: An alias contains itself\. Write the values out\.$/],
    ['a key twice', `${good}title: Other`, /^line 8, column 1: Map keys must be unique\. Correct the YAML there\.$/],
    ['an unknown field', `${good}secret: 1`, /^secret: "secret" is not a field that is known here\. Remove it or correct its name\.$/],
    [
      'HTML in a text',
      good.replace('Mine', '"<img src=x onerror=alert(1)>"'),
      /^title: The file has "<img .+: markup such as HTML is not shown; write plain text without “<”\.$/,
    ],
    ['a family that is not there', good.replace('ring', 'gone'), /^family: System type "gone" does not exist\. Use one of: alarm-latch, /],
    [
      'a family instead of a profile',
      good.replace('kind: profile', 'kind: family'),
      /^kind: The file has "family"\. A shop imports profiles, value charts, procedures and layouts: kind: profile, kind: ladder, kind: procedure, or kind: layout\.$/,
    ],
    [
      'a parameter that is not there',
      `${good}values: {gone: {value: 1, source: s, by: b}}`,
      /^values\.gone: System type "ring" has no parameter "gone"/,
    ],
    [
      'a name of every object',
      `${good}values: {constructor: {value: 1, source: s, by: b}}`,
      /^values\.constructor: "constructor" can’t be a field name\. Choose another\.$/,
    ],
    ['a ladder that is not there', `${good.replace('ring', 'pellet')}ladder: gone`, /^ladder: Value chart "gone" is not in the library\./],
    [
      'a ladder for keys without a resistor',
      `${good}ladder: tarn-ten`,
      /^ladder: System type "ring" has no resistor keys\. Remove the value chart\.$/,
    ],
    [
      'the prototype',
      `${good}values: {__proto__: {value: 1, source: s, by: b}}`,
      /^values\.__proto__: "__proto__" can’t be a field name\. Choose another\.$/,
    ],
    [
      'the name of a shipped profile',
      good.replace('id: mine', 'id: tarn-gantry'),
      /^id: "tarn-gantry" is the name of a shipped profile\. Give yours another id/,
    ],
    ['a thousand levels', `kind: profile\na: ${'['.repeat(1000)}${']'.repeat(1000)}`, /^: Nested too deeply to be read\. Write it flatter\.$/],
    ['two documents', `${good}---\n${good}`, /./],
    ['another language', '#!/bin/sh\nrm -rf /', /^: The file must hold one document of fields/],
    ['more than a megabyte', `${good}# ${'x'.repeat(1_000_001)}`, /^file: The file is larger than 1 MB\./],
    ['fifty megabytes', `# ${'x'.repeat(50_000_000)}`, /^file: The file is larger than 1 MB\./],
  ])('%s is refused whole, with path and mend', async (_what, yaml, expected) => {
    const count = async () => (await harness.db.select().from(document).where(eq(document.kind, 'profile'))).length;
    const before = await count();
    const [first] = await problems(importDocument(harness.with, harness.act(), yaml));
    expect(first).toMatch(expected);
    expect(await count()).toBe(before);
  });
  test('what is no text, and nothing at all', () => {
    expect(() => parseYamlSent({ file: Uint8Array.of(0xff, 0xfe, 0x00) })).toThrow('This is not a text file in UTF-8.');
    expect(() => parseYamlSent({ file: new Uint8Array(), text: ' ' })).toThrow('No file was chosen and nothing was pasted. Do one or the other.');
    expect(parseYamlSent({ file: new Uint8Array(), text: 'kind: profile' })).toBe('kind: profile');
  });
  test('every change stands in the audit log', async () => {
    const rows = await harness.db
      .select({ action: audit.action })
      .from(audit)
      .where(and(eq(audit.by, lead.id)));
    expect(new Set(rows.map((r) => r.action))).toEqual(
      new Set(['profile made', 'profile saved', 'profile retired', 'profile offered again', 'profile imported', 'case opened']),
    );
  });
});

test('the search finds a vehicle of the shop by its family’s name, and not when it is retired', async () => {
  const id = await make('Zephyrless hatchback', 'family:infrared');
  const find = async (q: string) => searchLibrary(library(), await listProfiles(harness.db, library()), q).map((f) => f.to);
  expect(await find('zephyrless')).toEqual([`/library/profiles/${id}`]);
  expect(await find('zephyrless infrared')).toEqual([`/library/profiles/${id}`]);
  await setRetired(harness.db, harness.act(), 'profile', id, true);
  expect(await find('zephyrless')).toEqual([]);
});
