import type { Family } from '../../core/library';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { maybe, orElse, record } from '../base/field';
import { id, tag } from '../base/fields';
import { parseForm } from '../base/parseForm';
import type { Db } from '../db/open';
import type { Documents } from '../library/documents';
import { type CaseRecord, counting, openCaseForChange } from '../record/cases';
import { appendTest } from './ledger';

/** Live data, read off a scan tool and written down by hand: each value is the result of a test, so it stands on its links and moves the chances. */

/** Results by test; a value that was not read is left out. */
const liveForm = { key: tag.empty(''), values: orElse(record(/^.{1,64}$/s, maybe(id)), {}) };
export const parseLiveData = (data: unknown) => parseForm(liveForm, data);
export type LiveDataForm = ReturnType<typeof parseLiveData>;

/** Stands at a line of the record that was entered this way. */
const liveNote = 'read off live data';

/** Where a system type has its own test of a value, that one stands for the general one. */
const liveTests = (family: Family) => family.tests.filter((t) => t.live && !family.tests.some((own) => own.live && own.same === t.id));

/**
 * Records what was read, each value as a line of the record of its own.
 * @returns the titles of the values, in the order of the system type
 */
export async function recordLiveData(db: Db, documents: Documents, act: Act, caseId: number, { key, values }: LiveDataForm): Promise<string[]> {
  if (Object.keys(values).length === 0) throw refused(400, 'nothing', 'No value is chosen. Choose what the scan tool shows, then save.', 'values');
  const detail = { values: Object.keys(values).length };
  return actOnce(db, act, { right: 'recordEvidence', action: 'live data recorded', payload: [caseId, key, values], caseId, detail }, async (tx) => {
    const known = await openCaseForChange(tx, caseId);
    const family = await documents.family(known.family, tx);
    const tests = liveTests(family);
    const strange = Object.keys(values).find((name) => !tests.some((t) => t.id === name));
    if (strange !== undefined)
      throw refused(
        400,
        'unknownTest',
        `"${strange}" is not a live data value of this system type. Use some of: ${tests.map((t) => t.id).join(', ')}.`,
        'values',
      );
    const read = tests.flatMap((t) => (values[t.id] === undefined ? [] : [{ test: t, outcome: values[t.id]! }]));
    for (const { test, outcome } of read)
      await appendTest(tx, known, family, act, { test: test.id, outcome, note: liveNote, ...(test.perKey && key !== undefined ? { key } : {}) });
    await notify(tx, { what: 'case', id: caseId });
    return read.map(({ test }) => test.title);
  });
}

/** The values that tell in a system type, the links each speaks of, and what was read last. */
export function viewLiveData(record: Pick<CaseRecord, 'evidence' | 'keys'>, family: Family) {
  const linkTitle = new Map(family.chain.map((l) => [l.id, l.title]));
  const lines = counting(record.evidence).filter((e) => e.outcome !== null && !record.evidence.some((later) => later.replaces === e.id));
  const values = liveTests(family).map((t) => {
    const last = lines.findLast((e) => e.test === t.id);
    const links = new Set(Object.values(t.outcomes).flatMap((o) => (o.says ?? []).filter((s) => s.weight === 'direct').map((s) => s.link)));
    return {
      id: t.id,
      title: t.title,
      do: t.do,
      cautions: t.cautions,
      perKey: t.perKey,
      outcomes: Object.entries(t.outcomes).map(([outcome, { say }]) => ({ id: outcome, say })),
      links: [...links].map((link) => linkTitle.get(link)!),
      last: last ? { say: t.outcomes[last.outcome!]?.say ?? last.outcome!, key: last.key, at: last.occurredAt } : null,
    };
  });
  return { values, keys: record.keys.filter((k) => k.present).map((k) => k.tag) };
}
