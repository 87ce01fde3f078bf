import { type Diagnosis, isTaught, type Step, withLearned } from '../../core/diagnosis';
import { type Family, valuesOf } from '../../core/library';
import { type Attention, cautionsOf, type StepAhead, stepsAhead } from '../../core/procedure';
import { midSentence } from '../../core/words';
import { notify } from '../acts/live';
import { readForDiagnosis, stepsOf } from '../diagnosis/diagnosis';
import { type CaseRecord, onRecord } from '../record/cases';
import { shopPaces } from '../runs/paces';
import { foldRun, type OpenRun, programOf } from '../runs/runs';
import { batteryAlarm, showRun } from '../runs/strip';
import type { Services } from '../services/services';
import { singleTool } from './hands';

/** A step that is ahead, and how sure it is that it comes, 0 to 1. */
export type SureStep = StepAhead & { sure: number; /** It needs the tool that the shop has one of. */ tool?: true };

/** A case as the Floor sees it. */
export interface Ahead {
  /** What is going on, for its lane. */
  doing: string;
  /** What is to be done with the next touch, in a sentence. */
  say: string;
  steps: SureStep[];
  attention: Attention;
  /** What follows after what can be planned. */
  then: string;
  runId: number | null;
  to: string;
  batteryAt: number | null;
  /** Nothing can be done before something else: the proof of authority. */
  shut: boolean;
  /** Has the tool that the shop has one of. */
  hasTool: boolean;
  /** Cautions of what is done for certain: of the run, or of the next act. */
  needs: readonly string[];
}

/** Expected minutes of what isn't a test or a fix; estimates of ours. */
const minutesFor = { tryAgain: 5, verify: 6, handOver: 5 };

/** @param isFar it has no place in the plan: then nothing of it is laid out but what follows the run */
export async function aheadInRun(services: Services, run: OpenRun, record: CaseRecord, now: number, isFar: boolean): Promise<Ahead> {
  const shown = showRun(run, now);
  const paces = isFar ? {} : await shopPaces(services, run.procedure.id);
  const steps = isFar ? [] : stepsAhead({ program: programOf(run.procedure), values: valuesOf(run.params) }, foldRun(run), now, paces);
  const hasTool = run.procedure.tools?.includes(singleTool) ?? false;
  const tool = hasTool ? ({ tool: true } as const) : {};
  return {
    doing: [run.procedure.title, shown.round?.toLowerCase()].filter(Boolean).join(', '),
    say: shown.attention === 'none' ? 'look at the run' : shown.instruction,
    steps: [...steps.map((s) => ({ ...s, sure: 1, ...tool })), { kind: 'attended', minutes: minutesFor.verify, label: 'verify the keys', sure: 0.8 }],
    attention: shown.attention,
    then: 'then verify',
    runId: run.id,
    to: `/cases/${record.id}/runs/${run.id}`,
    batteryAt: batteryAlarm(services, run, now),
    shut: false,
    hasTool,
    needs: cautionsOf(run.procedure),
  };
}

/** What to do next in a case, by the best answer that is there now; when a better one comes, open pages look again. */
async function nextOf(services: Services, record: CaseRecord): Promise<{ next: Step; diagnosis: Diagnosis | undefined }> {
  const { weigher, database } = services;
  const read = await readForDiagnosis(services, record);
  const answer = read.situation && weigher.quick(read.situation);
  if (answer && !answer.final)
    weigher
      .prefetch(read.situation!)
      ?.then(() => notify(database.db, { what: 'case', id: record.id }))
      // The first answer stands, as on the page of the case; a worker that died is in the log.
      .catch(() => {});
  return { next: stepsOf(services, read, answer && answer.diagnosis).next[0]!, diagnosis: answer?.diagnosis };
}

export async function aheadInCase(services: Services, record: CaseRecord): Promise<Ahead> {
  const { next, diagnosis } = await nextOf(services, record);
  const { learned, proven } = record.identifications.at(-1) ?? {};
  const pinned = await services.documents.family(record.family);
  const family = learned && isTaught(proven ?? {}) ? withLearned(pinned, learned) : pinned;
  const { doing, title, minutes } = wordsOf(next, family);
  const shut = next.kind === 'procedure' && !onRecord(record).authority;
  return {
    doing: shut ? 'waits for authority' : doing,
    say: title,
    steps: shut ? [] : wayAhead(next, { title, minutes }, family, diagnosis),
    attention: 'none',
    then: next.kind === 'procedure' ? (shut ? 'relearn once authority is seen' : 'relearn, when you start it') : '',
    runId: null,
    to: `/cases/${record.id}`,
    batteryAt: null,
    shut,
    hasTool: false,
    needs: cautionsOfNext(next, family),
  };
}

function cautionsOfNext(next: Step, family: Family): readonly string[] {
  if (next.kind === 'test') return next.test.cautions;
  return next.kind === 'repair' ? (family.faults?.find((f) => f.id === next.fault)?.cure.cautions ?? []) : [];
}

/** The next act, and what is likely to follow it: after a test the fix of the likeliest fault, as sure as the diagnosis is of it. */
function wayAhead(next: Step, act: { title: string; minutes: number }, family: Family, diagnosis: Diagnosis | undefined): SureStep[] {
  const step = (label: string, minutes: number, sure: number): SureStep[] => (minutes > 0 ? [{ kind: 'attended', minutes, label, sure }] : []);
  const needsTool = next.kind === 'test' && next.test.tools.includes(singleTool);
  const first = step(act.title, act.minutes, 1).map((s): SureStep => (needsTool ? { ...s, tool: true } : s));
  const [verify, handOver] = [minutesFor.verify, minutesFor.handOver];
  switch (next.kind) {
    case 'test': {
      const likeliest = diagnosis?.beliefs[0];
      const fix = family.faults?.find((f) => f.id === likeliest?.fault)?.cure.minutes ?? 0;
      const sure = likeliest?.p ?? 0;
      return [...first, ...step('likely: fix', fix, sure), ...step('verify the keys', verify, sure), ...step('hand over', handOver, sure)];
    }
    case 'repair':
      return [
        ...first,
        ...step('confirm the fix', minutesFor.tryAgain, 0.8),
        ...step('verify the keys', verify, 0.8),
        ...step('hand over', handOver, 0.8),
      ];
    case 'prove':
      return [...first, ...step('verify the keys', verify, 0.8), ...step('hand over', handOver, 0.8)];
    case 'verify':
      return [...first, ...step('hand over', handOver, 0.8)];
    default:
      return first;
  }
}

/** What is done next, in words for a lane, with the minutes that a person is needed. */
function wordsOf(next: Step, family: Family): { doing: string; title: string; minutes: number } {
  switch (next.kind) {
    case 'test':
      return { doing: `next: ${midSentence(next.test.title)}`, title: midSentence(next.test.title), minutes: next.test.minutes };
    case 'procedure':
      return { doing: 'next: relearn', title: 'relearn', minutes: 0 };
    case 'repair':
      return { doing: 'next: repair', title: 'repair', minutes: family.faults?.find((f) => f.id === next.fault)?.cure.minutes ?? 0 };
    case 'prove':
      return { doing: 'next: confirm the fix', title: 'confirm the fix', minutes: minutesFor.tryAgain };
    case 'verify':
      return { doing: 'next: verify the keys', title: 'verify the keys', minutes: minutesFor.verify };
    case 'handOver':
      return { doing: 'ready to hand over', title: 'hand over', minutes: minutesFor.handOver };
    case 'unknown':
    case 'nothing':
      return { doing: 'nothing left to test', title: 'nothing left to test', minutes: 0 };
  }
}
