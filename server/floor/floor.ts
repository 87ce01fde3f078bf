import { asc, eq } from 'drizzle-orm';
import type { Attention } from '../../core/procedure';
import type { Instance, Plan, Touch } from '../../core/schedule';
import { notify } from '../acts/live';
import { caseFile, shop } from '../db/schema';
import type { CaseRecord } from '../record/cases';
import { keptOpenRuns } from '../runs/runs';
import { urgency } from '../runs/strip';
import type { Services } from '../services/services';
import { keptBays } from '../shop/shop';
import { type Ahead, aheadInCase, aheadInRun } from './ahead';

/** A stretch of a lane, moments. */
export interface Span {
  kind: 'hands' | 'wait';
  from: number;
  until: number;
  label: string;
  /** How sure it is that it comes, 0 to 1. */
  sure: number;
  /** When it must have begun at the latest. */
  limitAt?: number;
  /** The limit has no slack, or can't be kept. */
  tight?: true;
  broken?: true;
}

/** One bay with the case in it and what is ahead. */
export interface Lane {
  bay: string;
  /** Id of the bay; empty where it is none. */
  bayId: string;
  case: {
    id: number;
    number: string;
    vehicle: string;
    /** Id of its system type; empty for parts. */
    family: string;
    doing: string;
    runId: number | null;
    /** When the battery of its run is about to be no longer enough; null where the run is over before, or there is none. */
    batteryAt: number | null;
    /** Id of the bay it stands in; empty without one. */
    bayId: string;
    promisedAt: number | null;
    /** The plan has it ready only after that. */
    late: boolean;
  } | null;
  spans: Span[];
  attention: Attention;
  then: string;
}

export interface Floor {
  now: number;
  horizonMs: number;
  lanes: Lane[];
  /** What to touch next, and when. */
  touch: { say: string; then: string; be: { where: string; at: number }[]; to: string | null; attention: Attention };
  /** When the last of the planned cases is ready; null where nothing is planned. */
  readyAt: number | null;
  /** What can't be as one would like it. */
  notes: Note[];
  technicians: number;
  bays: { id: string; name: string }[];
  /** Open cases beyond those that are planned. */
  unplanned: number;
}

export type Note =
  /** Both would need somebody at that moment: so one begins later. */
  | { kind: 'later'; bay: string; other: string; at: number; minutes: number }
  /** Its limit passes before anybody is free. */
  | { kind: 'missed'; bay: string; at: number }
  | { kind: 'late'; bay: string; minutes: number };

/** How far ahead the lanes look, milliseconds: an hour, or the day. */
export const horizons = { hour: 60 * 60_000, day: 8 * 60 * 60_000 } as const;
export type Horizon = keyof typeof horizons;
/** Cases that are planned at once: those in a run first. */
const mostPlanned = 12;
/** A standing order is looked at anew at least so often, ms. */
const freshMs = 5 * 60_000;
const minute = 60_000;

interface Place {
  bay: string;
  record: CaseRecord | null;
  /** What is said of the vehicle; empty where it is not to be seen. */
  vehicle: string;
  bayId: string;
  promisedAt: number | null;
  ahead: Ahead | null;
}

/** What the Floor says of a vehicle: its words; its plate too; nothing. */
export type Showing = 'vehicles' | 'plates' | 'nothing';

export async function readFloor(services: Services, horizon: Horizon = 'hour', showing: Showing = 'vehicles'): Promise<Floor> {
  const { db } = services.database;
  const now = services.clock.now();
  const open = await keptOpenRuns(services);
  const rows = await services.kept.read('open cases', [caseFile], () =>
    db
      .select({ id: caseFile.id, bayId: caseFile.bayId, promisedAt: caseFile.promisedAt })
      .from(caseFile)
      .where(eq(caseFile.state, 'open'))
      .orderBy(asc(caseFile.id)),
  );
  const technicians = await services.kept.read('technicians', [shop], async () => (await db.select({ n: shop.technicians }).from(shop))[0]?.n ?? 1);
  const records = new Map((await services.cases.all(rows.map((r) => r.id))).map((r) => [r.id, r]));
  const bays = await keptBays(services);
  const places: Place[] = [];
  const place = async (bay: string, row: (typeof rows)[number]) => {
    const record = records.get(row.id)!;
    const run = open.find((r) => r.caseId === row.id);
    const ahead = run ? aheadInRun(services, run, record, now) : record.kind === 'parts' ? null : await aheadInCase(services, record);
    places.push({ bay, record, vehicle: vehicleOf(record, showing), bayId: row.bayId ?? '', promisedAt: row.promisedAt, ahead });
  };
  for (const { id, name } of bays) {
    const here = rows.filter((r) => r.bayId === id);
    if (here.length === 0) places.push({ bay: name, record: null, vehicle: '', bayId: id, promisedAt: null, ahead: null });
    for (const row of here) await place(name, row);
  }
  // Without a bay, or in one that is out of use.
  for (const row of rows.filter((r) => !bays.some((b) => b.id === r.bayId))) await place(records.get(row.id)!.bay ?? 'No bay', row);

  const worked = places
    .filter((p) => p.ahead && p.ahead.steps.length > 0)
    .sort((a, b) => Number(b.ahead!.runId !== null) - Number(a.ahead!.runId !== null));
  const planned = worked.slice(0, mostPlanned);
  const plan = planFor(services, planned, technicians, now);
  return {
    now,
    horizonMs: horizons[horizon],
    lanes: places.map((p) => laneOf(p, plan, now)),
    touch: nextUp(places, plan, now),
    readyAt: plan.touches.length === 0 ? null : now + plan.makespanMinutes * minute,
    notes: notesOf(planned, plan, now),
    technicians,
    bays,
    unplanned: worked.length - planned.length,
  };
}

function vehicleOf(record: CaseRecord, showing: Showing): string {
  const vehicle = record.vehicle || (record.kind === 'parts' ? 'Parts' : '');
  return showing === 'nothing' ? '' : [vehicle, showing === 'plates' ? record.plate : ''].filter((part) => part !== '').join(' · ');
}

const idOf = (p: Place): string => String(p.record!.id);

/** The plan over the cases that somebody can work on. */
function planFor(services: Services, planned: readonly Place[], technicians: number, now: number): Plan {
  const instance: Instance = {
    technicians,
    cases: planned.map((p) => ({
      id: idOf(p),
      steps: p.ahead!.steps.map(({ kind, minutes, maxLateMinutes }) =>
        // A limit that has passed already is the run's to speak of: no order can keep it.
        kind === 'wait' && maxLateMinutes !== undefined && minutes + maxLateMinutes > 0 ? { kind, minutes, maxLateMinutes } : { kind, minutes },
      ),
      ...(p.promisedAt === null ? {} : { promiseInMinutes: Math.max(0, (p.promisedAt - now) / minute) }),
    })),
  };
  const name = JSON.stringify([
    Math.floor(now / freshMs),
    technicians,
    planned.map((p) => [idOf(p), p.promisedAt, p.ahead!.steps.map((s) => [s.kind, s.label])]),
  ]);
  // A better plan is there: open pages look again; one that could not be told of is shown with the next look.
  return services.planner.now(name, instance, () => void notify(services.database.db, { what: 'case' }).catch(() => {}));
}

/** What is ahead in a lane: acts where the plan has them, waits from the act before to where they end. */
function laneOf({ bay, record, vehicle, bayId, promisedAt, ahead }: Place, plan: Plan, now: number): Lane {
  if (!record) return { bay, bayId, case: null, spans: [], attention: 'none', then: '' };
  const end = plan.ends.find((e) => e.case === String(record.id));
  return {
    bay,
    bayId,
    case: {
      id: record.id,
      number: record.number,
      vehicle,
      family: record.kind === 'parts' ? '' : record.family.id,
      doing: ahead?.doing ?? 'parts without a vehicle',
      runId: ahead?.runId ?? null,
      batteryAt: ahead?.batteryAt ?? null,
      bayId,
      promisedAt,
      late: (end?.late ?? 0) > 0,
    },
    spans: ahead
      ? spansOf(
          ahead,
          plan.touches.filter((t) => t.case === String(record.id)),
          now,
        )
      : [],
    attention: ahead?.attention ?? 'none',
    then: ahead?.then ?? '',
  };
}

function spansOf(ahead: Ahead, touches: readonly Touch[], now: number): Span[] {
  const spans: Span[] = [];
  let over = now;
  ahead.steps.forEach((step, i) => {
    if (step.kind === 'wait') {
      const until = over + step.minutes * minute;
      if (until > over) spans.push({ kind: 'wait', from: over, until, label: step.label, sure: step.sure });
      over = until;
      return;
    }
    const touch = touches.find((t) => t.step === i);
    const from = touch ? now + touch.at * minute : over;
    const until = from + step.minutes * minute;
    spans.push({
      kind: 'hands',
      from,
      until,
      label: step.label,
      sure: step.sure,
      ...(touch?.limitAt === undefined ? {} : { limitAt: now + touch.limitAt * minute }),
      ...(touch?.tight ? { tight: true as const } : {}),
      ...(touch?.broken ? { broken: true as const } : {}),
    });
    over = until;
  });
  return spans;
}

/** What to touch next: whatever needs somebody by itself first, then the plan's next touch. */
function nextUp(places: readonly Place[], plan: Plan, now: number): Floor['touch'] {
  const at = (p: Place) => (p.ahead!.attention === 'none' ? now + (plan.touches.find((t) => t.case === idOf(p))?.at ?? Infinity) * minute : now);
  const wants = places
    .filter((p) => p.ahead && !p.ahead.shut)
    // What takes no time has no place in the plan and can be done at any time.
    .map((p) => ({ p, at: p.ahead!.steps.length === 0 ? now : at(p), attention: p.ahead!.attention }))
    .filter((w) => w.at < Infinity)
    .sort((a, b) => urgency[a.attention] - urgency[b.attention] || a.at - b.at);
  const say = ({ p }: (typeof wants)[number]) => `${[p.bay, p.vehicle].filter((part) => part !== '').join(', ')}: ${p.ahead!.say}`;
  const [first, ...rest] = wants;
  if (!first) return { say: 'No case is open.', then: 'Open the first one when a vehicle comes in.', be: [], to: null, attention: 'none' };
  const second = rest.find((w) => w.at <= now + minute);
  return {
    say: first.at <= now + 1 ? sentence(say(first)) : `Nothing now. ${first.p.bay} is next.`,
    then: second ? sentence(`Then ${say(second)}`) : '',
    be: wants
      .filter((w) => w.at > now + minute && w !== first && w !== second && w.p.bayId !== '')
      .slice(0, 2)
      .map((w) => ({ where: w.p.bay.toLowerCase(), at: w.at })),
    to: first.p.ahead!.to,
    attention: first.attention,
  };
}

/** What the plan can't do as one would like it. */
function notesOf(planned: readonly Place[], plan: Plan, now: number): Note[] {
  const bayOf = (id: string) => planned.find((p) => idOf(p) === id)!.bay;
  return [
    ...plan.touches.flatMap((t): Note[] => (t.broken ? [{ kind: 'missed', bay: bayOf(t.case), at: now + t.limitAt! * minute }] : [])),
    ...plan.touches.flatMap((t): Note[] =>
      t.held && t.held.minutes >= 0.5
        ? [{ kind: 'later', bay: bayOf(t.case), other: bayOf(t.held.other), at: now + t.held.at * minute, minutes: Math.ceil(t.held.minutes) }]
        : [],
    ),
    ...plan.ends.flatMap((e): Note[] => ((e.late ?? 0) > 0 ? [{ kind: 'late', bay: bayOf(e.case), minutes: Math.ceil(e.late!) }] : [])),
  ];
}

/** Ends in a full stop, once. */
const sentence = (text: string): string => `${text.replace(/[.]$/, '')}${/[?]$/.test(text) ? '' : '.'}`;
