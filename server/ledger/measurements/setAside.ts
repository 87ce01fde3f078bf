import { and, eq } from 'drizzle-orm';
import { type Act, actOnce } from '../../acts/commands';
import { notify } from '../../acts/live';
import { refused } from '../../base/expected';
import { line, needed, type Out, shape } from '../../base/field';
import { rowId } from '../../base/fields';
import { parseWhole } from '../../base/parseForm';
import type { Db } from '../../db/open';
import { captureAside, measurement } from '../../db/schema';
import { openCaseForChange } from '../../record/cases';

const form = shape({ case: needed(rowId), capture: needed(line(60)), reason: needed(line(200).min(3)) });
export type SetAside = Out<typeof form>;
export const parseSetAside = (data: unknown) => parseWhole(form, data);

/** A capture that was made wrongly is set aside: it stays in the record, and nothing is compared with it any more. What was compared before keeps what it was compared with. */
export async function setCaptureAside(db: Db, act: Act, { case: caseId, capture, reason }: SetAside): Promise<void> {
  const what = { right: 'recordEvidence', action: 'capture set aside', payload: [caseId, capture, reason], caseId, detail: { reason } } as const;
  await actOnce(db, act, what, async (tx) => {
    await openCaseForChange(tx, caseId);
    const [there] = await tx
      .select({ id: measurement.id })
      .from(measurement)
      .where(and(eq(measurement.id, capture), eq(measurement.caseId, caseId), eq(measurement.kind, 'bursts')));
    const made = there
      ? await tx
          .insert(captureAside)
          .values({ id: capture, caseId, reason, by: act.actor.id, at: act.now })
          .onConflictDoNothing()
          .returning({ id: captureAside.id })
      : [];
    if (made.length === 0)
      throw refused(409, 'noCapture', 'This capture is not one of the case, or was set aside already. Look at the list again.', 'capture');
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}
