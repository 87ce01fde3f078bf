import { eq } from 'drizzle-orm';
import { heldTags } from '../core/keys';
import { caseForChange, caseNumber, type CaseRecord, isVerified, openCaseForChange } from './cases';
import { type Act, actOnce } from './commands';
import type { Db, Tx } from './db/open';
import { caseFile, type CaseState, custody, stateChange } from './db/schema';
import type { Documents } from './documents';
import { refused } from './expected';
import { notify } from './live';
import { may } from './rights';

async function moveTo(
  tx: Tx,
  act: Act,
  caseId: number,
  state: CaseState,
  reason: string,
  rest: Partial<typeof caseFile.$inferInsert> = {},
): Promise<void> {
  await tx
    .update(caseFile)
    .set({ state, ...rest })
    .where(eq(caseFile.id, caseId));
  await tx.insert(stateChange).values({ caseId, state, reason, by: act.actor.id, at: act.now });
  await notify(tx, { what: 'case', id: caseId });
}

function noRun(record: CaseRecord): void {
  if (record.runs.some((r) => r.status === 'running'))
    throw refused(409, 'running', 'A run of this case is still going on. Finish it or stop it first.');
}

/** Puts a case aside: it leaves its bay and the Floor until it is taken up again. */
export async function parkCase(db: Db, act: Act, caseId: number, reason: string): Promise<void> {
  await actOnce(db, act, { right: 'parkCase', action: 'case parked', payload: [caseId, reason], caseId, detail: { reason } }, async (tx) => {
    noRun(await openCaseForChange(tx, caseId));
    await moveTo(tx, act, caseId, 'parked', reason, { bayId: null });
    return null;
  });
}

/** Takes up a parked or closed case again. */
export async function reopenCase(db: Db, act: Act, caseId: number, reason: string): Promise<void> {
  await actOnce(db, act, { right: 'parkCase', action: 'case reopened', payload: [caseId, reason], caseId, detail: { reason } }, async (tx) => {
    const record = await caseForChange(tx, caseId);
    if (record.state === 'open') throw refused(409, 'open', `Case ${caseNumber(caseId)} is in work already.`);
    await moveTo(tx, act, caseId, 'open', reason, { closedAt: null, closedBy: null, outcome: null, closing: null });
    return null;
  });
}

export interface Closing {
  outcome: string;
  reason: string;
  /** Tags given back to the customer at this moment. */
  returned: string[];
}

async function giveBack(tx: Tx, act: Act, record: CaseRecord, tags: string[]): Promise<void> {
  const held = heldTags(record.custody);
  const strange = tags.find((t) => !held.includes(t));
  if (strange !== undefined) throw refused(400, 'notHeld', `Tag ${strange} is not in the shop’s hands. Look at the list again.`, 'returned');
  if (tags.length > 0)
    await tx.insert(custody).values(tags.map((tag) => ({ caseId: record.id, tag, act: 'returned' as const, by: act.actor.id, at: act.now })));
}

export async function closeCase(db: Db, documents: Documents, act: Act, caseId: number, form: Closing): Promise<void> {
  const detail = form.reason === '' ? {} : { withoutProof: form.reason };
  await actOnce(db, act, { right: 'closeCase', action: 'case closed', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    noRun(record);
    if (record.kind === 'vehicle' && !isVerified(record, await documents.family(record.family, tx))) {
      if (form.reason === '')
        throw refused(
          400,
          'notVerified',
          'Not every key has been verified. Verify them, or let a lead write here why the case is closed all the same.',
          'reason',
        );
      if (!may(act.actor, 'closeWithoutProof'))
        throw refused(403, 'notAllowed', 'Only a lead may close a case without proof. Ask the lead.', 'reason');
    }
    await giveBack(tx, act, record, form.returned);
    const outcome = form.reason === '' ? form.outcome : `${form.outcome} Closed without proof: ${form.reason}`;
    await moveTo(tx, act, caseId, 'closed', form.reason, { closedAt: act.now, closedBy: act.actor.id, outcome, closing: 'done' });
    return null;
  });
}

/** Closes a case in which the work was not done: the customer declined, or it turned out to be none of ours. */
export async function closeNotDone(db: Db, act: Act, caseId: number, form: { reason: string; returned: string[] }): Promise<void> {
  await actOnce(
    db,
    act,
    { right: 'closeCase', action: 'case closed, not done', payload: [caseId, form], caseId, detail: { reason: form.reason } },
    async (tx) => {
      const record = await openCaseForChange(tx, caseId);
      noRun(record);
      await giveBack(tx, act, record, form.returned);
      await moveTo(tx, act, caseId, 'closed', form.reason, {
        closedAt: act.now,
        closedBy: act.actor.id,
        outcome: `Not done: ${form.reason}`,
        closing: 'notDone',
      });
      return null;
    },
  );
}
