import { generator } from '../../core/units';
import { eq } from 'drizzle-orm';
import { recordAuthority } from './authority';
import { Harness, intake, lead, owner, refusal, technician } from '../services/harness.testing';
import { knownVehicle, listCases, type Sort } from './caseList';
import { entriesOf, loadCase, onRecord } from '../record/cases';
import { changeIntake, readIntake } from './changeIntake';
import { closeCase, closeNotDone, parkCase, reopenCase } from './closing';
import { csv } from '../base/csv';
import { audit, customer, draft, photo } from '../db/schema';
import { discardDraft, findDraft, keepDraft, listDrafts } from './drafts';
import { findCases } from './find';
import { readFloor } from '../floor/floor';
import { type NewCase, parseCounter, parseCustody, parseIntake, parseKey, parseKeyChange, parseNewCase } from './forms';
import { addKey, addPart, changeKey, findKeyCode, readCounter, recordCustody } from './keys';
import { recordEvidence } from '../ledger/ledger';
import { createCase } from './openCase';
import { erasePersonalData, personalData } from './personal';
import { parseAuditQuery, parseCaseQuery, caseSearch } from './queries';
import { readReport } from './report';
import { readAudit } from '../acts/audit';
import { addBay, listBays, renameBay, retireBay } from '../shop/shop';
import { type Refused } from '../base/expected';
import { gridCell } from '../../core/keys';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());
const load = async (id: number) => (await loadCase(harness.db, id))!;
const act = (...args: Parameters<Harness['act']>) => harness.act(...args);
const parts = {
  kind: 'parts',
  vehicle: '',
  words: 'Read the key list.',
  keys: [],
  parts: [{ tag: 'P1', what: 'module', label: 'ECM 4471-B', note: 'pins straight' }],
};

describe('authority', () => {
  test('of kind "other" is a lead’s, with a written reason, and stands in audit and report', async () => {
    const id = await harness.openCase();
    const reason = 'Vehicle is our own courtesy car.';
    expect(await refusal(recordAuthority(harness.db, act(technician), id, { kind: 'other', note: reason }))).toMatchObject({
      status: 403,
      path: 'note',
    });
    expect(await refusal(recordAuthority(harness.db, act(lead), id, { kind: 'other', note: 'too short' }))).toMatchObject({
      status: 400,
      code: 'reasonMissing',
    });
    expect(onRecord(await load(id)).authority).toBe(false);
    await recordAuthority(harness.db, act(lead), id, { kind: 'other', note: reason });
    expect(onRecord(await load(id)).authority).toBe(true);
    expect((await readAudit(harness.db, { text: 'courtesy', caseId: id }))[0]).toMatchObject({
      by: 'Ines Marrow',
      detail: `kind: other, reason: ${reason}`,
    });
    expect(JSON.stringify((await readReport(harness.services, id))!.lines)).toContain(reason);
  });
  test('of kind "other" can’t come in by the intake of a technician either', async () => {
    const form = intake({ authority: [{ kind: 'other', note: 'long enough a reason' }] });
    expect(await refusal(createCase(harness.db, harness.services.library, act(technician), form))).toMatchObject({ status: 403 });
  });
  test('for parts the sender’s identity is needed as well', async () => {
    const id = await harness.openCase(parts);
    expect(onRecord(await load(id))).toMatchObject({ authority: false, senderMissing: true });
    await recordAuthority(harness.db, act(), id, { kind: 'sender', note: '' });
    expect(onRecord(await load(id))).toMatchObject({ authority: false, senderMissing: false });
    await recordAuthority(harness.db, act(), id, { kind: 'registration', note: '' });
    expect(onRecord(await load(id))).toMatchObject({ authority: true, senderMissing: false });
  });
});

describe('keys and parts', () => {
  test('come with tag, code and custody; what is told is kept apart from what is seen', async () => {
    const id = await harness.openCase({
      keys: [
        { tag: 'A', role: 'main', kind: 'chipHead', here: true, told: { cranks: 'no', turns: 'yes', remote: '' } },
        { tag: 'B', here: false },
      ],
    });
    const record = await load(id);
    expect(record.keys.map((k) => [k.tag, k.kind, k.present])).toEqual([
      ['A', 'chipHead', true],
      ['B', 'unknown', false],
    ]);
    expect(record.keys[0]!.code).toMatch(/^[2-9A-HJKMNP-Z]{6}$/);
    expect(record.custody.map((c) => [c.tag, c.act, c.by])).toEqual([['A', 'received', 'Ines Marrow']]);
    const family = await harness.services.documents.family(record.family);
    expect(gridCell(entriesOf(record, family), 'A', 'cranks')).toMatchObject({ told: { result: 'no', source: 'told' }, before: null, now: null });
    await recordEvidence(harness.db, harness.services.documents, act(), id, { test: 'engine', outcome: 'dies', key: 'A', note: '' });
    const after = entriesOf(await load(id), family);
    expect(gridCell(after, 'A', 'cranks')).toMatchObject({ told: { result: 'no' }, before: { result: 'yes', source: 'test' } });
    expect(gridCell(after, 'A', 'runs')).toMatchObject({ told: null, before: { result: 'no' } });
    expect(await findKeyCode(harness.db, record.keys[0]!.code.toLowerCase())).toEqual({ caseId: id, tag: 'A' });
    expect(await findKeyCode(harness.db, 'NONE')).toBeUndefined();
  });

  test('a key that came later, and custody that cannot be', async () => {
    const id = await harness.openCase();
    await addKey(harness.db, act(), id, parseKey({ tag: 'c', here: true }));
    expect(await refusal(addKey(harness.db, act(), id, parseKey({ tag: 'C', here: true })))).toMatchObject({ status: 409, code: 'tagTaken' });
    const hand = (form: Record<string, unknown>) => refusal(recordCustody(harness.db, act(), id, parseCustody(form)));
    expect(await hand({ tag: 'C', act: 'received' })).toMatchObject({ code: 'held' });
    expect(await hand({ tag: 'C', act: 'returned', person: 'Odalys Prenn' })).toBe('accepted');
    expect((await load(id)).keys.find((k) => k.tag === 'C')!.present).toBe(false);
    expect(await hand({ tag: 'C', act: 'returned' })).toMatchObject({ code: 'notHeld' });
    expect(await hand({ tag: 'Z', act: 'received' })).toMatchObject({ code: 'noTag' });
    expect(await hand({ tag: 'C', act: 'received' })).toBe('accepted');
    expect((await load(id)).custody.filter((c) => c.tag === 'C').map((c) => [c.act, c.person])).toEqual([
      ['received', ''],
      ['returned', 'Odalys Prenn'],
      ['received', ''],
    ]);
  });

  test('a new key is the shop’s: no custody, and not missed when stored keys are replaced', async () => {
    const toFit = { extent: 'complete', chip: 'notched wedge', band: '421 MHz', memory: 'blank', price: '62,50' };
    const id = await harness.openCase({
      keys: [
        { tag: 'A', role: 'main', here: true },
        { tag: 'N', kind: 'chipHead', here: false, toFit },
      ],
    });
    const record = await load(id);
    expect(record.keys.find((k) => k.tag === 'N')!.toFit).toMatchObject({ price: 62.5, blade: '' });
    expect(record.custody.map((c) => c.tag)).toEqual(['A']);
    expect(onRecord(record).keysAbsent).toEqual([]);
    await changeKey(harness.db, act(), id, 'N', parseKeyChange({ kind: 'chipHead', role: 'user', toFit: null }));
    expect((await load(id)).keys.find((k) => k.tag === 'N')).toMatchObject({ role: 'user', toFit: null });
    expect(await refusal(changeKey(harness.db, act(), id, 'Q', parseKeyChange({})))).toMatchObject({ status: 404 });
  });

  test('parts have tags among the keys, custody, and are given back at the end', async () => {
    const id = await harness.openCase({ ...parts, keys: [{ tag: 'A', here: true }] });
    expect(await refusal(addPart(harness.db, act(), id, { tag: 'A', what: 'chip', label: '', note: '' }))).toMatchObject({ code: 'tagTaken' });
    await addPart(harness.db, act(), id, { tag: 'P2', what: 'chip', label: '', note: '' });
    const close = (returned: string[]) =>
      closeCase(harness.db, harness.services.documents, act(), id, { outcome: 'Read.', reason: '', returned, absentTold: false });
    expect(await refusal(close(['P9']))).toMatchObject({ code: 'notHeld' });
    await close(['P1', 'P2', 'A']);
    const report = (await readReport(harness.services, id))!;
    expect(report.held).toEqual([]);
    expect(report.lines.filter((l) => l.what.endsWith('returned')).map((l) => l.what)).toEqual([
      'Tag P1 returned',
      'Tag P2 returned',
      'Tag A returned',
    ]);
  });

  test('counters before and after, each in its unit', async () => {
    const id = await harness.openCase({ counters: [{ counter: 'odometer', unit: 'km', value: '148 200'.replace(' ', '') }] });
    await readCounter(harness.db, act(), id, parseCounter({ counter: 'odometer', unit: 'km', value: '148201', phase: 'after' }));
    // A comma or a blank between thousands is none between units and tenths.
    await readCounter(harness.db, act(), id, parseCounter({ counter: 'odometer', unit: 'mi', value: '118,400', phase: 'after' }));
    expect(() => parseCounter({ counter: 'odometer', unit: 'mi', value: '118.400', phase: 'after' })).toThrow(
      '"118.400" can mean 118.4 mi or 118,400 mi. Type 118400.',
    );
    expect(() => parseCounter({ counter: 'odometer', unit: 'mi', value: '118,400 km', phase: 'after' })).toThrow('with the unit “km”. Type miles');
    expect((await load(id)).counters.map((c) => [c.phase, c.value, c.unit])).toEqual([
      ['before', 148200, 'km'],
      ['after', 148201, 'km'],
      ['after', 118400, 'mi'],
    ]);
    expect(() => parseCounter({ counter: 'oilLife', unit: 'days', value: '3', phase: 'after' })).toThrow('You typed "days". Use one of: %, mi, km.');
    expect(() => parseCounter({ counter: 'odometer', unit: 'km', value: '-1', phase: 'after' })).toThrow('You typed -1 km. Use 0 to 10,000,000 km.');
  });
});

describe('an intake', () => {
  test('is corrected later; the audit names fields, not what stood in them', async () => {
    const id = await harness.openCase({ customer: 'Bram Ostrander', plate: '1-77-KEO', bay: await harness.bay() });
    const before = (await readIntake(harness.db, id))!.fields;
    await changeIntake(
      harness.db,
      act(),
      id,
      parseIntake({ ...before, customer: 'Bram Ostrander-Keld', plate: '1-77-KEP', symptoms: ['startsAndDies'], complaint: { diesAfterS: '2,5' } }),
    );
    const record = await load(id);
    expect(record).toMatchObject({ plate: '1-77-KEP', complaint: { diesAfterS: 2.5 }, customer: { name: 'Bram Ostrander-Keld' }, bay: 'Bay 1' });
    const [line] = await readAudit(harness.db, { text: 'intake changed', caseId: id });
    expect(line!.detail).toBe('fields: ["plate","customer","symptoms","complaint"]');
    expect((await findCases(harness.db, 'ostrander keld')).map((r) => r.id)).toContain(id);
    expect((await findCases(harness.db, '1-77-KEO')).map((r) => r.id)).not.toContain(id);
    expect(await refusal(changeIntake(harness.db, act(), id, parseIntake({ ...before, vehicle: '' })))).toMatchObject({
      status: 400,
      path: 'vehicle',
    });
  });

  test('a vehicle that was here is known by number or plate, and nothing else is', async () => {
    const id = await harness.openCase({ identification: '00BTG5R33GW004182', plate: '7-70-QQQ' });
    const known = async (identification: string, plate: string, but?: number) =>
      (await knownVehicle(harness.db, identification, plate, but)).map((r) => r.id);
    expect(await known('00BTG5R33GW004182', '')).toEqual([id]);
    expect(await known('', '7-70-QQQ')).toEqual([id]);
    expect(await known('00BTG5R33GW004182', '7-70-QQQ', id)).toEqual([]);
    expect(await known('', '')).toEqual([]);
    expect(await known('0', '7')).toEqual([]);
  });

  test('drafts are a person’s own, limited in number, and gone when the case is opened', async () => {
    const now = harness.services.clock.now();
    await keepDraft(harness.db, technician, 'draft-one', { words: 'half a sen' }, now);
    await keepDraft(harness.db, technician, 'draft-one', { words: 'half a sentence' }, now + 1);
    expect(await findDraft(harness.db, technician, 'draft-one')).toMatchObject({ fields: { words: 'half a sentence' } });
    expect(await findDraft(harness.db, lead, 'draft-one')).toBeUndefined();
    expect(await refusal(keepDraft(harness.db, lead, 'draft-one', {}, now))).toMatchObject({ status: 404 });
    await discardDraft(harness.db, lead, 'draft-one');
    expect(await listDrafts(harness.db, technician)).toHaveLength(1);
    for (let i = 2; i <= 20; i += 1) await keepDraft(harness.db, technician, `draft-${i}`, {}, now);
    expect(await refusal(keepDraft(harness.db, technician, 'draft-21', {}, now))).toMatchObject({ status: 409, code: 'manyDrafts' });
    await createCase(harness.db, harness.services.library, { ...act(technician), id: 'draft-one' }, intake(), 'draft-one');
    expect(await findDraft(harness.db, technician, 'draft-one')).toBeUndefined();
    // What was still under way when the case was opened brings no draft back.
    await keepDraft(harness.db, technician, 'draft-one', { words: 'too late' }, now + 2);
    expect(await findDraft(harness.db, technician, 'draft-one')).toBeUndefined();
    await keepDraft(harness.db, technician, 'draft-new', {}, now + 31 * 24 * 3600_000);
    expect((await harness.db.select().from(draft)).map((d) => d.id)).toEqual(['draft-new']);
  });

  test('parked it leaves its bay and takes nothing; taken up again it goes on', async () => {
    const id = await harness.openCase({ bay: await harness.bay('Bay 2') });
    await parkCase(harness.db, act(technician), id, 'waits for a part');
    expect(await load(id)).toMatchObject({ state: 'parked', bay: null });
    expect(await refusal(recordAuthority(harness.db, act(), id, { kind: 'registration', note: '' }))).toMatchObject({ status: 409, code: 'parked' });
    expect((await readFloor(harness.services)).lanes.map((l) => l.case?.id)).not.toContain(id);
    await reopenCase(harness.db, act(technician), id, 'part came');
    expect(await refusal(reopenCase(harness.db, act(), id, 'again'))).toMatchObject({ code: 'open' });
    await closeNotDone(harness.db, act(technician), id, { reason: 'customer declined', returned: ['A'] });
    expect(await load(id)).toMatchObject({ state: 'closed', closing: 'notDone', outcome: 'Not done: customer declined' });
    expect((await load(id)).states.map((s) => [s.state, s.reason])).toEqual([
      ['parked', 'waits for a part'],
      ['open', 'part came'],
      ['closed', 'customer declined'],
    ]);
    await reopenCase(harness.db, act(), id, 'changed their mind');
    expect(await load(id)).toMatchObject({ state: 'open', outcome: null, closedAt: null, closing: null });
  });
});

describe('forms of the intake', () => {
  const problems = (form: Record<string, unknown>) => {
    try {
      parseNewCase({ vehicle: 'x', words: 'y', system: 'family:transponder-dwell', ...form });
    } catch (error) {
      return (error as Refused).problems.map((p) => `${p.path}: ${p.message}`);
    }
    return [];
  };
  test.each<[string, Record<string, unknown>, string[]]>([
    ['parts and nothing came', { kind: 'parts' }, ['parts: Nothing is listed. List each part and key that came in.']],
    [
      'a part with the tag of a key',
      { kind: 'parts', keys: [{ tag: 'A' }], parts: [{ tag: 'A', what: 'chip' }] },
      ['parts[0].tag: Tag A is given to a key as well. Give the part another.'],
    ],
    ['a vehicle with parts', { parts: [{ tag: 'P1', what: 'chip' }] }, ['parts: Too many entries. Give at most 0.']],
    [
      'a date that is none',
      { changed: [{ what: 'water', on: '2026-13-01' }] },
      ['changed[0].on: You typed "2026-13-01". Write a date such as 2026-03-04.'],
    ],
    ['a date', { changed: [{ what: 'water', on: '2026-02-28' }] }, []],
    ['no date', { changed: [{ what: 'water', on: '' }] }, []],
    ['volts with a comma', { condition: { batteryVolts: '11,9' } }, []],
    ['61 volts', { condition: { batteryVolts: '61' } }, ['condition.batteryVolts: You typed 61 V. Use 0 to 60 V.']],
    ['a control sign', { plate: '4-18\u0007' }, ['plate: You typed "4-18\\u0007": a character that can’t be saved is at position 5; remove it.']],
    ['a zero sign in words', { words: 'a\u0000b' }, ['words: You typed "a\\u0000b": a character that can’t be saved is at position 2; remove it.']],
    ['lines in words', { words: 'a\nb\tc' }, []],
    ['half an emoji', { words: '\ud83d' }, ['words: You typed "\\ud83d": half a character is in it; type it again.']],
    ['an emoji and another alphabet', { words: '🔑 ключ مفتاح', vehicle: '鍵' }, []],
    ['turned text', { customer: '\u202eknarF' }, ['customer: You typed "\u202eknarF": a character that can’t be saved is at position 1; remove it.']],
    ['objects for texts', { words: { $gt: '' } }, ['words: words must be a string. You typed {"$gt":""}.']],
    [
      'an unknown ability',
      { keys: [{ tag: 'A', told: { flies: 'yes' } }] },
      ['keys[0].told.flies: "flies" is not a field that is known here. Remove it or correct its name.'],
    ],
  ])('%s', (_what, form, expected) => expect(problems(form)).toEqual(expected));
});

describe('search and list', () => {
  const every = { states: ['open', 'parked', 'closed'] as const };
  const list = async (text: string, sort: Sort = 'newest') =>
    (await listCases(harness.db, { states: [...every.states], text, sort })).rows.map((r) => r.id);

  test('finds by number, plate, any ending of the identification number, customer, key and words', async () => {
    const id = await harness.openCase({
      vehicle: 'Mirrow Pipit, teal',
      plate: '8-88-XAX',
      identification: '00BMP7T1XHW990071',
      customer: 'Étienne Quorn',
      phone: '555-0177',
      words: 'Fell over in the rain; won’t wake.',
    });
    const { keys, number } = await load(id);
    for (const query of [
      number,
      '8-88',
      '888xax',
      '0071',
      '990071',
      'HW990071',
      'étienne',
      'ÉTIENNE quorn',
      '0177',
      'fell rain',
      'pip',
      keys[0]!.code,
      'teal 8-88-XAX',
    ])
      expect([query, await list(query)]).toEqual([query, expect.arrayContaining([id])]);
    for (const query of ['8-89', 'fell snow', 'ipit', '\u0000', "' or 1=1 --", '%', '🔑'])
      expect([query, await list(query)]).toEqual([query, expect.not.arrayContaining([id])]);
  });

  test('pages by key agree with one long list, whatever the order', async () => {
    for (let i = 0; i < 7; i += 1) await harness.openCase({ vehicle: ['Orrin Thimble', 'Calder Parcel'][i % 2], words: 'paging test' });
    for (const sort of ['newest', 'oldest', 'vehicle'] as const) {
      const query = { states: [...every.states], text: 'paging', sort };
      const whole = (await listCases(harness.db, query)).rows;
      expect(whole).toHaveLength(7);
      const paged: number[] = [];
      for (let after: { id: number; vehicle: string } | undefined; ;) {
        const page = await listCases(harness.db, { ...query, ...(after ? { after } : {}) }, 2);
        paged.push(...page.rows.map((r) => r.id));
        if (!page.more) break;
        after = page.rows.at(-1)!;
      }
      expect([sort, paged]).toEqual([sort, whole.map((r) => r.id)]);
    }
  });

  test('going through the list and asking the word index find the same, whatever else is asked', async () => {
    const draw = generator(20261130);
    const one = <T>(of: readonly T[]) => of[Math.floor(draw() * of.length)]!;
    const words = ['ochre', 'orchard', 'refused', 'rain', 'teal', 'thimble'];
    for (let i = 0; i < 25; i += 1)
      await harness.openCase({ vehicle: one(['Orrin Thimble', 'Calder Parcel']), words: [one(words), one(words), one(words)].join(' ') });
    for (let i = 0; i < 60; i += 1) {
      // At least four letters: codes of keys are words as well.
      const text = [one(words), one(words), one(words)].slice(0, 1 + Math.floor(draw() * 3)).map((w) => w.slice(0, 4 + Math.floor(draw() * 3))).join(' '); // prettier-ignore
      const query = { states: [...every.states], text, sort: one(['newest', 'oldest', 'vehicle'] as const) };
      const limit = 1 + Math.floor(draw() * 10);
      const listed = async (window: number) => {
        const { rows, more } = await listCases(harness.db, query, limit, window);
        return { ids: rows.map((r) => r.id), more };
      };
      const whole = (await listCases(harness.db, { ...query, text: '' })).rows.filter((r) =>
        text.split(' ').every((w) =>
          `${r.vehicle} ${r.words}`
            .toLowerCase()
            .split(/[^a-z]+/)
            .some((has) => has.startsWith(w)),
        ),
      );
      const expected = { ids: whole.slice(0, limit).map((r) => r.id), more: whole.length > limit };
      for (const window of [0, 12, 1000]) expect([text, window, await listed(window)]).toEqual([text, window, expected]);
    }
  });

  test.each([
    ['', ''],
    ['state=closed&q=rain&kind=parts&family=transponder-dwell&sort=vehicle', 'state=closed&q=rain&kind=parts&family=transponder-dwell&sort=vehicle'],
    ['state=gone&kind=x&sort=__proto__&after=-1&family=%00', ''],
    ['q=%20%0a4-18%00&after=12', 'q=4-18'],
  ])('the address %j is read, and built again as %j', (address, again) =>
    expect(caseSearch(parseCaseQuery(new URLSearchParams(address)), {})).toBe(again === '' ? '' : `?${again}`),
  );

  test('a page goes on from a row', () => {
    const query = parseCaseQuery(new URLSearchParams('sort=vehicle'));
    const next = caseSearch(query, { after: { id: 9, vehicle: 'Orrin Thimble, “red”' } });
    expect(parseCaseQuery(new URLSearchParams(next)).after).toEqual({ id: 9, vehicle: 'Orrin Thimble, “red”' });
  });

  test('a spreadsheet runs nothing of what somebody typed', () => {
    expect(
      csv(
        ['a', 'b'],
        [
          ['=1+1', '+cmd'],
          ['@x', '-2'],
          ['a,"b"', 'c\nd'],
          ['plain', 5],
        ],
      ),
    ).toBe('\ufeffa,b\r\n\'=1+1,\'+cmd\r\n\'@x,\'-2\r\n"a,""b""","c\nd"\r\nplain,5\r\n');
  });

  test('the audit is searched by person, act, detail and case', async () => {
    const id = await harness.openCase({}, act(technician));
    expect(
      (await readAudit(harness.db, parseAuditQuery(new URLSearchParams(`q=quibb&case=${String(id).padStart(4, '0')}`)))).map((l) => l.action),
    ).toEqual(['case opened']);
    expect(await readAudit(harness.db, { text: '%', caseId: id })).toEqual([]);
    const [first] = await readAudit(harness.db, { text: '' });
    expect((await readAudit(harness.db, { text: '', before: first!.id }))[0]!.id).toBeLessThan(first!.id);
  });
});

describe('personal data', () => {
  test('is exported by a lead and erased by the owner; the case stays and says so', async () => {
    const id = await harness.openCase({
      customer: 'Wendeline Ruck',
      phone: '555-0199',
      plate: '6-92-UBI',
      identification: '00BVA3A15JW000001',
      words: 'Cranks, never fires.',
    });
    await recordCustody(harness.db, act(), id, parseCustody({ tag: 'A', act: 'returned', person: 'Ansgar Ruck' }));
    await harness.db
      .insert(photo)
      .values({ id: 'p-1', caseId: id, caption: '', type: 'image/png', width: 1, height: 1, data: new Uint8Array([1]), by: lead.id, at: 1 });
    expect(await refusal(personalData(harness.db, act(technician), id))).toMatchObject({ status: 403 });
    const data = await personalData(harness.db, act(lead), id);
    expect(data.people).toEqual([
      { name: 'Wendeline Ruck', phone: '555-0199' },
      { name: 'Ansgar Ruck', phone: '' },
    ]);
    expect(await refusal(erasePersonalData(harness.services.database, act(lead), id))).toMatchObject({ status: 403 });
    expect(await refusal(erasePersonalData(harness.services.database, act(owner), id))).toMatchObject({ status: 409, code: 'notClosed' });
    await closeNotDone(harness.db, act(), id, { reason: 'went elsewhere', returned: [] });
    await erasePersonalData(harness.services.database, act(owner), id);
    const record = await load(id);
    expect(record).toMatchObject({ plate: '', identification: '', customer: { name: '', phone: '' }, photos: [], words: 'Cranks, never fires.' });
    expect(record.customer!.erasedAt).not.toBeNull();
    expect(record.custody.map((c) => c.person)).toEqual(['', '', '']);
    for (const query of ['ruck', '0199', '6-92', '000001']) expect((await findCases(harness.db, query)).map((r) => r.id)).not.toContain(id);
    const left = JSON.stringify([
      await harness.db.select().from(customer),
      await harness.db.select().from(audit).where(eq(audit.caseId, id)),
      await readReport(harness.services, id),
    ]);
    expect(left).not.toMatch(/Wendeline|Ansgar|555-0199|6-92-UBI|00BVA3A15JW000001/);
  });
});

describe('bays', () => {
  test('are added, renamed and taken out of use; a case in one that is gone still stands on the Floor', async () => {
    await addBay(harness.db, act(), 'Yard');
    expect(await refusal(addBay(harness.db, act(), ' yard'.trim()))).toMatchObject({ status: 409, code: 'bayTaken' });
    expect(await refusal(addBay(harness.db, act(technician), 'Mine'))).toMatchObject({ status: 403 });
    const yard = await harness.bay('Yard');
    const id = await harness.openCase({ bay: yard });
    await renameBay(harness.db, act(), { bay: yard, name: 'Back yard' });
    await retireBay(harness.db, act(), yard);
    expect((await listBays(harness.db)).map((b) => b.name)).toEqual(['Bay 1', 'Bay 2']);
    expect((await readFloor(harness.services)).lanes.find((l) => l.case?.id === id)).toMatchObject({ bay: 'Back yard' });
    expect(await refusal(renameBay(harness.db, act(), { bay: 'gone', name: 'x' }))).toMatchObject({ status: 404 });
    expect(await refusal(createCase(harness.db, harness.services.library, act(), intake({ bay: yard }) as NewCase))).toMatchObject({
      status: 400,
      code: 'unknownBay',
    });
  });
});
