import type { AbilityResult } from '../../core/library';
import { openCaseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db } from '../db/open';
import { ability } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';

/** Judgements of the abilities of keys, each by the person who tried it. */
export async function recordVerification(db: Db, act: Act, caseId: number, results: Record<string, Record<string, string>>): Promise<void> {
  await actOnce(db, act, { right: 'verifyKeys', action: 'keys verified', payload: [caseId, results], caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    const rows = Object.entries(results).flatMap(([tag, judged]) => {
      if (!record.keys.some((k) => k.tag === tag)) throw refused(400, 'unknownKey', `Tag ${tag} does not belong to this case.`, `results.${tag}`);
      return Object.entries(judged).map(([a, result]) => ({
        caseId,
        keyTag: tag,
        ability: a,
        result: result as AbilityResult,
        by: act.actor.id,
        at: act.now,
      }));
    });
    if (rows.length === 0) throw refused(400, 'nothing', 'Nothing is filled in yet. Choose an answer for at least one ability of a key.', 'results');
    await tx.insert(ability).values(rows);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}
