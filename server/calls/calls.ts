import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray, isNull, lt } from 'drizzle-orm';
import { adviseWith, callSystem, questionsFor, type CallSheet, type CallSystem, toldCaller, type ToldCaller } from '../../core/call';
import type { Library } from '../../content/reader';
import { caseNumber } from '../base/caseNumber';
import { type Act, actOnce, doneAt } from '../acts/commands';
import type { Db, Reader, Tx } from '../db/open';
import { call, customer, draft, type FilmedLamp, person } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { recordingOfTaps } from '../ledger/lamps';
import { notify } from '../acts/live';
import { currentProfile } from '../library/profiles';
import { readShop } from '../shop/shop';
import type { CallForm } from './forms';

export interface CallLine extends CallForm {
  id: number;
  told: ToldCaller;
  caseId: number | null;
  case: string | null;
  by: string;
  at: number;
  changedAt: number;
}

export const callSheetOf = (library: Library): CallSheet => library.calls.get('sheet')!;

/** @returns null when the caller can't say which system it is */
export async function systemOfCall(db: Reader, library: Library, system: string): Promise<CallSystem | null> {
  const [kind = '', id = ''] = system.split(':');
  const profile = kind === 'profile' ? (await currentProfile(db, id))?.profile : undefined;
  const family = library.families.get(profile?.family ?? (kind === 'family' ? id : ''));
  return family ? callSystem(family, profile) : null;
}

function checkAnswers(sheet: CallSheet, system: CallSystem | null, answers: Readonly<Record<string, string>>): void {
  const problems = Object.entries(answers).flatMap(([id, value]) => {
    const question = sheet.questions.find((q) => q.id === id);
    const path = `answers.${id}`;
    if (!question) return [{ code: 'unknownName', path, message: 'This question is not on the sheet. Reload the page.' }];
    const known = id === 'lamp' && system ? [...Object.keys(question.values), ...system.lamps.map((l) => l.id)] : Object.keys(question.values);
    return known.includes(value)
      ? []
      : [{ code: 'unknownName', path, message: `"${value.slice(0, 60)}" is not an answer here. Use one of: ${known.join(', ')}.` }];
  });
  if (problems.length > 0) throw new Refused(400, problems);
}

/** Keeps a call, or changes one that is kept. What was told is worked out here, from what was answered. */
export async function saveCall(db: Db, library: Library, act: Act, form: CallForm, id?: number): Promise<{ id: number }> {
  return actOnce(
    db,
    act,
    { right: 'takeCalls', action: id === undefined ? 'call saved' : 'call changed', payload: [id ?? null, form] },
    async (tx) => {
      await forgetOld(tx, act.now);
      if (
        ![form.customer, form.phone, form.vehicle, form.plate, form.words, form.system].some(Boolean) &&
        Object.keys(form.answers).length === 0 &&
        form.film === null
      )
        throw refused(400, 'emptyCall', 'Nothing is written down yet. Write what the caller says, or tick an answer.', 'words');
      const before = id === undefined ? undefined : await openCall(tx, id);
      const system = await systemOfCall(tx, library, form.system);
      if (form.system !== '' && !system)
        throw refused(400, 'unknownSystem', 'This system type is not in the library. Choose one from the list.', 'system');
      const sheet = callSheetOf(library);
      checkAnswers(sheet, system, form.answers);
      const film = form.film && { moment: form.film.moment, recording: recordingOfTaps(form.film) };
      const told = toldCaller(adviseWith(sheet, system, form.answers, film), await readShop(tx));
      const { customer: name, phone, vehicle, plate, words, answers } = form;
      let customerId = before?.customerId ?? null;
      if (customerId !== null) await tx.update(customer).set({ name, phone }).where(eq(customer.id, customerId));
      else if (name !== '' || phone !== '') customerId = (await tx.insert(customer).values({ name, phone }).returning({ id: customer.id }))[0]!.id;
      const row = { customerId, vehicle, plate, words, system: form.system, answers, film: form.film, told, changedAt: doneAt(act) };
      const saved = before
        ? before.id
        : (
            await tx
              .insert(call)
              .values({ ...row, by: act.actor.id, at: doneAt(act) })
              .returning({ id: call.id })
          )[0]!.id;
      if (before) await tx.update(call).set(row).where(eq(call.id, before.id));
      await notify(tx, { what: 'case' });
      return { id: saved };
    },
  );
}

/** Calls that nobody touched for so long and that became no case are thrown away: they hold names and phone numbers. */
const keepMs = 90 * 24 * 60 * 60_000;
async function forgetOld(tx: Tx, now: number): Promise<void> {
  const gone = await tx
    .delete(call)
    .where(and(isNull(call.caseId), lt(call.changedAt, now - keepMs)))
    .returning({ customerId: call.customerId });
  const people = gone.map((g) => g.customerId).filter((c) => c !== null);
  if (people.length > 0) await tx.delete(customer).where(inArray(customer.id, people));
}

async function openCall(tx: Tx, id: number) {
  const [found] = await tx.select().from(call).where(eq(call.id, id)).for('update');
  if (!found) throw refused(404, 'noCall', 'This call has been deleted.');
  if (found.caseId !== null) throw refused(409, 'callTaken', `This call became case ${caseNumber(found.caseId)}. Continue there.`);
  return found;
}

/** Throws a call away, with its name and number. */
export async function discardCall(db: Db, act: Act, id: number): Promise<void> {
  await actOnce(db, act, { right: 'takeCalls', action: 'call discarded', payload: id }, async (tx) => {
    const found = await openCall(tx, id);
    await tx.delete(call).where(eq(call.id, id));
    if (found.customerId !== null) await tx.delete(customer).where(eq(customer.id, found.customerId));
    return null;
  });
}

/** Makes the call an intake: what was said stands in its form, to be completed when the vehicle is here. The case itself is opened from there. */
export async function takeCallIn(db: Db, library: Library, act: Act, callId: number): Promise<{ draft: string }> {
  return actOnce(db, act, { right: 'takeCalls', action: 'call became an intake', payload: callId }, async (tx) => {
    const found = await openCall(tx, callId);
    const [caller] = found.customerId === null ? [] : await tx.select().from(customer).where(eq(customer.id, found.customerId));
    const system = await systemOfCall(tx, library, found.system);
    const values = questionsFor(callSheetOf(library), system?.family).flatMap((q) => {
      const answer = found.answers[q.id];
      return answer !== undefined && Object.hasOwn(q.values, answer) ? [q.values[answer]!] : [];
    });
    const fields = {
      call: String(found.id),
      words: found.words,
      vehicle: found.vehicle,
      plate: found.plate,
      customer: caller?.name ?? '',
      phone: caller?.phone ?? '',
      system: found.system,
      symptoms: [...new Set(values.flatMap((v) => v.symptoms ?? []))],
      changed: values.flatMap((v) => (v.changed ? [{ what: v.changed, on: '', note: 'said on the phone' }] : [])),
    };
    // An id of its own: the intake's id will be that of the act that opens the case.
    const id = randomUUID();
    await tx.insert(draft).values({ id, by: act.actor.id, fields, updatedAt: act.now });
    return { draft: id };
  });
}

/** The call that a case was opened from, with what was answered in it; it can't become another. */
export async function closeCall(tx: Tx, library: Library, id: number, caseId: number): Promise<{ film: FilmedLamp | null; answered: string[] }> {
  const there = await tx.select({ id: call.id }).from(call).where(eq(call.id, id));
  // It was thrown away meanwhile; what was taken over from it stands in the intake.
  if (there.length === 0) return { film: null, answered: [] };
  const found = await openCall(tx, id);
  await tx.update(call).set({ caseId }).where(eq(call.id, id));
  const answered = questionsFor(callSheetOf(library), undefined).flatMap((q) => {
    const answer = found.answers[q.id];
    return answer !== undefined && Object.hasOwn(q.values, answer) ? [`${q.ask} ${q.values[answer]!.say}`] : [];
  });
  return { film: found.film, answered };
}

const columns = { call, customer: { name: customer.name, phone: customer.phone }, by: person.name };
type Row = { call: typeof call.$inferSelect; customer: { name: string; phone: string } | null; by: string };
const lineOf = ({ call: c, customer: who, by }: Row): CallLine => ({
  id: c.id,
  customer: who?.name ?? '',
  phone: who?.phone ?? '',
  vehicle: c.vehicle,
  plate: c.plate,
  words: c.words,
  system: c.system,
  answers: c.answers,
  film: c.film,
  told: c.told,
  caseId: c.caseId,
  case: c.caseId === null ? null : caseNumber(c.caseId),
  by,
  at: c.at,
  changedAt: c.changedAt,
});

/** Most calls that the list shows; older ones are found through their cases. */
const shownCalls = 100;

export async function listCalls(db: Reader): Promise<CallLine[]> {
  const rows = await db
    .select(columns)
    .from(call)
    .leftJoin(customer, eq(call.customerId, customer.id))
    .innerJoin(person, eq(call.by, person.id))
    .orderBy(desc(call.at), desc(call.id))
    .limit(shownCalls);
  return rows.map(lineOf);
}

export async function readCall(db: Reader, id: number): Promise<CallLine | undefined> {
  const rows = await db
    .select(columns)
    .from(call)
    .leftJoin(customer, eq(call.customerId, customer.id))
    .innerJoin(person, eq(call.by, person.id))
    .where(eq(call.id, id));
  return rows[0] ? lineOf(rows[0]) : undefined;
}
