import { eq } from 'drizzle-orm';
import { type CaseRecord, loadCase, openCaseForChange, refreshCaseSearch } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader } from '../db/open';
import { caseFile, type Complaint, customer } from '../db/schema';
import { refused } from '../base/expected';
import type { IntakeFields } from './forms';
import { notify } from '../acts/live';
import { checkBay } from './openCase';

/** The intake as it stands in the case, in the form's own fields. */
const intakeOf = ({ complaint: { phone: _onThePhone, nothingChanged: _asked, ...complaint }, ...record }: CaseRecord, bayId: string) => ({
  vehicle: record.vehicle,
  ...(record.year === null ? {} : { year: record.year }),
  identification: record.identification,
  plate: record.plate,
  customer: record.customer?.name ?? '',
  phone: record.customer?.phone ?? '',
  words: record.words,
  symptoms: record.symptoms,
  complaint,
  changed: record.changed,
  condition: record.condition,
  bay: bayId,
});

/** The intake of a case for its form. */
export async function readIntake(db: Reader, caseId: number) {
  const record = await loadCase(db, caseId);
  if (!record) return undefined;
  const [row] = await db.select({ bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.id, caseId));
  return { id: record.id, number: record.number, kind: record.kind, open: record.state === 'open', fields: intakeOf(record, row?.bayId ?? '') };
}

/** Corrects or completes an intake. The audit names the fields that changed, not what stood in them. */
export async function changeIntake(db: Db, act: Act, caseId: number, form: IntakeFields): Promise<void> {
  let fields: string[] = [];
  const detail: Record<string, unknown> = {};
  await actOnce(db, act, { right: 'editIntake', action: 'intake changed', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    if (record.kind === 'vehicle' && form.vehicle === '') throw refused(400, 'string.empty', 'Nothing is written here. Write something.', 'vehicle');
    const [row] = await tx.select({ bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.id, caseId));
    const before = intakeOf(record, row?.bayId ?? '');
    fields = Object.keys({ ...before, ...form }).filter(
      (f) => JSON.stringify(before[f as keyof IntakeFields]) !== JSON.stringify(form[f as keyof IntakeFields]),
    );
    detail.fields = fields;
    const { customer: person, phone, bay, year, ...rest } = form;
    const bayId = bay === before.bay ? row!.bayId : await checkBay(tx, bay);
    let customerId = record.customer?.id ?? null;
    if (fields.includes('customer') || fields.includes('phone')) {
      if (customerId === null) customerId = (await tx.insert(customer).values({ name: person, phone }).returning({ id: customer.id }))[0]!.id;
      else await tx.update(customer).set({ name: person, phone, erasedAt: null }).where(eq(customer.id, customerId));
    }
    // The form of the intake asks neither of these.
    const { phone: onThePhone, nothingChanged } = record.complaint;
    const complaint: Complaint = {
      ...rest.complaint,
      ...(nothingChanged && rest.changed.length === 0 ? { nothingChanged } : {}),
      ...(onThePhone ? { phone: onThePhone } : {}),
    };
    await tx
      .update(caseFile)
      .set({ ...rest, complaint, year: year ?? null, bayId, customerId })
      .where(eq(caseFile.id, caseId));
    await refreshCaseSearch(tx, caseId);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** What changed lately, as it is asked in the triage: notes and days of what stays are kept. None at all says that somebody asked. */
export async function setChanged(db: Db, act: Act, caseId: number, changed: string[]): Promise<void> {
  const detail = { fields: ['changed'] };
  await actOnce(db, act, { right: 'editIntake', action: 'intake changed', payload: [caseId, changed], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    const { nothingChanged: _asked, ...complaint } = record.complaint;
    await tx
      .update(caseFile)
      .set({
        changed: changed.map((what) => record.changed.find((c) => c.what === what) ?? { what, note: '' }),
        complaint: changed.length === 0 ? { ...complaint, nothingChanged: 'yes' } : complaint,
      })
      .where(eq(caseFile.id, caseId));
    await refreshCaseSearch(tx, caseId);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}
