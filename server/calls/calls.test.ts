import { eq } from 'drizzle-orm';
import { Harness, intake, refusal, technician } from '../services/harness.testing';
import { listCalls, readCall, saveCall, discardCall, takeCallIn } from './calls';
import { loadCase } from '../record/cases';
import { closeNotDone } from '../cases/closing';
import { audit, customer } from '../db/schema';
import { findDraft } from '../cases/drafts';
import { parseCall } from './forms';
import { changeIntake, readIntake } from '../cases/changeIntake';
import { parseIntake } from '../cases/forms';
import { createCase } from '../cases/openCase';
import { erasePersonalData } from '../cases/personal';
import { owner } from '../services/harness.testing';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const save = (form: Record<string, unknown>, id?: number, now?: number) =>
  saveCall(harness.db, harness.services.library, harness.act(technician, now), parseCall(form), id);
const takeIn = (id: number) => takeCallIn(harness.db, harness.services.library, harness.act(technician), id);
const said = {
  customer: 'Ottoline Vane',
  phone: '555-0137',
  vehicle: 'Mirrow Pipit, blue',
  words: 'The lamp counts.',
  system: 'profile:mirrow-pipit',
  answers: { engine: 'turns', lamp: 'unknown', before: 'keyDropped' },
};
const people = async () => (await harness.db.select().from(customer)).map((c) => c.name);

test('a call is kept with what the caller was told, worked out here', async () => {
  const { id } = await save(said);
  const call = (await readCall(harness.db, id))!;
  expect(call).toMatchObject({ ...said, film: null, caseId: null, by: technician.name });
  expect(call.told).toEqual({
    sounds: expect.stringMatching(/^Sounds like the immobilizer \((over )?9\d %\)$/),
    visit: 'Go there: a refused key is best checked where the car is, and is often fixed on the spot.',
    // 50 to 195 minutes at 84 an hour.
    price: '70 to 273 cr, parts extra',
  });
  await save({ ...said, answers: { dash: 'dark' }, customer: 'O. Vane' }, id);
  expect((await readCall(harness.db, id))!).toMatchObject({ customer: 'O. Vane', told: { sounds: expect.stringMatching(/^Sounds like no power/) } });
  expect((await listCalls(harness.db)).filter((c) => c.id === id)).toHaveLength(1);
});

test('a film that was watched outweighs the description', async () => {
  const film = { moment: 'ignition-on', lit: [[0.3, 3.3]], litAtEnd: false, lengthS: 9 };
  const { id } = await save({ system: 'family:ring', answers: { lamp: 'refused' }, film });
  expect((await readCall(harness.db, id))!.told.sounds).toMatch(/^Sounds like starter, fuel or a switch/);
});

test('one thing is enough, whichever; nothing at all is no call', async () => {
  const { id } = await save({ words: 'Nothing happens.' });
  expect((await readCall(harness.db, id))!).toMatchObject({ customer: '', vehicle: '', told: { sounds: 'Not clear (40 %)' } });
  for (const one of [{ plate: '4-18-THB' }, { answers: { engine: 'nothing' } }]) expect(await save(one)).toHaveProperty('id');
  expect(await refusal(save({}))).toMatchObject({
    status: 400,
    code: 'emptyCall',
    path: 'words',
    message: 'Nothing is written down yet. Write what the caller says, or tick an answer.',
  });
});

test.each<[Record<string, unknown>, string, string | RegExp]>([
  [{ system: 'family:hovercraft' }, 'system', 'This system type is not in the library. Choose one from the list.'],
  [{ system: 'ring' }, 'system', /one of the system types in the list/],
  [{ answers: { weather: 'wet' } }, 'answers.weather', 'This question is not on the sheet. Reload the page.'],
  [{ answers: { engine: 'sings' } }, 'answers.engine', '"sings" is not an answer here. Use one of: nothing, clicks, slow, turns, dies.'],
  // A pattern is an answer only where the system has it.
  [{ answers: { lamp: 'refused' } }, 'answers.lamp', '"refused" is not an answer here. Use one of: flashes, stays, goesOut, never.'],
  [{ film: { moment: 'ignition-on', lit: [[3, 1]], litAtEnd: false, lengthS: 9 } }, 'lit[1]', /is before the sample above/],
  [{ film: { moment: 'ignition-on', lit: [], litAtEnd: false, lengthS: 0 } }, 'film.lengthS', /./],
])('%j is refused', async (form, path, message) =>
  expect(await refusal((async () => save(form))())).toMatchObject({
    status: 400,
    path,
    message: typeof message === 'string' ? message : expect.stringMatching(message),
  }),
);

test('taken in: what was said stands in the intake, and the case keeps the film’s taps', async () => {
  const film = { moment: 'ignition-on', lit: [[0.3, 3.3]], litAtEnd: false, lengthS: 9 };
  const { id } = await save({ ...said, system: 'family:ring', answers: { engine: 'dies', before: 'cover' }, film });
  const { draft } = await takeIn(id);
  const { fields } = (await findDraft(harness.db, technician, draft))!;
  expect(fields).toMatchObject({
    call: String(id),
    customer: 'Ottoline Vane',
    phone: '555-0137',
    vehicle: 'Mirrow Pipit, blue',
    words: 'The lamp counts.',
    system: 'family:ring',
    symptoms: ['startsAndDies'],
    changed: [{ what: 'cover', note: 'said on the phone' }],
  });
  const open = (act = harness.act(technician)) =>
    createCase(harness.db, harness.services.library, act, intake({ call: id, system: 'family:ring' }), draft);
  const { id: caseId } = await open();
  expect((await readCall(harness.db, id))!.caseId).toBe(caseId);
  const record = (await loadCase(harness.db, caseId))!;
  expect(record.looks).toMatchObject([{ origin: 'film', lit: [[0.3, 3.3]], key: null, reading: { state: 'decided', pattern: 'accepted' } }]);
  // Nobody here saw the lamp: it is no evidence.
  expect(record.evidence).toEqual([]);
  // What was answered on the phone stands with what the customer says, and stays when the intake is changed.
  const phone = ['What happens when it is started? Starts and dies', 'What happened before? A new cover, ornament or key ring'];
  expect(record.complaint).toEqual({ phone });
  await changeIntake(
    harness.db,
    harness.act(),
    caseId,
    parseIntake({ ...(await readIntake(harness.db, caseId))!.fields, complaint: {}, words: 'It dies.' }),
  );
  expect((await loadCase(harness.db, caseId))!).toMatchObject({ words: 'It dies.', complaint: { phone } });
  const [last] = await harness.db.select().from(audit).where(eq(audit.action, 'intake changed'));
  expect(last!.detail.fields).toEqual(['words']);

  const became = { status: 409, code: 'callTaken', message: expect.stringMatching(/^This call became case \d{4}\. Continue there\.$/) };
  expect(await refusal(open())).toMatchObject(became);
  expect(await refusal(takeIn(id))).toMatchObject(became);
  expect(await refusal(save(said, id))).toMatchObject(became);
  expect(await refusal(discardCall(harness.db, harness.act(), id))).toMatchObject(became);

  // Erased with the case, also in the call.
  await closeNotDone(harness.db, harness.act(), caseId, { reason: 'sold', returned: ['A', 'B'] });
  await erasePersonalData(harness.services.database, harness.act(owner), caseId);
  expect((await readCall(harness.db, id))!).toMatchObject({ customer: '', phone: '', plate: '' });
});

test('the same act twice makes one intake; a call thrown away stands in no one’s way', async () => {
  const { id } = await save(said);
  const act = harness.act(technician);
  const once = () => takeCallIn(harness.db, harness.services.library, act, id);
  expect(await once()).toEqual(await once());
  await discardCall(harness.db, harness.act(), id);
  expect(await readCall(harness.db, id)).toBeUndefined();
  expect(await refusal(discardCall(harness.db, harness.act(), id))).toMatchObject({ status: 404, message: 'This call has been deleted.' });
  const { id: caseId } = await createCase(harness.db, harness.services.library, harness.act(), intake({ call: id }));
  expect((await loadCase(harness.db, caseId))!.looks).toEqual([]);
});

test('names of calls that came to nothing are forgotten after ninety days, on both sides of the limit', async () => {
  const day = 24 * 60 * 60_000;
  const now = harness.services.clock.now();
  const { id: old } = await save({ customer: 'Long Gone' }, undefined, now);
  const { id: younger } = await save({ customer: 'Still Here' }, undefined, now + 1);
  await save({ words: 'Another.' }, undefined, now + 90 * day + 1);
  expect(await readCall(harness.db, old)).toBeUndefined();
  expect(await readCall(harness.db, younger)).toBeDefined();
  expect(await people()).not.toContain('Long Gone');
  expect(await people()).toContain('Still Here');
});
