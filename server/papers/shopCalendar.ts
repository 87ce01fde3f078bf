import { and, eq, gt, isNotNull } from 'drizzle-orm';
import ical from 'ical-generator';
import { caseNumber } from '../base/caseNumber';
import { caseFile } from '../db/schema';
import { lookBackAfterMs } from './files';
import { stripClocks } from '../runs/strip';
import type { Services } from '../services/services';

const day = 24 * 60 * 60_000;

/**
 * What is due in the shop, as a calendar that programs fetch again and again: running waits, promised times, and days on which the shop asks after closed cases.
 * @param vehicles whether vehicles and plates may be read by whoever has its address
 */
export async function shopCalendar(services: Services, name: string, vehicles: boolean): Promise<string> {
  const { db } = services.database;
  const now = services.clock.now();
  const stamp = new Date(now);
  const calendar = ical({ name, prodId: { company: 'Bloodstone', product: 'Bloodstone', language: 'EN' }, ttl: 60 });
  const of = (r: { id: number; vehicle: string; plate: string }) =>
    [`Case ${caseNumber(r.id)}`, ...(vehicles ? [r.vehicle, r.plate] : [])].filter((part) => part !== '').join(', ');
  const columns = { id: caseFile.id, vehicle: caseFile.vehicle, plate: caseFile.plate };

  for (const { id, bay, caseId, instruction, wait } of await stripClocks(services))
    if (wait)
      calendar.createEvent({
        id: `${id.replaceAll(' ', '-')}@bloodstone`,
        stamp,
        start: new Date(wait.startedAt),
        end: new Date(wait.until),
        summary: `${bay}: ${instruction}`,
        ...(vehicles ? {} : { description: `Case ${caseNumber(caseId)}` }),
      });
  const promised = await db
    .select({ ...columns, at: caseFile.promisedAt })
    .from(caseFile)
    .where(and(eq(caseFile.state, 'open'), isNotNull(caseFile.promisedAt)));
  for (const r of promised)
    calendar.createEvent({ id: `promise-${r.id}@bloodstone`, stamp, start: new Date(r.at!), end: new Date(r.at!), summary: `Promised: ${of(r)}` });
  const closed = await db
    .select({ ...columns, at: caseFile.closedAt })
    .from(caseFile)
    .where(and(eq(caseFile.closing, 'done'), gt(caseFile.closedAt, now - lookBackAfterMs - day)));
  for (const r of closed)
    calendar.createEvent({
      id: `after-${r.id}@bloodstone`,
      stamp,
      start: new Date(r.at! + lookBackAfterMs),
      allDay: true,
      summary: `Ask whether it stayed fixed: ${of(r)}`,
    });
  return calendar.toString();
}
