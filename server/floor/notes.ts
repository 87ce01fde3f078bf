import type { Plan } from '../../core/schedule';
import { type Hands, isAtWork, untrainedFor } from './hands';
import { idOf, type Place } from './place';

const minute = 60_000;

/** What the Floor says beside the plan. */
export type Note =
  /** Both would need somebody at that moment: so one begins later. */
  | { kind: 'later'; bay: string; other: string; at: number; minutes: number }
  /** Its limit passes before anybody is free. */
  | { kind: 'missed'; bay: string; at: number }
  | { kind: 'late'; bay: string; minutes: number }
  /** It has to wait until the scan tool is free. */
  | { kind: 'tool'; bay: string; other: string; at: number }
  /** Whoever works on it is not at work. */
  | { kind: 'away'; bay: string; name: string }
  /** Nobody at work is trained for it. */
  | { kind: 'untrained'; bay: string; work: string }
  /** Whoever works on it is not trained for it. */
  | { kind: 'notTrained'; bay: string; name: string; work: string };

interface Beside {
  hands: Hands;
  /** What not everybody is trained for, by its caution. */
  trainings: Readonly<Record<string, string>>;
  now: number;
}

/** What the plan can't do as one would like it. */
export function notesOf(planned: readonly Place[], plan: Plan, { hands, trainings, now }: Beside): Note[] {
  const bayOf = (id: string) => planned.find((p) => idOf(p) === id)!.bay;
  return [
    ...plan.touches.flatMap((t): Note[] => (t.broken ? [{ kind: 'missed', bay: bayOf(t.case), at: now + t.limitAt! * minute }] : [])),
    ...plan.touches.flatMap((t): Note[] =>
      t.held && t.held.minutes >= 0.5
        ? [{ kind: 'later', bay: bayOf(t.case), other: bayOf(t.held.other), at: now + t.held.at * minute, minutes: Math.ceil(t.held.minutes) }]
        : [],
    ),
    ...plan.ends.flatMap((e): Note[] => ((e.late ?? 0) > 0 ? [{ kind: 'late', bay: bayOf(e.case), minutes: Math.ceil(e.late!) }] : [])),
    ...toolNotes(planned, plan, now),
    ...planned.flatMap((p): Note[] =>
      p.technician && !isAtWork(hands, p.technician.id) && hands.people.some((h) => h.atWork)
        ? [{ kind: 'away', bay: p.bay, name: p.technician.name }]
        : [],
    ),
    ...planned.flatMap((p): Note[] => {
      const lacks = untrainedFor(hands, p.technician?.id, p.ahead!.needs);
      if (!lacks) return [];
      const [bay, work] = [p.bay, trainings[lacks.caution] ?? ''];
      return work === '' ? [] : [lacks.who ? { kind: 'notTrained', bay, name: lacks.who.name, work } : { kind: 'untrained', bay, work }];
    }),
  ];
}

/** Which cases have to wait for the scan tool, and until when: their act with it begins as another one's last act or wait with it ends. */
function toolNotes(planned: readonly Place[], plan: Plan, now: number): Note[] {
  const uses = planned.flatMap((p) => {
    const steps = p.ahead!.steps;
    const touches = plan.touches.filter((t) => t.case === idOf(p));
    const first = touches.find((t) => steps[t.step]!.tool);
    const last = touches.findLast((t) => steps[t.step]!.tool);
    if (!first || !last) return [];
    const until = last.until + steps.slice(last.step + 1).reduce((sum, s) => (s.tool && s.kind === 'wait' ? sum + s.minutes : sum), 0);
    const before = touches[touches.indexOf(first) - 1];
    return [{ bay: p.bay, from: first.at, until, ready: before?.until ?? 0, has: p.ahead!.hasTool }];
  });
  return uses.flatMap((u): Note[] => {
    const other = u.has ? undefined : uses.find((o) => o !== u && Math.abs(o.until - u.from) < 0.01 && u.ready < u.from - 0.5);
    return other ? [{ kind: 'tool', bay: u.bay, other: other.bay, at: now + u.from * minute }] : [];
  });
}
