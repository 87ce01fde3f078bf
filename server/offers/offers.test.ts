import { eq } from 'drizzle-orm';
import { closeCase } from '../cases/closing';
import { cameBack, cameBackAs } from '../cases/cameBack';
import { parseCameBack, parseClosing } from '../cases/forms';
import { readReport } from '../cases/report';
import { noTallies } from '../../core/learning';
import { audit, caseFile, tally } from '../db/schema';
import { readExperience } from '../record/experience';
import { recordEvidence } from '../ledger/ledger';
import { learnFrom } from '../learning/lessons';
import { loadCase } from '../record/cases';
import { startRun } from '../runs/runs';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';
import { addOption, agree, changeOption, decline, hideOption, lookBack, mostOffers, seenOf, showOption, writePaper } from './acts';
import {
  parseAgreeForm,
  parseChangeForm,
  parseDeclineForm,
  parseHideForm,
  parseLookBackForm,
  parseOwnForm,
  parsePaperForm,
  parseShowForm,
} from './forms';
import { readOffers } from './view';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
  await harness.setPrices({ tax: '10', taxName: 'Tax' });
});
afterAll(() => harness.close());

const db = () => harness.db;
const act = (more = 0) => harness.act(technician, harness.services.clock.now() + more);
const record = async (id: number) => (await loadCase(db(), id))!;
const offers = async (id: number) => readOffers(harness.services, (await harness.services.cases.one(id))!);
const shown = async (id: number) => {
  const { settled, book } = await offers(id);
  return { options: settled.options, book };
};
/** A case whose light says refused: several causes, so several options. */
async function refusedCase(more: Record<string, unknown> = {}): Promise<number> {
  const id = await harness.openCase({ system: 'family:ring', authority: [{ kind: 'registration', note: '' }], ...more });
  await recordEvidence(db(), harness.services.documents, act(), id, { test: 'lamp', outcome: 'refused', key: 'A', note: '', minutes: 4 });
  return id;
}
const agreeTo = async (id: number, form: Record<string, unknown> = {}, as = act()) => {
  const offered = await shown(id);
  return agree(db(), as, id, parseAgreeForm({ options: [offered.options[0]!.id], how: 'phone', words: 'Go ahead', ...form }), offered);
};

test('options follow from the case, with the diagnosis so far beside them', async () => {
  const id = await refusedCase();
  const seen = await offers(id);
  expect(seen.settled.options.map((o) => o.kind)).toContain('test');
  expect(seen.work).toEqual([{ title: 'Security light at the ring', minutes: 4, counted: true, part: 'diagnosis' }]);
  // 4 min are a step of 6: 8.40, and a tenth of tax.
  expect(seen.diagnosisBill.total).toBe(924);
  expect(seen.ways!.act!.mean).toBeGreaterThan(0);
  expect(seen.askAgain).toBeNull();
});

test('an option is changed, hidden, shown again, and one is added; each with its reason in the report', async () => {
  const id = await refusedCase();
  const [first, second] = (await shown(id)).options;
  await changeOption(db(), act(), id, parseChangeForm({ option: first!.id, minutes: 60, parts: '100', reason: 'Dear part.' }));
  await hideOption(db(), act(), id, parseHideForm({ option: second!.id, reason: 'Not done here.' }));
  await addOption(db(), act(), id, parseOwnForm({ title: 'Tow it home', minutes: 30, parts: '50', reason: 'Asked for.' }));
  const { options } = await shown(id);
  expect(options.find((o) => o.id === first!.id)).toMatchObject({ price: { low: 20240 }, changed: { reason: 'Dear part.' } });
  expect(options.find((o) => o.id === second!.id)!.hidden).toMatchObject({ reason: 'Not done here.', by: 'Orla Quibb' });
  expect(options.at(-1)).toMatchObject({ id: 'own.1', title: 'Tow it home', price: { low: 10120, high: 10120 } });
  await showOption(db(), act(), id, parseShowForm({ option: second!.id }));
  expect((await shown(id)).options.find((o) => o.id === second!.id)!.hidden).toBeNull();
  const lines = (await readReport(harness.services, id))!.lines.map((l) => `${l.what} | ${l.detail}`);
  for (const line of ['Option added: Tow it home | Asked for.', `Option hidden | ${second!.id}: Not done here.`]) expect(lines).toContain(line);
});

test.each<[string, (id: number) => Promise<unknown>, { code: string; path?: string; message: string }]>([
  [
    'a change of nothing',
    (id) => changeOption(db(), act(), id, parseChangeForm({ option: 'fix.coilOpen', reason: 'x' })),
    { code: 'nothing', path: 'title', message: 'Nothing is changed yet. Change at least one field.' },
  ],
  [
    'a change without a reason',
    async () => parseChangeForm({ option: 'fix.coilOpen', title: 'x', reason: '' }),
    { code: 'empty', path: 'reason', message: expect.any(String) as never },
  ],
  [
    'parts that are no amount',
    (id) => changeOption(db(), act(), id, parseChangeForm({ option: 'fix.coilOpen', parts: 'a lot', reason: 'x' })),
    { code: 'amount', path: 'parts', message: 'You typed "a lot". Type an amount, such as 84.50.' },
  ],
  [
    'days the wrong way round',
    (id) => changeOption(db(), act(), id, parseChangeForm({ option: 'fix.coilOpen', daysLow: 3, daysHigh: 1, reason: 'x' })),
    { code: 'days', path: 'daysHigh', message: 'The latest day can’t come before the earliest. Change one of them.' },
  ],
  [
    'an own option that costs nothing',
    (id) => addOption(db(), act(), id, parseOwnForm({ title: 'Free', reason: 'x' })),
    { code: 'nothing', path: 'minutes', message: 'Say what it costs: minutes of work, parts, or both.' },
  ],
  [
    'nothing chosen',
    async () => parseAgreeForm({ options: [], how: 'phone' }),
    { code: 'few', path: 'options', message: expect.any(String) as never },
  ],
  [
    'no signature',
    (id) => agreeTo(id, { how: 'signature' }),
    { code: 'noSignature', path: 'signature', message: 'Nobody has signed yet. Let the customer sign in the field, or choose another way.' },
  ],
  ['a call without words', (id) => agreeTo(id, { words: '' }), { code: 'noWords', path: 'words', message: 'Write down what was said on the phone.' }],
  [
    'a message without words',
    (id) => agreeTo(id, { how: 'message', words: '' }),
    { code: 'noWords', path: 'words', message: 'Copy what the message says.' },
  ],
  [
    'a moment to come',
    (id) => agreeTo(id, { heardAt: 4e12 }),
    { code: 'future', path: 'heardAt', message: 'This moment is still to come. Check day and time.' },
  ],
  [
    'a limit below the price',
    (id) => agreeTo(id, { limit: '0.01' }),
    { code: 'limitLow', path: 'limit', message: 'The limit is less than what was chosen costs at least. Raise it, or choose something else.' },
  ],
  [
    'a limit that is no amount',
    (id) => agreeTo(id, { limit: '12,5' }),
    { code: 'amount', path: 'limit', message: 'You typed "12,5". Type an amount, such as 84.50.' },
  ],
  [
    'an option that is gone',
    (id) => agreeTo(id, { options: ['fix.gone'] }),
    {
      code: 'notOffered',
      path: 'options',
      message: 'One of these options is not offered any more: something in the case has changed. Look at the list again.',
    },
  ],
  [
    'a sum that has changed',
    (id) => agreeTo(id, { seen: '1-2' }),
    {
      code: 'changed',
      path: 'options',
      message: 'An amount has changed since this page was loaded. Go over the new amounts with the customer, then send it again.',
    },
  ],
  [
    'a look back on an open case',
    (id) => lookBack(db(), harness.services.documents, act(), id, parseLookBackForm({ stayed: 'fixed' })),
    { code: 'notClosed', message: 'This case is not closed: there is nothing to look back on yet.' },
  ],
  [
    'a vehicle back that never left',
    (id) => cameBack(db(), harness.services.library, act(), id, parseCameBack({ words: 'x' })),
    { code: 'notClosed', message: expect.stringMatching(/is not closed: go on in it\.$/) as never },
  ],
])('refused: %s', async (_what, work, says) => {
  const id = await refusedCase();
  const before = (await record(id)).offers.length;
  expect(await refusal(work(id))).toMatchObject(says.code === 'empty' || says.code === 'few' ? { path: says.path } : says);
  expect((await record(id)).offers.length).toBe(before);
});

test('an agreement keeps each option as it stood, what was declined, how and by whom; a later one takes its place and both stay', async () => {
  const id = await refusedCase();
  const offered = await shown(id);
  const signature = { width: 300, height: 100, strokes: [[10, 10, 20, 20]] };
  await agreeTo(id, { how: 'signature', words: '', signature, seen: seenOf([offered.options[0]!]), limit: '5000' });
  const [first] = (await record(id)).offers;
  expect(first).toMatchObject({
    kind: 'agree',
    limit: 500000,
    signature,
    by: 'Orla Quibb',
    options: [{ id: offered.options[0]!.id, price: offered.options[0]!.price }],
  });
  expect((first as { declined: string[] }).declined).toEqual(offered.options.slice(1).map((o) => o.title));
  await agreeTo(id, { options: [offered.options[1]!.id], who: 'Son of the customer' });
  const { settled, bill } = await offers(id);
  expect(settled.said).toHaveLength(2);
  expect(settled.now).toMatchObject({ who: 'Son of the customer' });
  expect(bill.total).toBeGreaterThan(0);
  expect(bill.lines.reduce((n, l) => n + l.amount, 0)).toBe(bill.sum);
});

describe('work beyond what was agreed asks again', () => {
  const relearn = (id: number) => startRun(db(), harness.services.documents, harness.services.library, act(), id, 'relearn-ignition-on');
  const dwell = (more = {}) => refusedCase({ system: 'profile:tarn-gantry', ...more });
  test('an effect on keys that is not in the agreement', async () => {
    const id = await dwell();
    await addOption(db(), act(), id, parseOwnForm({ title: 'Look further', minutes: 30, reason: 'x' }));
    const own = (await shown(id)).options.find((o) => o.kind === 'own')!;
    await agreeTo(id, { options: [own.id] });
    expect(await refusal(relearn(id))).toEqual({
      status: 409,
      code: 'notAgreed',
      path: '',
      message:
        '“Relearn without a scan tool, ignition on” changes the stored keys or writes to a module. The customer agreed to something else: ask again.',
    });
    await addOption(db(), act(), id, parseOwnForm({ title: 'Relearn', minutes: 45, effects: ['replacesKeys'], reason: 'x' }));
    await agreeTo(id, { options: ['own.2'] });
    expect(await refusal(relearn(id))).toBe('accepted');
  });
  test('the limit, and after everything was declined', async () => {
    const id = await dwell();
    await addOption(db(), act(), id, parseOwnForm({ title: 'Relearn', minutes: 6, effects: ['replacesKeys'], reason: 'x' }));
    await agreeTo(id, { options: ['own.1'], limit: '9.24' });
    await recordEvidence(db(), harness.services.documents, act(), id, { test: 'battery', outcome: 'healthy', note: '', minutes: 9 });
    expect(await refusal(relearn(id))).toMatchObject({
      code: 'notAgreed',
      message: 'Work and parts so far come to 27.72 cr; the customer agreed to 9.24 cr at most: ask again.',
    });
    expect((await offers(id)).askAgain).toBe('Work and parts so far come to 27.72 cr; the customer agreed to 9.24 cr at most: ask again.');
    await decline(db(), act(), id, parseDeclineForm({ how: 'phone', words: 'No more' }), (await shown(id)).options);
    expect(await refusal(relearn(id))).toMatchObject({ message: 'The customer wants nothing more done: ask again before any more work.' });
    const { bill, diagnosisBill } = await offers(id);
    expect(bill).toEqual(diagnosisBill);
    expect(bill.total).toBeGreaterThan(0);
  });
  test('where nobody agreed to anything, nothing is held back', async () => expect(await refusal(relearn(await dwell()))).toBe('accepted'));
});

test('a hundred at once under one id are one agreement, under their own ids a hundred; then the case is full', async () => {
  const id = await refusedCase();
  const offered = await shown(id);
  const form = parseAgreeForm({ options: [offered.options[0]!.id], how: 'phone', words: 'Yes' });
  const same = act();
  await Promise.all(Array.from({ length: 100 }, () => agree(db(), same, id, form, offered)));
  expect((await record(id)).offers).toHaveLength(1);
  const hide = parseHideForm({ option: offered.options[0]!.id, reason: 'x' });
  await Promise.all(Array.from({ length: 100 }, () => hideOption(db(), act(), id, hide)));
  expect((await record(id)).offers).toHaveLength(101);
  expect(mostOffers).toBe(1000);
});

test('papers are written part by part, also when the case is closed; too many or too long sentences are told', async () => {
  const id = await refusedCase();
  await writePaper(db(), act(), id, parsePaperForm({ section: 'done', lines: ' One. \n\nTwo.' }));
  expect((await offers(id)).settled.sections.done).toEqual(['One.', 'Two.']);
  expect(
    await refusal(writePaper(db(), act(), id, parsePaperForm({ section: 'done', lines: Array.from({ length: 31 }, () => 'x').join('\n') }))),
  ).toMatchObject({
    message: '31 sentences are too many for one part. Write at most 30.',
    path: 'lines',
  });
  expect(await refusal(writePaper(db(), act(), id, parsePaperForm({ section: 'done', lines: `ok\n${'x'.repeat(401)}` })))).toMatchObject({
    message: 'Line 2 is longer than 400 characters. Make two of it.',
  });
  await writePaper(db(), act(), id, parsePaperForm({ section: 'done', lines: '' }));
  expect((await offers(id)).settled.sections.done).toEqual([]);
});

test('everything of it goes out with the case and comes in at another shop', async () => {
  const id = await refusedCase();
  await agreeTo(id, { how: 'signature', words: '', signature: { width: 300, height: 100, strokes: [[1, 2, 3, 4]] } });
  await addOption(db(), act(), id, parseOwnForm({ title: 'Tow it home', minutes: 30, effects: ['addsKey'], reason: 'Asked for.' }));
  await writePaper(db(), act(), id, parsePaperForm({ section: 'advise', lines: 'Come back.' }));
  const there = await Harness.open();
  try {
    const { zip } = await exportCase(harness.db, harness.act(lead), id);
    const { id: taken } = await importCase(there.with, there.act(lead), zip);
    const plain = (all: { by: string; at: number }[]) => all.map(({ by: _by, ...rest }) => rest);
    expect(plain((await loadCase(there.db, taken))!.offers)).toEqual(plain((await record(id)).offers));
  } finally {
    await there.close();
  }
});

describe('afterwards', () => {
  async function closed(): Promise<number> {
    const id = await refusedCase({ system: 'family:ring' });
    await closeCase(
      db(),
      harness.services.documents,
      harness.act(lead),
      id,
      parseClosing({ outcome: 'Coil repaired.', reason: 'shown', conclusion: 'likely', fault: 'coilOpen', absentTold: 'on' }),
    );
    return id;
  }
  test('how the bills of agreed options went is told with the options, shrunk towards what their price promises', async () => {
    const id = await closed();
    await db().delete(tally);
    expect((await offers(id)).outcomes).toEqual({});
    await db()
      .insert(tally)
      .values({ familyId: 'ring', tallies: { ...noTallies(), options: { fix: { n: 20, within: 10 } } } });
    expect((await offers(id)).outcomes).toEqual({ fix: { n: 20, within: 10, p: 28 / 40 } });
    await db().delete(tally);
  });
  test('what was heard is kept, also of a closed case', async () => {
    const id = await closed();
    await lookBack(db(), harness.services.documents, act(), id, parseLookBackForm({ stayed: 'fixed', note: 'starts every day' }));
    expect((await offers(id)).settled.lookBacks).toMatchObject([{ stayed: 'fixed', note: 'starts every day' }]);
  });
  test('a vehicle that comes back is a case of its own, linked to the old one, once; what was proven no longer counts', async () => {
    const id = await closed();
    // Proven, as a repair that was tried with every key would have it.
    await db().update(caseFile).set({ conclusion: 'proven' }).where(eq(caseFile.id, id));
    await db().transaction(async (tx) => learnFrom(tx, harness.services.documents, (await loadCase(tx, id))!));
    expect((await readExperience(db(), 'ring', '')).proven.coilOpen).toBe(1);
    const form = parseCameBack({ words: 'It fails again.', keys: ['A'] });
    const same = act();
    const made = await Promise.all(Array.from({ length: 20 }, () => cameBack(db(), harness.services.library, same, id, form)));
    expect(new Set(made.map((m) => m.id)).size).toBe(1);
    const back = await record(made[0]!.id);
    expect(back).toMatchObject({ cameFrom: id, vehicle: 'Tarn Gantry, grey', words: 'It fails again.', state: 'open' });
    expect(back.keys.map((k) => [k.tag, k.present])).toEqual([
      ['A', true],
      ['B', false],
    ]);
    expect(await cameBackAs(db(), id)).toMatchObject({ id: made[0]!.id });
    expect(await refusal(cameBack(db(), harness.services.library, act(), id, form))).toMatchObject({
      code: 'backAlready',
      message: `The vehicle is here already, as case ${back.number}. Go on there.`,
    });
    expect((await readExperience(db(), 'ring', '')).proven.coilOpen).toBeUndefined();
    expect((await db().select().from(audit).where(eq(audit.caseId, id))).map((l) => l.action)).toContain('vehicle came back');
  });
});
