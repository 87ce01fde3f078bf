import type { causeAnswers, Savable, savedAnswers, stepAnswers, StepState } from './answers';
import type { ModuleName, Origin } from './documents';
import type { PlanStep } from './plan';
import { compareVariants, type Mismatch, type Variant } from './variant';

/** A plan as it was made, with everything it was made from: later content or keys do not change it. */
export interface PlanEntry {
  kind: 'plan';
  replaced: Partial<Record<ModuleName, Origin>>;
  installed: ModuleName[];
  /** Modules that came out without having been read. */
  unread: ModuleName[];
  tools: string[];
  byHand: boolean;
  steps: PlanStep[];
  warnings: string[];
  /** For each replaced module what had to be saved of it, and the checks for what damaged it. */
  parts: {
    part: ModuleName;
    title: string;
    save: Savable[];
    causes: { id: string; say: string }[];
    /** What to do where it can't be made to work. */
    otherwise: string;
  }[];
}
/** `photo`: the moment of the photo on which a part's numbers stand, ms; a photo keeps it wherever the case goes. */
export type JobEntry =
  | PlanEntry
  | { kind: 'end'; reason: string }
  | { kind: 'variant'; part: ModuleName; side: 'old' | 'new'; variant: Variant; checked: 'twice' | 'photo'; photo?: number }
  | { kind: 'fits'; part: ModuleName; reason: string }
  | { kind: 'saved'; part: ModuleName; item: Savable; answer: (typeof savedAnswers)[number]; note: string }
  | { kind: 'cause'; part: ModuleName; check: string; answer: (typeof causeAnswers)[number]; note: string }
  | { kind: 'step'; step: string; answer: (typeof stepAnswers)[number]; note: string };
/** An entry with who made it when. Moments are milliseconds of the case's clock. */
export type Made<E = JobEntry> = E & { by: string; at: number };

/** What else the case knows, by which steps are done without a tap. */
export interface Witnessed {
  /** Runs that were finished, not those that were stopped. */
  runs: readonly { id: number; procedure: string; endedAt: number }[];
  /** Scans; `quiet`: without a communication code. */
  scans: readonly { at: number; quiet: boolean }[];
  counters: readonly { counter: string; phase: 'before' | 'after'; at: number }[];
  /** For each key that is here the moment since which all of it is known that is asked for, null: not yet. */
  keys: readonly { tag: string; at: number | null }[];
}

export interface JobStep {
  step: PlanStep;
  state: StepState;
  /** By what it was done: a person's answer, or what stands in the case. */
  through: 'answer' | 'run' | 'scan' | 'entries' | null;
  at: number | null;
  by: string;
  note: string;
  /** Everything it waits for is done or left out. */
  ready: boolean;
}
export interface JobPart {
  part: ModuleName;
  title: string;
  otherwise: string;
  old: Made<Extract<JobEntry, { kind: 'variant' }>> | null;
  new: Made<Extract<JobEntry, { kind: 'variant' }>> | null;
  mismatches: Mismatch[];
  /** Why it may go in although something differs. */
  fits: Made<Extract<JobEntry, { kind: 'fits' }>> | null;
  saved: { item: Savable; answer: Made<Extract<JobEntry, { kind: 'saved' }>> | null }[];
  causes: { id: string; say: string; answer: Made<Extract<JobEntry, { kind: 'cause' }>> | null }[];
}
export interface Job {
  plan: Made<PlanEntry>;
  steps: JobStep[];
  parts: JobPart[];
  /** Id of the step that is next; null where all is done or left out. */
  next: string | null;
  /** Steps that are done or left out. */
  settled: number;
}

const lastOf = <E extends Made>(entries: readonly E[], is: (e: E) => boolean): E | undefined => entries.findLast(is);
type Of<K extends JobEntry['kind']> = Made<Extract<JobEntry, { kind: K }>>;

/** What was written down of one part since the plan; numbers of a part stay when the plan is made anew. */
function partOfJob({ part, title, save, causes, otherwise }: PlanEntry['parts'][number], entries: readonly Made[], since: number): JobPart {
  const own = entries.filter((e) => 'part' in e && e.part === part);
  const variant = (side: 'old' | 'new') =>
    (lastOf(own, (e) => e.kind === 'variant' && e.side === side && (side === 'old' || e.at >= since)) as Of<'variant'> | undefined) ?? null;
  const [old, now] = [variant('old'), variant('new')];
  const fits = (lastOf(own, (e) => e.kind === 'fits' && e.at >= Math.max(since, old?.at ?? 0, now?.at ?? 0)) as Of<'fits'> | undefined) ?? null;
  return {
    part,
    title,
    otherwise,
    old,
    new: now,
    mismatches: old && now ? compareVariants(old.variant, now.variant) : [],
    fits,
    saved: save.map((item) => ({
      item,
      answer: (lastOf(own, (e) => e.kind === 'saved' && e.item === item) as Of<'saved'> | undefined) ?? null,
    })),
    causes: causes.map((c) => ({
      ...c,
      answer: (lastOf(own, (e) => e.kind === 'cause' && e.check === c.id && e.at >= since) as Of<'cause'> | undefined) ?? null,
    })),
  };
}

interface By {
  state: StepState;
  through: JobStep['through'];
  at: number | null;
  by: string;
  note: string;
}
const open: By = { state: 'open', through: null, at: null, by: '', note: '' };
const byEntries = (made: readonly (Made | null)[], complete: boolean): By => {
  const last = made.reduce<Made | null>((l, m) => (m && (!l || m.at > l.at) ? m : l), null);
  return complete && last ? { state: 'done', through: 'entries', at: last.at, by: last.by, note: '' } : open;
};

/** Whether what stands in the case shows that a step was done at `since` or later; each run and each scan counts for one step only. */
function witnessed(step: PlanStep, part: JobPart | undefined, seen: Witnessed, since: number, used: Set<object>): By {
  if (step.procedure !== undefined) {
    const run = seen.runs.find((r) => r.procedure === step.procedure && r.endedAt >= since && !used.has(r));
    if (!run) return open;
    used.add(run);
    return { state: 'done', through: 'run', at: run.endedAt, by: '', note: '' };
  }
  if (step.place === undefined) return open;
  switch (step.place) {
    case 'scan': {
      const scan = seen.scans.find((s) => s.at >= since && !used.has(s) && (s.quiet || !step.quiet));
      if (scan) used.add(scan);
      return scan ? { state: 'done', through: 'scan', at: scan.at, by: '', note: '' } : open;
    }
    case 'counters': {
      const before = [...new Set(seen.counters.filter((c) => c.phase === 'before').map((c) => c.counter))];
      const read = seen.counters.filter(
        (c) => c.phase === (step.stage === 'before' ? 'before' : 'after') && (step.stage === 'before' || c.at >= since),
      );
      const complete = read.length > 0 && before.every((counter) => read.some((c) => c.counter === counter));
      return complete ? { state: 'done', through: 'entries', at: Math.max(since, ...read.map((c) => c.at)), by: '', note: '' } : open;
    }
    case 'verify': {
      const times = seen.keys.map((k) => k.at);
      const complete = times.length > 0 && times.every((at) => at !== null && at >= since);
      return complete ? { state: 'done', through: 'entries', at: Math.max(...times.map(Number)), by: '', note: '' } : open;
    }
    case 'variant': {
      if (!part) return open;
      if (part.mismatches.some((m) => m.stops) && !part.fits) return { ...byEntries([part.old, part.new], true), state: 'stopped' };
      return byEntries([part.old, part.new, part.fits], part.old !== null && part.new !== null);
    }
    case 'saved': {
      const answers = part?.saved.map((s) => s.answer) ?? [];
      return byEntries(answers, answers.every(Boolean));
    }
    case 'cause': {
      const answers = part?.causes.map((c) => c.answer) ?? [];
      const bad = answers.some((a) => a?.answer === 'bad');
      return bad ? { ...byEntries(answers, true), state: 'stopped' } : byEntries(answers, answers.every(Boolean));
    }
  }
}

const settles = ({ state }: { state: StepState }) => state === 'done' || state === 'leftOut';

/**
 * Where the work after a replacement stands: the last plan that was not given up, each of its steps with what settled it, and the step that is next. A
 * person's last answer to a step counts; where there is none, finished runs, scans, counters, keys and entries of the case do, as long as they came after
 * everything the step waits for. A step whose part doesn't match, or whose cause of damage is not fixed, is stopped, and so is what waits for it.
 * @returns null where no plan is being worked
 */
export function foldJob(entries: readonly Made[], seen: Witnessed): Job | null {
  const at = entries.findLastIndex((e) => e.kind === 'plan' || e.kind === 'end');
  const plan = entries[at];
  if (plan?.kind !== 'plan') return null;
  const after = entries.slice(at + 1);
  const parts = plan.parts.map((p) => partOfJob(p, entries, plan.at));
  const used = new Set<object>();
  const steps: JobStep[] = [];
  for (const step of plan.steps) {
    const before = steps.filter((s) => step.after.includes(s.step.id));
    const ready = before.every(settles);
    const answer = lastOf(after, (e) => e.kind === 'step' && e.step === step.id) as Of<'step'> | undefined;
    const since = Math.max(plan.at, ...before.map((s) => s.at ?? 0), answer?.at ?? 0);
    const answered: By | undefined =
      answer && answer.answer !== 'open' ? { state: answer.answer, through: 'answer', at: answer.at, by: answer.by, note: answer.note } : undefined;
    const part = parts.find((p) => p.part === step.part);
    const shown = answered ?? (ready ? witnessed(step, part, seen, since, used) : open);
    steps.push({ step, ready, ...shown });
  }
  return {
    plan,
    steps,
    parts,
    next: steps.find((s) => !settles(s) && s.ready)?.step.id ?? null,
    settled: steps.filter(settles).length,
  };
}
