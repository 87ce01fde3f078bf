import { and, eq } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { elseNull, flag, line, needed, orEmpty, text, whole } from '../base/field';
import { rowId } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { checkBay } from '../cases/openCase';
import type { Db, Tx } from '../db/open';
import { caseFile, person, shop } from '../db/schema';
import { openCaseForChange } from '../record/cases';
import { countByName } from './hands';

/** Most technicians that one Floor plans for. */
export const mostTechnicians = 6;

export const parseTechnicians = (data: Record<string, unknown>) => parseForm({ technicians: needed(whole(1, mostTechnicians)) }, data);

const place = {
  caseId: needed(rowId),
  bay: orEmpty(text(80)),
  /** Id of who works on it; nothing: anybody. */
  technician: orEmpty(line(80)),
  /** A moment, ms; nothing where nothing is promised. */
  promisedAt: elseNull(whole(0, Number.MAX_SAFE_INTEGER)),
};
export const parseAtWork = (data: Record<string, unknown>) => parseForm({ person: needed(line(80)), atWork: flag() }, data);
export const parsePlace = (data: Record<string, unknown>) => parseForm(place, data);
export type PlaceForm = ReturnType<typeof parsePlace>;

/** For how many technicians the Floor plans. */
export async function setTechnicians(db: Db, act: Act, technicians: number): Promise<void> {
  await actOnce(db, act, { right: 'work', action: 'technicians at work', payload: technicians, detail: { technicians } }, async (tx) => {
    await setCount(tx, technicians);
    const named = await countByName(tx);
    if (named > technicians) throw refused(409, 'moreByName', `${named} people are marked as at work by name. Take one out first.`, 'technicians');
    await notify(tx, { what: 'case' });
    return null;
  });
}

async function setCount(tx: Tx, technicians: number): Promise<void> {
  const changed = await tx.update(shop).set({ technicians }).returning({ id: shop.id });
  if (changed.length === 0) throw refused(409, 'noShop', 'This shop has no data yet. Write its name under Shop first.', 'technicians');
}

/** Marks somebody as at work by name; the number of technicians grows where there are more by name. */
export async function setAtWork(db: Db, act: Act, form: { person: string; atWork: boolean }): Promise<void> {
  await actOnce(db, act, { right: 'work', action: 'person at work', payload: form, detail: form }, async (tx) => {
    // One after the other: each sees how many the one before left.
    const [row] = await tx.select({ n: shop.technicians }).from(shop).for('update');
    const who = await workerOf(tx, form.person);
    await tx.update(person).set({ atWork: form.atWork }).where(eq(person.id, who));
    const named = await countByName(tx);
    if (named > mostTechnicians)
      throw refused(409, 'tooMany', `The Floor plans for ${mostTechnicians} technicians at most. Take one out first.`, 'person');
    if (named > (row?.n ?? 1)) await setCount(tx, named);
    await notify(tx, { what: 'case' });
    return null;
  });
}

async function workerOf(tx: Tx, id: string): Promise<string> {
  const found = await tx
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.id, id), eq(person.state, 'active')));
  if (found.length === 0) throw refused(400, 'unknownPerson', 'Nobody here has this account. Choose somebody from the list.', 'technician');
  return id;
}

/** Where a case stands, who works on it, and when it is promised to be ready. */
export async function setPlace(db: Db, act: Act, { caseId, bay, promisedAt, technician }: PlaceForm): Promise<void> {
  const detail = { bay, promisedAt, technician };
  await actOnce(
    db,
    act,
    { right: 'editIntake', action: 'bay and promise changed', payload: [caseId, bay, promisedAt, technician], caseId, detail },
    async (tx) => {
      await openCaseForChange(tx, caseId);
      const [row] = await tx.select({ bayId: caseFile.bayId, technicianId: caseFile.technicianId }).from(caseFile).where(eq(caseFile.id, caseId));
      // A place that was retired meanwhile stays where the case already stands in it.
      const bayId = bay === (row!.bayId ?? '') ? row!.bayId : await checkBay(tx, bay);
      const technicianId = technician === '' ? null : technician === row!.technicianId ? technician : await workerOf(tx, technician);
      await tx.update(caseFile).set({ bayId, promisedAt, technicianId }).where(eq(caseFile.id, caseId));
      await notify(tx, { what: 'case', id: caseId });
      return null;
    },
  );
}
