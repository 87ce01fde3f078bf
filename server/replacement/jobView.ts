import { closedBecause, counters, type Family } from '../../core/library';
import { quantityWords } from '../../core/units';
import { type CaseRecord, onRecord } from '../record/cases';
import { jobOf } from './job';

/** A counter before the work and now. */
export interface CounterSides {
  say: string;
  before: string;
  now: string;
  /** Who read or set it last, and when; null: not read again. */
  by: { name: string; at: number } | null;
}

/** The counters of a case, each before and after with who read it. */
function counterSides(readings: CaseRecord['counters']): CounterSides[] {
  const names = [...new Set(readings.map((c) => c.counter))];
  return names.map((name) => {
    const last = (phase: 'before' | 'after') => readings.findLast((c) => c.counter === name && c.phase === phase);
    const [before, after] = [last('before'), last('after')];
    return {
      say: counters[name as keyof typeof counters].say,
      before: before ? quantityWords(before.value, before.unit) : 'not read',
      now: after ? quantityWords(after.value, after.unit) : 'not read yet',
      by: after ? { name: after.by, at: after.at } : null,
    };
  });
}

/** The plan that is worked in a case, as its page shows it; null where none is. */
export function viewJob(record: CaseRecord, family: Family) {
  const job = jobOf(record, family);
  if (!job) return null;
  const known = onRecord(record);
  const place = new Map(job.steps.map((s, i) => [s.step.id, i + 1]));
  return {
    at: job.plan.at,
    by: job.plan.by,
    replaced: job.plan.replaced,
    byHand: job.plan.byHand,
    warnings: job.plan.warnings,
    parts: job.parts,
    next: job.next,
    settled: job.settled,
    steps: job.steps.map(({ step, ...s }) => ({
      ...step,
      ...s,
      by: step.by,
      /** Who answered it. */
      who: s.by,
      number: place.get(step.id)!,
      waitsFor: step.after
        .filter((id) => job.steps.some((o) => o.step.id === id && o.state !== 'done' && o.state !== 'leftOut'))
        .map((id) => place.get(id)!),
      shut: closedBecause(step.effect, known),
    })),
    counters: counterSides(record.counters),
    photos: record.photos.map(({ id, caption, at }) => ({ id, caption, at })),
  };
}
export type JobShown = NonNullable<ReturnType<typeof viewJob>>;
export type StepShown = JobShown['steps'][number];

/** The step that is next, for the page of a case. */
export function nextStep(record: CaseRecord, family: Family): { title: string; why: string; number: number; of: number } | null {
  const job = jobOf(record, family);
  const at = job?.steps.findIndex((s) => s.step.id === job.next) ?? -1;
  if (!job || at < 0) return null;
  const { title, why } = job.steps[at]!.step;
  return { title, why, number: at + 1, of: job.steps.length };
}
