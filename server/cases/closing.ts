import { eq } from 'drizzle-orm';
import { somethingElse } from '../../core/diagnosis';
import { heldTags } from '../../core/keys';
import type { Family } from '../../core/library';
import { caseNumber } from '../base/caseNumber';
import { caseForChange, type CaseRecord, isVerified, openCaseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Tx } from '../db/open';
import { caseFile, type CaseState, type Conclusion, custody, stateChange } from '../db/schema';
import { curedOf } from '../ledger/proofs';
import type { Documents } from '../library/documents';
import { forget, learnFrom } from '../learning/lessons';
import { undecided } from '../vault/items';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import { may } from '../acts/rights';
import type { Closing } from './forms';

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
    throw refused(409, 'running', 'A run of this case is still in progress. Finish it or stop it first.');
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
    if (record.state === 'open') throw refused(409, 'open', `Case ${caseNumber(caseId)} is open already.`);
    await moveTo(tx, act, caseId, 'open', reason, { closedAt: null, closedBy: null, outcome: null, closing: null });
    await forget(tx, caseId);
    return null;
  });
}

/** @throws Refused for a cause that the family does not have, for one that is not named, and for a proof that is not there */
function concluded(
  record: CaseRecord,
  family: Family | null,
  { conclusion, fault }: Closing,
): { conclusion: Conclusion | null; conclusionFault: string | null } {
  if (!family?.faults?.length || record.kind !== 'vehicle') return { conclusion: null, conclusionFault: null };
  if (conclusion === undefined) throw refused(400, 'conclusionMissing', 'Say how well the cause is known: proven, likely or unknown.', 'conclusion');
  if (conclusion === 'unknown') return { conclusion: 'unknown', conclusionFault: null };
  if (fault === undefined) throw refused(400, 'causeMissing', 'Say which cause it was, or that it stayed unknown.', 'fault');
  const known = family.faults.find((f) => f.id === fault);
  if (!known && fault !== somethingElse)
    throw refused(400, 'unknownFault', 'This cause is not in the system type of this case. Choose one from the list.', 'fault');
  if (conclusion === 'proven') {
    const cured = curedOf(record, family);
    const repaired = known !== undefined && cured?.fault.id === known.id;
    const proof = repaired ? cured.proof : null;
    if (!proof || proof.standing !== 'proven')
      throw refused(
        400,
        'notProven',
        `It is not proven yet. ${!proof ? 'Record the repair and that it works.' : (proof.open[0] ?? 'The fault was put back and it still worked.')} Or call it likely.`,
        'conclusion',
      );
  }
  return { conclusion, conclusionFault: fault };
}

async function giveBack(tx: Tx, act: Act, record: CaseRecord, tags: string[]): Promise<void> {
  const held = heldTags(record.custody);
  const strange = tags.find((t) => !held.includes(t));
  if (strange !== undefined) throw refused(400, 'notHeld', `Tag ${strange} is not in the shop. Check the list again.`, 'returned');
  if (tags.length > 0)
    await tx.insert(custody).values(tags.map((tag) => ({ caseId: record.id, tag, act: 'returned' as const, by: act.actor.id, at: act.now })));
}

/** How many more keys the vehicle has stored than the case knows of, by the latest count that was read; 0 where nobody read one. */
export function strangeKeys(record: Pick<CaseRecord, 'kind' | 'counters' | 'keys'>): number {
  if (record.kind !== 'vehicle') return 0;
  const read = record.counters.filter((c) => c.counter === 'keysStored');
  const stored = (read.findLast((c) => c.phase === 'after') ?? read.at(-1))?.value ?? 0;
  return Math.max(0, stored - record.keys.filter((k) => k.toFit === null || k.present).length);
}

/** Of everything sealed somebody has said what becomes of it. @throws Refused */
async function nothingUndecided(tx: Tx, caseId: number): Promise<void> {
  const left = await undecided(tx, caseId);
  if (left === 0) return;
  const message = `${left === 1 ? 'One item is' : `${left} items are`} in the vault of this case. Decide there for ${left === 1 ? 'it' : 'each'}: keep, give or destroy.`;
  throw refused(409, 'sealedLeft', message, 'sealed');
}

export async function closeCase(db: Db, documents: Documents, act: Act, caseId: number, form: Closing): Promise<void> {
  const detail = form.reason === '' ? {} : { withoutProof: form.reason };
  await actOnce(db, act, { right: 'closeCase', action: 'case closed', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    noRun(record);
    const family = record.kind === 'vehicle' ? await documents.family(record.family, tx) : null;
    if (family && !isVerified(record, family)) {
      if (form.reason === '')
        throw refused(
          400,
          'notVerified',
          'Not every key has been verified. Verify them, or let a lead write here why the case is closed anyway.',
          'reason',
        );
      if (!may(act.actor, 'closeWithoutProof'))
        throw refused(403, 'notAllowed', 'Only a lead may close a case without proof. Ask the lead.', 'reason');
    }
    const absent = record.kind === 'vehicle' ? record.keys.filter((k) => !k.present && k.toFit === null).map((k) => `tag ${k.tag}`) : [];
    if (absent.length > 0 && form.absentTold !== true)
      throw refused(
        400,
        'absentKeys',
        `${absent.join(', ')} ${absent.length === 1 ? 'was' : 'were'} not here and may no longer start the car. Have ${absent.length === 1 ? 'it' : 'them'} brought, or tell the customer and check the box.`,
        'absentTold',
      );
    const strange = strangeKeys(record);
    if (strange > 0 && form.absentTold !== true)
      throw refused(
        400,
        'absentKeys',
        `${strange === 1 ? 'One more key is' : `${strange} more keys are`} stored than this case lists. Ask who has ${strange === 1 ? 'it' : 'them'}, tell the customer, and check the box.`,
        'absentTold',
      );
    await nothingUndecided(tx, caseId);
    const cause = concluded(record, family, form);
    await giveBack(tx, act, record, form.returned);
    const outcome = [
      form.outcome,
      absent.length > 0 && `Not here at the hand-over: ${absent.join(', ')}; the customer was told.`,
      strange > 0 && `Stored beyond the keys listed: ${strange}; the customer was told.`,
      form.reason !== '' && `Closed without proof: ${form.reason}`,
    ]
      .filter(Boolean)
      .join(' ');
    await moveTo(tx, act, caseId, 'closed', form.reason, { closedAt: act.now, closedBy: act.actor.id, outcome, closing: 'done', ...cause });
    await learnFrom(tx, documents, { ...record, state: 'closed', closing: 'done', closedAt: act.now, ...cause });
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
      await nothingUndecided(tx, caseId);
      await giveBack(tx, act, record, form.returned);
      await moveTo(tx, act, caseId, 'closed', form.reason, {
        closedAt: act.now,
        closedBy: act.actor.id,
        outcome: `Not done: ${form.reason}`,
        closing: 'notDone',
        conclusion: null,
        conclusionFault: null,
      });
      return null;
    },
  );
}
