import { eq } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { elseNull, needed, orEmpty, text, whole } from '../base/field';
import { rowId } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { checkBay } from '../cases/openCase';
import type { Db } from '../db/open';
import { caseFile, shop } from '../db/schema';
import { openCaseForChange } from '../record/cases';

/** Most technicians that one Floor plans for. */
export const mostTechnicians = 6;

export const parseTechnicians = (data: Record<string, unknown>) => parseForm({ technicians: needed(whole(1, mostTechnicians)) }, data);

const place = {
  caseId: needed(rowId),
  bay: orEmpty(text(80)),
  /** A moment, ms; nothing where nothing is promised. */
  promisedAt: elseNull(whole(0, Number.MAX_SAFE_INTEGER)),
};
export const parsePlace = (data: Record<string, unknown>) => parseForm(place, data);
export type PlaceForm = ReturnType<typeof parsePlace>;

/** For how many technicians the Floor plans. */
export async function setTechnicians(db: Db, act: Act, technicians: number): Promise<void> {
  await actOnce(db, act, { right: 'work', action: 'technicians at work', payload: technicians, detail: { technicians } }, async (tx) => {
    const changed = await tx.update(shop).set({ technicians }).returning({ id: shop.id });
    if (changed.length === 0) throw refused(409, 'noShop', 'This shop has no data yet. Write its name under Shop first.', 'technicians');
    await notify(tx, { what: 'case' });
    return null;
  });
}

/** Where a case stands, and when it is promised to be ready. */
export async function setPlace(db: Db, act: Act, { caseId, bay, promisedAt }: PlaceForm): Promise<void> {
  const detail = { bay, promisedAt };
  await actOnce(
    db,
    act,
    { right: 'editIntake', action: 'bay and promise changed', payload: [caseId, bay, promisedAt], caseId, detail },
    async (tx) => {
      await openCaseForChange(tx, caseId);
      const [row] = await tx.select({ bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.id, caseId));
      // A place that was retired meanwhile stays where the case already stands in it.
      const bayId = bay === (row!.bayId ?? '') ? row!.bayId : await checkBay(tx, bay);
      await tx.update(caseFile).set({ bayId, promisedAt }).where(eq(caseFile.id, caseId));
      await notify(tx, { what: 'case', id: caseId });
      return null;
    },
  );
}
