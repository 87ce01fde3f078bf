import type { Library } from '../../content/reader';
import { align, differenceWords } from '../../core/copycheck';
import { closedBecause, type Effect, type Family } from '../../core/library';
import { type JobEntry, type JobPart, type JobStep, type Origin, variantWords } from '../../core/replacement';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { Refused, refused } from '../base/expected';
import { withinAgreement } from '../billing/agreed';
import type { Db } from '../db/open';
import { replacement } from '../db/schema';
import { appendTest } from '../ledger/ledger';
import type { Documents } from '../library/documents';
import { type CaseRecord, onRecord, openCaseForChange } from '../record/cases';
import { type CausesForm, type PlanForm, type SavedForm, type StepForm, twice, type VariantForm } from './forms';
import { jobOf } from './job';
import { planEntry } from './plan';

/** Most entries of one case. */
export const mostEntries = 2000;

interface Needs {
  db: Db;
  documents: Documents;
  library: Library;
}

/** Adds what an act writes down to a case that is open. */
/** What of an act goes beyond what the customer agreed to, if anything does. */
type Reaches = (job: ReturnType<typeof jobOf>) => { title: string; effect: Effect } | undefined;

async function record(
  { db, documents }: Needs,
  act: Act,
  caseId: number,
  what: { action: string; payload: unknown; detail?: Record<string, unknown> },
  entries: (record: CaseRecord, job: ReturnType<typeof jobOf>, family: Family) => JobEntry[],
  { shows = () => [], reaches }: { shows?: (family: Family) => { test: string; outcome: string; note: string }[]; reaches?: Reaches } = {},
): Promise<void> {
  await actOnce(db, act, { right: 'recordEvidence', ...what, payload: [caseId, what.payload], caseId }, async (tx) => {
    const known = await openCaseForChange(tx, caseId);
    const family = await documents.family(known.family, tx);
    const job = jobOf(known, family);
    const made = entries(known, job, family);
    const next = reaches?.(job);
    if (next) await withinAgreement(tx, known, family, next, act.now);
    if (known.replacement.length + made.length > mostEntries)
      throw refused(409, 'tooMany', `A case holds ${mostEntries} entries about replaced parts at most.`);
    await tx.insert(replacement).values(made.map((entry) => ({ caseId, entry, by: act.actor.id, at: act.now })));
    for (const evidence of shows(family)) await appendTest(tx, known, family, act, evidence);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** What the origin of an ECM that is in already is called by the test that asks for it. */
const originTest = 'moduleOrigin';
const originOutcomes: Partial<Record<Origin, string>> = { new: 'new', donor: 'used', remanufactured: 'rebuilt' };

/** Begins the work by a plan; the one that was worked before ends with it. Where the ECM is in already, its origin is evidence. */
export async function beginPlan(needs: Needs, act: Act, caseId: number, form: PlanForm): Promise<void> {
  const detail = { replaced: form.replaced, byHand: form.byHand };
  const outcome = form.installed.includes('engine') ? originOutcomes[form.replaced.engine ?? 'repaired'] : undefined;
  const shows = (family: Family) =>
    outcome !== undefined && family.tests.some((t) => t.id === originTest) ? [{ test: originTest, outcome, note: 'by the replacement plan' }] : [];
  const entries = (known: CaseRecord, _job: unknown, family: Family) => {
    const content = needs.library.replacements.get(family.id);
    if (!content) throw refused(409, 'noContent', `What the modules of “${family.title}” hold is not in the Library yet.`);
    return [planEntry(content, form, known)];
  };
  await record(needs, act, caseId, { action: 'replacement planned', payload: form, detail }, entries, { shows });
}

export const endPlan = (needs: Needs, act: Act, caseId: number, { reason }: { reason: string }): Promise<void> =>
  record(needs, act, caseId, { action: 'replacement plan given up', payload: reason }, (_known, job) => {
    worked(job);
    return [{ kind: 'end', reason }];
  });

/** Writes down the numbers of a part. Those that tell its variant must be the same both times they are typed, unless they stand on a photo. */
export async function recordVariant(needs: Needs, act: Act, caseId: number, form: VariantForm): Promise<void> {
  const { part, side, numbers, again, photo } = form;
  await record(needs, act, caseId, { action: 'part numbers recorded', payload: form, detail: { part, side } }, (known, job) => {
    partIn(job, part);
    if (!twice.some((field) => numbers[field] !== '') && numbers.serial === '')
      throw refused(400, 'nothing', 'Type at least one number: part, hardware, digits on the label, or serial.', 'numbers.part');
    if (photo !== undefined && !known.photos.some((p) => p.at === photo))
      throw refused(400, 'noPhoto', 'This photo is not in the case. Choose one that is, take one of the label, or type the numbers twice.', 'photo');
    if (photo === undefined) {
      const problems = twice.flatMap((field) => {
        const [difference] = align(numbers[field], again[field] ?? '');
        if (numbers[field] === (again[field] ?? '') || !difference) return [];
        const say =
          (again[field] ?? '') === '' ? 'Type it a second time, from the label.' : `The second entry differs: ${differenceWords(difference, true)}.`;
        return [{ code: 'differs', path: `again.${field}`, message: `${variantWords[field]}: ${say}` }];
      });
      if (problems.length > 0) throw new Refused(400, problems);
    }
    return [
      {
        kind: 'variant',
        part,
        side,
        variant: numbers,
        ...(photo === undefined ? { checked: 'twice' as const } : { checked: 'photo' as const, photo }),
      },
    ];
  });
}

/** Why a part may go in although its numbers differ. */
export const recordFits = (needs: Needs, act: Act, caseId: number, form: { part: JobPart['part']; reason: string }): Promise<void> =>
  record(needs, act, caseId, { action: 'other part accepted', payload: form, detail: form }, (_known, job) => {
    if (!partIn(job, form.part).mismatches.some((m) => m.stops))
      throw refused(409, 'noMismatch', 'The numbers of these parts do not differ in anything that stops the plan. Reload the page.');
    return [{ kind: 'fits', ...form }];
  });

/** What was saved of a module before it comes out. */
export const recordSaved = (needs: Needs, act: Act, caseId: number, form: SavedForm): Promise<void> =>
  record(needs, act, caseId, { action: 'module saved', payload: form, detail: { part: form.part } }, (_known, job) => {
    const asked = partIn(job, form.part).saved.map((s) => s.item);
    return answered(form, asked).map(([item, answer]) => ({ kind: 'saved', part: form.part, item, answer, note: form.note }));
  });

/** What was found of what may have damaged a module. */
export const recordCauses = (needs: Needs, act: Act, caseId: number, form: CausesForm): Promise<void> =>
  record(needs, act, caseId, { action: 'causes of damage checked', payload: form, detail: { part: form.part } }, (_known, job) => {
    const asked = partIn(job, form.part).causes.map((c) => c.id);
    return answered(form, asked).map(([check, answer]) => ({ kind: 'cause', part: form.part, check, answer, note: form.note }));
  });

/** How a step went. One that needs authority can't be said to be done without it. */
export const answerStep = (needs: Needs, act: Act, caseId: number, form: StepForm): Promise<void> =>
  record(
    needs,
    act,
    caseId,
    { action: 'replacement step answered', payload: form, detail: { ...form } },
    (known, job) => {
      const { step, ready } = stepIn(job, form.step);
      if (form.answer === 'done') {
        if (!ready)
          throw refused(409, 'notReady', `“${step.title}” waits for steps that are not done yet. Leave those out first, with a reason, or do them.`);
        const [closed] = closedBecause(step.effect, onRecord(known));
        if (closed !== undefined) throw refused(409, 'authority', closed);
      }
      if ((form.answer === 'leftOut' || form.answer === 'failed') && form.note === '')
        throw refused(400, 'required', form.answer === 'failed' ? 'Write down how it failed.' : 'Write down why it is left out.', 'note');
      return [{ kind: 'step', ...form }];
    },
    { reaches: (job) => (form.answer === 'done' ? stepIn(job, form.step).step : undefined) },
  );

function worked(job: ReturnType<typeof jobOf>): NonNullable<typeof job> {
  if (!job) throw refused(409, 'noPlan', 'No plan is being worked in this case. Reload the page.');
  return job;
}

function partIn(job: ReturnType<typeof jobOf>, part: string): JobPart {
  const found = worked(job).parts.find((p) => p.part === part);
  if (!found) throw refused(400, 'unknownPart', 'This part is not in the plan. Reload the page.', 'part');
  return found;
}

function stepIn(job: ReturnType<typeof jobOf>, id: string): JobStep {
  const found = worked(job).steps.find((s) => s.step.id === id);
  if (!found) throw refused(400, 'unknownStep', 'This step is not in the plan. Reload the page.', 'step');
  return found;
}

/** The answers to what was asked; others are left out. */
function answered<K extends string, A>({ answers }: { answers: Partial<Record<K, A>> }, asked: readonly K[]): [K, A][] {
  const given = (Object.entries(answers) as [K, A][]).filter(([name]) => asked.includes(name));
  if (given.length === 0) throw refused(400, 'nothing', 'Nothing is answered yet. Choose at least one answer.', 'answers');
  return given;
}
