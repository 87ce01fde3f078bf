import { openCaseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db } from '../db/open';
import { authority } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import { may } from '../acts/rights';
import type { AuthorityForm } from './forms';

/** Shortest reason for authority of kind "other", characters. */
const shortestReason = 10;

/** Authority of kind "other" is recorded by a lead, with a written reason. Nobody waives authority. */
export function checkAuthority(act: Act, { kind, note }: AuthorityForm, path: string): void {
  if (kind !== 'other') return;
  if (!may(act.actor, 'recordOtherAuthority'))
    throw refused(403, 'notAllowed', 'Only a lead may record authority of another kind. Ask the lead, or record one of the other kinds.', path);
  if (note.length < shortestReason)
    throw refused(
      400,
      'reasonMissing',
      `Write why this stands for authority, in ${shortestReason} characters or more. It goes into the report.`,
      path,
    );
}

export async function recordAuthority(db: Db, act: Act, caseId: number, form: AuthorityForm): Promise<void> {
  await actOnce(
    db,
    act,
    {
      right: 'recordAuthority',
      action: 'authority recorded',
      payload: [caseId, form],
      caseId,
      detail: { kind: form.kind, ...(form.kind === 'other' ? { reason: form.note } : {}) },
    },
    async (tx) => {
      await openCaseForChange(tx, caseId);
      checkAuthority(act, form, 'note');
      await tx.insert(authority).values({ caseId, kind: form.kind, note: form.note, by: act.actor.id, at: act.now });
      await notify(tx, { what: 'case', id: caseId });
      return null;
    },
  );
}
