import { inflateSync } from 'node:zlib';
import { closeCase } from '../cases/closing';
import { parseClosing } from '../cases/forms';
import { recordEvidence, recordRepairAction } from '../ledger/ledger';
import { parseRepairAction } from '../ledger/forms';
import { addOption, agree, writePaper } from '../offers/acts';
import { parseAgreeForm, parseOwnForm, parsePaperForm } from '../offers/forms';
import { readOffers } from '../offers/view';
import type { PaperSize } from '../reading/paper';
import { Harness, lead, technician } from '../services/harness.testing';
import { billCsv, caseCalendar, lookBackAfterMs, paperPdf } from './files';
import { type PaperKind, readPapers } from './view';

let harness: Harness;
let id: number;
beforeAll(async () => {
  harness = await Harness.open();
  const { db, services } = harness;
  await harness.setPrices({ tax: '8.25', taxName: 'Sales tax' });
  id = await harness.openCase({
    system: 'family:ring',
    customer: 'Saoirse Keld',
    phone: '555-0110',
    authority: [{ kind: 'registration', note: '' }],
    counters: [{ counter: 'odometer', unit: 'km', value: 1200 }],
  });
  await recordEvidence(db, services.documents, harness.act(), id, { test: 'lamp', outcome: 'refused', key: 'A', note: '', minutes: 4 });
  await recordEvidence(db, services.documents, harness.act(), id, { test: 'coverAway', outcome: 'accepted', key: 'A', note: '', minutes: 2 });
  await addOption(db, harness.act(), id, parseOwnForm({ title: 'Take the cover off', minutes: 12, reason: 'Found so.' }));
  const { settled, book } = await readOffers(services, (await services.cases.one(id))!);
  const signature = { width: 300, height: 100, strokes: [[10, 10, 200, 60]] };
  await agree(db, harness.act(), id, parseAgreeForm({ options: ['own.1'], how: 'signature', signature }), { options: settled.options, book });
  await recordRepairAction(
    db,
    services.documents,
    harness.act(technician),
    id,
    parseRepairAction({ kind: 'repair', fault: 'coverNear', result: 'works', note: '' }),
  );
});
afterAll(() => harness.close());

const papers = async () => readPapers(harness.services, (await harness.services.cases.one(id))!, 'UTC');
/** Every text of a paper. */
const textOf = (blocks: unknown) => JSON.stringify(blocks);
async function pdf(kind: PaperKind, size: PaperSize) {
  const record = (await harness.services.cases.one(id))!;
  return Buffer.from(await paperPdf(harness.services, record, await papers(), kind, size));
}
/** Pages of a PDF; its objects may be compressed. */
function pagesOf(file: Buffer): number {
  const whole = file.toString('latin1');
  const streams = [...whole.matchAll(/stream\r?\n([\s\S]*?)endstream/g)].map(([, body]) => {
    try {
      return inflateSync(Buffer.from(body!, 'latin1')).toString('latin1');
    } catch {
      return '';
    }
  });
  return [whole, ...streams].join('\n').match(/\/Type\s*\/Page\b(?!s)/g)!.length;
}

test('what was found and done stands on both papers; the file has everything, the customer’s no phone number and nobody’s name', async () => {
  const { papers: both } = await papers();
  for (const paper of [both.customer, both.file]) {
    expect(textOf(paper)).toContain(
      'A ring around the lock powers a chip in the key, which the immobilizer compares with its list. The cause of the no-start: cover, ornament or ring weakens the signal (likely, not proven).',
    );
    expect(textOf(paper)).toContain('Leave the cover or ornament off the key.');
    expect(textOf(paper)).toContain('Take the cover off');
  }
  for (const only of ['555-0110', 'Orla Quibb', 'Work done', 'Odometer', 'Proof', 'Signed']) {
    expect([only, textOf(both.customer).includes(only)]).toEqual([only, false]);
  }
  for (const also of ['555-0110', 'Work done', 'Counters', 'Custody', 'Agreements', 'Authority seen'])
    expect([also, textOf(both.file).includes(also)]).toEqual([also, true]);
});

test('the sum on the paper is the sum of its lines, and the CSV has the same', async () => {
  const made = await papers();
  const { bill } = made;
  // 6 min of diagnosis and 12 of the option are 18: 25.20; 8.25 % of it 2.08.
  expect([bill.sum, bill.tax, bill.total]).toEqual([2520, 208, 2728]);
  const csv = billCsv(made, (await harness.services.cases.one(id))!);
  expect(
    csv
      .replace(/^\uFEFF/, '')
      .trim()
      .split('\r\n'),
  ).toEqual([
    'case,line,title,minutes,count,amount,currency',
    expect.stringMatching(/^\d{4},1,"?Work: Diagnosis, Take the cover off"?,18,1,25\.20,cr$/),
    expect.stringMatching(/^\d{4},2,Sales tax,,1,2\.08,cr$/),
  ]);
});

test.each<[PaperKind, PaperSize, number]>([
  ['customer', 'LETTER', 1],
  ['customer', 'A4', 1],
  ['file', 'LETTER', 2],
  ['file', 'A4', 2],
])('the paper for the %s on %s is a PDF of at most %d pages', async (kind, size, most) => {
  const file = await pdf(kind, size);
  expect(file.subarray(0, 5).toString()).toBe('%PDF-');
  expect(pagesOf(file)).toBeLessThanOrEqual(most);
  expect(file.length).toBeLessThan(200_000);
});

test('sentences that a person wrote take the place of those from the record', async () => {
  await writePaper(harness.db, harness.act(), id, parsePaperForm({ section: 'notDone', lines: 'We left the radio alone.' }));
  const { papers: both } = await papers();
  expect(textOf(both.customer)).toContain('We left the radio alone.');
  expect(textOf(both.customer)).not.toContain('Nothing that we know of was left undone.');
});

test('the calendar has the day on which the shop asks again, once the case is closed', async () => {
  const calendar = async () => caseCalendar(harness.services, (await harness.services.cases.one(id))!);
  expect(await calendar()).not.toContain('VEVENT');
  await closeCase(
    harness.db,
    harness.services.documents,
    harness.act(lead),
    id,
    parseClosing({ outcome: 'Cover off.', reason: 'shown', conclusion: 'unknown', absentTold: 'on' }),
  );
  const text = await calendar();
  const { closedAt, number } = (await harness.services.cases.one(id))!;
  const day = new Date(closedAt! + lookBackAfterMs);
  const local = [day.getFullYear(), day.getMonth() + 1, day.getDate()].map((n) => String(n).padStart(2, '0')).join('');
  expect(text).toContain(`SUMMARY:Ask again: Tarn Gantry\\, grey\\, case ${number}`);
  expect(text).toContain(local);
  expect(text.startsWith('BEGIN:VCALENDAR')).toBe(true);
});
