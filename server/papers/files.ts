import ical from 'ical-generator';
import { csv } from '../base/csv';
import { amountText } from '../../core/quote';
import type { PaperSize } from '../reading/paper';
import { type CaseRecord } from '../record/cases';
import type { Services } from '../services/services';
import { pictureSize, readPicture, readShop } from '../shop/shop';
import { stripClocks } from '../runs/strip';
import type { CasePapers, PaperKind } from './view';

const titles: Readonly<Record<PaperKind, string>> = { customer: 'What was found and done', file: 'File copy' };

/** A paper of a case as PDF, in the shop's name. */
export async function paperPdf(services: Services, record: CaseRecord, papers: CasePapers, kind: PaperKind, size: PaperSize): Promise<Uint8Array> {
  const { db } = services.database;
  const shop = await readShop(db);
  const picture = (await pictureSize(db)) ? await readPicture(db) : undefined;
  return services.files.paper({
    size,
    title: titles[kind],
    subtitle: `Case ${record.number}: ${record.vehicle}`,
    shop: { name: shop.name, lines: [...shop.address.split('\n'), shop.phone].filter(Boolean), ...(picture ? { picture } : {}) },
    foot: [
      `Case ${record.number}`,
      kind === 'file' ? 'for the file, not for the customer' : 'Content that was not checked against a source is marked so in the full report.',
      services.demo ? 'demo data, nothing here is real' : '',
    ]
      .filter(Boolean)
      .join(' · '),
    blocks: papers.papers[kind],
  });
}

/** The bill as lines for an accounting program: amounts with a point, the total apart from its lines. */
export function billCsv({ bill, offers }: CasePapers, record: CaseRecord): string {
  const { decimals, taxName } = offers.book.book;
  const amount = (value: number) => amountText(value, decimals);
  return csv(
    ['case', 'line', 'title', 'minutes', 'count', 'amount', 'currency'],
    [
      ...bill.lines.map((l, i) => [record.number, i + 1, l.title, l.minutes ?? '', l.count, amount(l.amount), offers.currency]),
      ...(bill.lines.length > 0 ? [[record.number, bill.lines.length + 1, taxName || 'Tax', '', 1, amount(bill.tax), offers.currency]] : []),
    ],
  );
}

/** How long after the hand-over the shop asks again, ms. Our own choice: a fault that comes back mostly does so within a week. */
export const lookBackAfterMs = 7 * 24 * 60 * 60_000;

/** Running waits of a case, and the day on which the shop asks again, as a calendar. */
export async function caseCalendar(services: Services, record: CaseRecord): Promise<string> {
  const stamp = new Date(services.clock.now());
  const calendar = ical({ name: `Case ${record.number}`, prodId: { company: 'Bloodstone', product: 'Bloodstone', language: 'EN' } });
  for (const clock of (await stripClocks(services)).filter((c) => c.caseId === record.id && c.wait !== null))
    calendar.createEvent({
      id: `${clock.id.replaceAll(' ', '-')}@case-${record.number}`,
      stamp,
      start: new Date(clock.wait!.startedAt),
      end: new Date(clock.wait!.until),
      summary: `${clock.where}: ${clock.instruction}`,
    });
  if (record.closedAt !== null && record.closing === 'done')
    calendar.createEvent({
      id: `after@case-${record.number}`,
      stamp,
      start: new Date(record.closedAt + lookBackAfterMs),
      allDay: true,
      summary: `Ask again: ${record.vehicle}, case ${record.number}`,
    });
  return calendar.toString();
}
