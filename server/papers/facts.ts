import { somethingElse } from '../../core/diagnosis';
import { codesLeft } from './codes';
import { type PaperFacts } from '../../core/papers';
import { originWords } from '../../core/replacement';
import { inSentence } from '../../core/units';
import { strangeKeys } from '../cases/closing';
import { readForDiagnosis } from '../diagnosis/diagnosis';
import type { CaseOffers } from '../offers/view';
import { type CaseRecord, counting, isVerified } from '../record/cases';
import { standingRepairActions } from '../ledger/proofs';
import { jobOf } from '../replacement/job';
import type { Services } from '../services/services';

/** Findings that are named on the papers, and how much one must say for the cause, decibans: about two to one. Our own choices. */
const mostNamed = 3;
const worthNaming = 3;
const cells = ['fobCell', 'irCell'];

/** What the record of a case says, as far as the papers ask: nothing that isn't in it. */
export async function paperFacts(services: Services, record: CaseRecord, { settled, work, family }: CaseOffers): Promise<PaperFacts> {
  const read = await readForDiagnosis(services, record);
  const cause = causeOf(record, read.cured);
  const faults = new Map((family.faults ?? []).map((f) => [f.id, f]));
  const fault = cause !== null && typeof cause === 'object' ? faults.get(cause.id) : undefined;
  const repairs = standingRepairActions(record).filter((r) => r.kind === 'repair' && r.result !== 'fails');
  const job = jobOf(record, family);
  const tests = work.filter((w) => w.part === 'diagnosis');
  return {
    concern: record.words,
    templates: family.text.papers ?? null,
    advice: family.text.advice,
    cause: typeof cause === 'object' && cause !== null ? { title: fault?.title ?? cause.id, standing: cause.standing } : cause,
    tests: { count: tests.length, minutes: tests.reduce((n, t) => n + t.minutes, 0) },
    decisive: fault && read.situation ? decisiveFor(services, record, read.situation, fault.id, family) : [],
    fixes: [...new Set(repairs.flatMap((r) => faults.get(r.fault)?.cure.do ?? []))],
    runs: record.runs
      .filter((r) => r.status !== 'running')
      .map((r) => ({
        title: services.library.procedures.get(r.procedure.id)?.title ?? r.procedure.id,
        finished: r.status === 'finished',
      })),
    parts: job
      ? job.parts
          .filter((p) => job.steps.some((s) => s.step.part === p.part && s.step.stage === 'fit' && s.state === 'done'))
          .map((p) => ({ title: p.title, origin: inSentence(originWords[job.plan.replaced[p.part] ?? 'new']) }))
      : [],
    declined: settled.now?.declined ?? [],
    keys: record.keys.map((k) => ({
      tag: k.tag,
      here: k.present,
      isNew: k.toFit !== null,
      role: k.role,
      lost: !k.present && k.toFit === null && /\blost\b/i.test(`${k.condition} ${k.note}`),
      cellChanged: repairs.some((r) => cells.includes(r.fault) && (r.key === null || r.key === k.tag)),
    })),
    strange: strangeKeys(record),
    verified: isVerified(record, family),
    codesLeft: codesLeft(record),
    cover: fault?.group === 'interference',
  };
}

type Cause = { id: string; standing: 'proven' | 'likely' } | 'unknown' | 'elsewhere' | null;

/** How the case was concluded, or, while it is open, what a fix that worked has shown. */
function causeOf(record: CaseRecord, cured: Awaited<ReturnType<typeof readForDiagnosis>>['cured']): Cause {
  if (record.state === 'closed') {
    if (record.conclusion === null) return null;
    if (record.conclusion === 'unknown') return 'unknown';
    if (record.conclusionFault === null || record.conclusionFault === somethingElse) return 'elsewhere';
    return { id: record.conclusionFault, standing: record.conclusion };
  }
  if (!cured) return null;
  return { id: cured.fault.id, standing: cured.proof.standing === 'proven' ? 'proven' : 'likely' };
}

/** The tests that spoke most for the cause, with what they showed. */
function decisiveFor(
  services: Services,
  record: CaseRecord,
  situation: NonNullable<Awaited<ReturnType<typeof readForDiagnosis>>['situation']>,
  fault: string,
  family: CaseOffers['family'],
): PaperFacts['decisive'] {
  const explained = services.weigher.explain(situation).faults;
  const name = Object.keys(explained).find((id) => id === fault || id.startsWith(`${fault}@`));
  const weights = name === undefined ? {} : explained[name]!.weights;
  const entries = new Map(counting(record.evidence).map((e) => [e.id, e]));
  return Object.entries(weights)
    .filter(([, decibans]) => decibans >= worthNaming)
    .sort(([, a], [, b]) => b - a)
    .flatMap(([id]) => {
      const e = entries.get(id);
      const test = e && family.tests.find((t) => t.id === e.test);
      const outcome = e?.outcome ? test?.outcomes[e.outcome] : undefined;
      return test && outcome ? [{ what: e.key ? `${test.title}, tag ${e.key}` : test.title, result: outcome.say }] : [];
    })
    .slice(0, mostNamed);
}
