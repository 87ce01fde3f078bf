/** An act that needs a person. */
export interface AttendedStep {
  kind: 'attended';
  /** Expected time with hands on, minutes, 0 or more. */
  minutes: number;
  /** Things of which the shop has one and which this step needs: a bay, a scan tool. */
  holds?: string[];
}

/** Time that passes by itself from the end of the act before it, or from now when none is. */
export interface WaitStep {
  kind: 'wait';
  minutes: number;
  /** How long after its end the next act may begin at the latest; without it the wait may run over without harm. */
  maxLateMinutes?: number;
  /** What stays connected or occupied meanwhile. */
  holds?: string[];
}

export type ScheduleStep = AttendedStep | WaitStep;

/** A case in work: what is left of it, in its order. */
export interface ScheduledCase {
  id: string;
  steps: ScheduleStep[];
  /** When it should be ready, minutes from now. */
  promiseInMinutes?: number;
  /** The technicians who may work on it; anybody without it. */
  technicians?: string[];
  /** What it has already: the bay it stands in, the tool that is connected. */
  holding?: string[];
}

export interface Technician {
  id: string;
  /** Busy with something for so long from now, minutes. */
  busyMinutes?: number;
}

export interface Instance {
  /** How many, or who. */
  technicians: number | Technician[];
  cases: ScheduledCase[];
}

/** One act, with the wait before it folded in. All times in minutes. */
export interface Act {
  /** Index in the case's steps. */
  step: number;
  /** From the end of the act before (or from now) until it may begin. */
  lag: number;
  /** How long after that it may begin at the latest. */
  late: number;
  minutes: number;
  /** Indexes of things that it begins to hold. */
  takes: readonly number[];
  /** Things that are free again so many minutes after its end. */
  gives: readonly { thing: number; after: number }[];
}

export interface Job {
  id: string;
  acts: readonly Act[];
  /** Acts and waits of all of it, minutes. */
  length: number;
  /** By act: acts and waits after it, minutes. */
  tails: readonly number[];
  /** Waiting after the last act. */
  tail: number;
  promise: number;
  /** Indexes of technicians. */
  by: readonly number[];
}

/** An instance as the search works with it. */
export interface Shop {
  jobs: readonly Job[];
  technicians: readonly { id: string; busy: number }[];
  things: readonly string[];
  /** By thing: the job that holds it now, or -1, and after which of its acts it is free. */
  heldBy: readonly number[];
}

/** The steps of one case as acts: waits in a row add up, and only the last one's limit holds the next act. */
function jobOf(c: ScheduledCase, things: readonly string[], technicians: readonly string[]): Job {
  const acts: (Omit<Act, 'takes' | 'gives'> & { takes: number[]; gives: { thing: number; after: number }[] })[] = [];
  const holding = new Set(c.holding);
  /** By thing: the time since the last act that held it. */
  const open = new Map<string, number>();
  const close = (thing: string) => {
    acts.at(-1)?.gives.push({ thing: things.indexOf(thing), after: open.get(thing)! });
    open.delete(thing);
  };
  let lag = 0;
  let late = Infinity;
  c.steps.forEach((s, step) => {
    for (const thing of [...open.keys()]) if (!s.holds?.includes(thing)) close(thing);
    if (s.kind === 'wait') {
      lag += s.minutes;
      late = s.maxLateMinutes ?? Infinity;
      for (const [thing, since] of open) open.set(thing, since + s.minutes);
      return;
    }
    const takes: number[] = [];
    for (const thing of s.holds ?? []) {
      if (!open.has(thing) && !(acts.length === 0 && holding.has(thing))) takes.push(things.indexOf(thing));
      open.set(thing, 0);
    }
    acts.push({ step, lag, late, minutes: s.minutes, takes, gives: [] });
    lag = 0;
    late = Infinity;
  });
  for (const thing of [...open.keys()]) close(thing);
  const by = c.technicians?.map((id) => technicians.indexOf(id)).filter((i) => i >= 0);
  const tails = acts.map((_, i) => acts.slice(i + 1).reduce((sum, a) => sum + a.lag + a.minutes, lag));
  const length = (acts[0]?.lag ?? 0) + (acts[0]?.minutes ?? 0) + (tails[0] ?? lag);
  return { id: c.id, acts, length, tails, tail: lag, promise: c.promiseInMinutes ?? Infinity, by: by?.length ? by : technicians.map((_, i) => i) };
}

/** Brings an instance into the form of the search. */
export function shopOf({ technicians, cases }: Instance): Shop {
  const people = typeof technicians === 'number' ? Array.from({ length: technicians }, (_, i): Technician => ({ id: String(i + 1) })) : technicians;
  const things = [...new Set(cases.flatMap((c) => [...(c.holding ?? []), ...c.steps.flatMap((s) => s.holds ?? [])]))];
  const ids = people.map((t) => t.id);
  const jobs = cases.map((c) => jobOf(c, things, ids));
  return {
    jobs,
    technicians: people.map((t) => ({ id: t.id, busy: t.busyMinutes ?? 0 })),
    things,
    // What is held is given back by an act that gives it; a thing of which no step of the case says anything is not held.
    heldBy: things.map((thing, i) =>
      cases.findIndex((c, j) => c.holding?.includes(thing) && jobs[j]!.acts.some((a) => a.gives.some((g) => g.thing === i))),
    ),
  };
}
