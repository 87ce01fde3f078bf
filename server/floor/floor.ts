import { asc, eq } from 'drizzle-orm';
import { trainingsOf } from '../../core/library';
import type { Attention } from '../../core/procedure';
import type { Instance, Plan, Touch } from '../../core/schedule';
import { notify } from '../acts/live';
import { caseFile } from '../db/schema';
import type { CaseRecord } from '../record/cases';
import { keptOpenRuns } from '../runs/runs';
import { urgency } from '../runs/strip';
import type { Services } from '../services/services';
import { keptBays } from '../shop/shop';
import { type Ahead, aheadInCase, aheadInRun } from './ahead';
import { type Hands, isAtWork, keptHands, mayDo, singleTool, techniciansOf } from './hands';
import { type Note, notesOf } from './notes';
import { empty, idOf, noBay, type Place, whereIs, type Who } from './place';

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
  /** Who works on it; null: anybody. */
  technician: Who | null;
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
  people: Hands['people'];
  /** What to touch next is for this person's hands. */
  yours: boolean;
  bays: { id: string; name: string }[];
  /** Open cases beyond those that are planned. */
  unplanned: number;
  /** Those of them that have no lane. */
  others: { id: number; number: string; vehicle: string; doing: string }[];
}

/** How far ahead the lanes look, milliseconds: an hour, or the day. */
export const horizons = { hour: 60 * 60_000, day: 8 * 60 * 60_000 } as const;
export type Horizon = keyof typeof horizons;
/** How lanes are put in order. */
export const groupings = ['bay', 'technician'] as const;
export type Grouping = (typeof groupings)[number];
/** Cases that are planned at once: those in a run first. */
const mostPlanned = 12;
/** From so many lanes on, what is neither planned nor pressing and stands nowhere is listed below. */
const mostLanes = 30;
/** A standing order is looked at anew at least so often, ms. */
const freshMs = 5 * 60_000;
const minute = 60_000;
/** What the Floor says of a vehicle: its words; its plate too; nothing. */
export type Showing = 'vehicles' | 'plates' | 'nothing';

export interface Look {
  horizon?: Horizon;
  showing?: Showing;
  by?: Grouping;
  /** Who looks: what to touch next is for their hands, where they are at work by name. */
  viewer?: string;
}

export async function readFloor(services: Services, { horizon = 'hour', showing = 'vehicles', by = 'bay', viewer }: Look = {}): Promise<Floor> {
  const { db } = services.database;
  const now = services.clock.now();
  const open = await keptOpenRuns(services);
  const rows = await services.kept.read('open cases', [caseFile], () =>
    db
      .select({ id: caseFile.id, bayId: caseFile.bayId, promisedAt: caseFile.promisedAt, technicianId: caseFile.technicianId })
      .from(caseFile)
      .where(eq(caseFile.state, 'open'))
      .orderBy(asc(caseFile.id)),
  );
  const hands = await keptHands(services);
  const whoIs = (id: string | null): Who | null => {
    const found = hands.people.find((p) => p.id === id);
    return found ? { id: found.id, name: found.name } : null;
  };
  const records = new Map((await services.cases.all(rows.map((r) => r.id))).map((r) => [r.id, r]));
  const bays = await keptBays(services);
  const places: Place[] = [];
  let runs = 0;
  const place = async (bay: string, row: (typeof rows)[number]) => {
    const record = records.get(row.id)!;
    const run = open.find((r) => r.caseId === row.id);
    // Those in a run are planned first, in this order.
    if (run) runs += 1;
    const ahead = run
      ? await aheadInRun(services, run, record, now, runs > mostPlanned)
      : record.kind === 'parts'
        ? null
        : await aheadInCase(services, record);
    const { bayId, promisedAt, technicianId } = row;
    const technician = whoIs(technicianId);
    places.push({ bay, record, vehicle: vehicleOf(record, showing), bayId: bayId ?? '', promisedAt, technician, ahead });
  };
  for (const { id, name } of bays) {
    const here = rows.filter((r) => r.bayId === id);
    if (here.length === 0) places.push({ ...empty, bay: name, bayId: id });
    for (const row of here) await place(name, row);
  }
  // Without a bay, or in one that is out of use.
  for (const row of rows.filter((r) => !bays.some((b) => b.id === r.bayId))) await place(records.get(row.id)!.bay ?? noBay, row);

  const worked = places
    .filter((p) => p.ahead && p.ahead.steps.length > 0)
    .sort((a, b) => Number(b.ahead!.runId !== null) - Number(a.ahead!.runId !== null));
  const planned = worked.slice(0, mostPlanned);
  const plan = planFor(services, planned, hands, now);
  const yours = isAtWork(hands, viewer);
  const seen = by === 'technician' ? byTechnician(places, hands) : places;
  const isOther = (p: Place) => seen.length > mostLanes && p.record !== null && isBeside(p) && !planned.includes(p);
  return {
    now,
    horizonMs: horizons[horizon],
    lanes: seen
      .filter((p) => !isOther(p))
      .map((p) => laneOf(p, plan, now, !worked.includes(p) || planned.includes(p)))
      .map((lane) => (showing === 'vehicles' ? lane : { ...lane, technician: null })),
    others: seen.filter(isOther).map((p) => ({ id: p.record!.id, number: p.record!.number, vehicle: p.vehicle, doing: p.ahead?.doing ?? '' })),
    touch: nextUp(yours ? places.filter((p) => isFor(p, plan, viewer!)) : places, plan, now, yours),
    readyAt: plan.touches.length === 0 ? null : now + plan.makespanMinutes * minute,
    notes: notesOf(planned, plan, { hands, trainings: trainingsOf(services.library.cautions), now }).filter(
      (n) => showing === 'vehicles' || !('name' in n),
    ),
    technicians: hands.technicians,
    people: showing === 'vehicles' ? hands.people : [],
    yours,
    bays,
    unplanned: worked.length - planned.length,
  };
}

/** In no bay, for anybody, and within its times. */
const isBeside = (p: Place): boolean => p.bayId === '' && p.technician === null && p.ahead?.attention !== 'red' && p.ahead?.attention !== 'amber';

function vehicleOf(record: CaseRecord, showing: Showing): string {
  const vehicle = record.vehicle || (record.kind === 'parts' ? 'Parts' : '');
  return showing === 'nothing' ? '' : [vehicle, showing === 'plates' ? record.plate : ''].filter((part) => part !== '').join(' · ');
}

/** The plan over the cases that somebody can work on. */
function planFor(services: Services, planned: readonly Place[], hands: Hands, now: number): Plan {
  const technicians = techniciansOf(hands);
  // Whoever is not at work can't be planned for: then anybody may who is trained for it, and it is said.
  const may = planned.map((p) => mayDo(hands, p.technician?.id, p.ahead!.needs));
  // Where two have it at once, the shop has more than one.
  const isSingle = planned.filter((p) => p.ahead!.hasTool).length < 2;
  const instance: Instance = {
    technicians,
    cases: planned.map((p, i) => ({
      id: idOf(p),
      steps: p.ahead!.steps.map(({ kind, minutes, maxLateMinutes, tool }) => ({
        kind,
        minutes,
        // A limit that has passed already is the run's to speak of: no order can keep it.
        ...(kind === 'wait' && maxLateMinutes !== undefined && minutes + maxLateMinutes > 0 ? { maxLateMinutes } : {}),
        ...(tool && isSingle ? { holds: [singleTool] } : {}),
      })),
      ...(isSingle && p.ahead!.hasTool ? { holding: [singleTool] } : {}),
      ...(may[i] === undefined ? {} : { technicians: may[i] }),
      ...(p.promisedAt === null ? {} : { promiseInMinutes: Math.max(0, (p.promisedAt - now) / minute) }),
    })),
  };
  const name = JSON.stringify([
    Math.floor(now / freshMs),
    technicians,
    planned.map((p, i) => [idOf(p), p.promisedAt, may[i] ?? '', p.ahead!.steps.map((s) => [s.kind, s.label])]),
  ]);
  // A better plan is there: open pages look again; one that could not be told of is shown with the next look.
  return services.planner.now(name, instance, () => void notify(services.database.db, { what: 'plan' }).catch(() => {}));
}

/** What is ahead in a lane: acts where the plan has them, waits from the act before to where they end; nothing where it has no place in the plan. */
function laneOf({ bay, record, vehicle, bayId, promisedAt, technician, ahead }: Place, plan: Plan, now: number, isPlanned: boolean): Lane {
  if (!record) return { bay, bayId, technician, case: null, spans: [], attention: 'none', then: '' };
  const end = plan.ends.find((e) => e.case === String(record.id));
  return {
    bay,
    bayId,
    technician,
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
    spans:
      ahead && isPlanned
        ? spansOf(
            ahead,
            plan.touches.filter((t) => t.case === String(record.id)),
            now,
          )
        : [],
    attention: ahead?.attention ?? 'none',
    then: isPlanned ? (ahead?.then ?? '') : 'not planned yet',
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

/** What to touch next: what is past a limit first, then as the plan has it, which may hold back what could be done now so that a later limit is kept. */
function nextUp(places: readonly Place[], plan: Plan, now: number, yours: boolean): Floor['touch'] {
  const isPressing = (p: Place) => p.ahead!.attention === 'red' || p.ahead!.attention === 'amber';
  const at = (p: Place) => {
    const touch = plan.touches.find((t) => t.case === idOf(p));
    if (isPressing(p) || (!touch && p.ahead!.attention === 'due')) return now;
    return now + (touch?.at ?? Infinity) * minute;
  };
  const wants = places
    .filter((p) => p.ahead && !p.ahead.shut)
    // What takes no time has no place in the plan and can be done at any time.
    .map((p) => ({ p, at: p.ahead!.steps.length === 0 ? now : at(p), attention: p.ahead!.attention }))
    .filter((w) => w.at < Infinity)
    .sort((a, b) => Number(isPressing(b.p)) - Number(isPressing(a.p)) || a.at - b.at || urgency[a.attention] - urgency[b.attention]);
  const say = ({ p }: (typeof wants)[number]) => `${whereIs(p)}: ${p.ahead!.say}`;
  const [first, ...rest] = wants;
  if (!first && yours) return { say: 'Nothing for you right now.', then: 'Others have the open cases.', be: [], to: null, attention: 'none' };
  if (!first) return { say: 'No case is open.', then: 'Open the first one when a vehicle comes in.', be: [], to: null, attention: 'none' };
  const second = rest.find((w) => w.at <= now + minute);
  return {
    say: first.at <= now + 1 ? sentence(say(first)) : `Nothing now. ${whereIs(first.p)} is next.`,
    then: second ? sentence(`Then ${say(second)}`) : '',
    be: wants
      .filter((w) => w.at > now + 1 && (w === first || w.at > now + minute) && w !== second && w.p.bayId !== '')
      .slice(0, 2)
      .map((w) => ({ where: w.p.bay.toLowerCase(), at: w.at })),
    to: first.p.ahead!.to,
    attention: first.attention,
  };
}

/** Whether somebody's hands are meant: the plan says so, or nobody else's are and it needs somebody now. */
function isFor(p: Place, plan: Plan, viewer: string): boolean {
  if (!p.ahead || p.ahead.shut) return false;
  const touch = plan.touches.find((t) => t.case === idOf(p));
  return touch ? touch.technician === viewer : p.technician === null || p.technician.id === viewer;
}

/** Cases by who works on them, those of nobody last; who is at work without a case has a free lane. */
function byTechnician(places: readonly Place[], { people }: Hands): Place[] {
  const cases = places.filter((p) => p.record !== null);
  return [
    ...people.flatMap((p) => {
      const own = cases.filter((c) => c.technician?.id === p.id);
      return own.length > 0 ? own : p.atWork ? [{ ...empty, technician: { id: p.id, name: p.name } }] : [];
    }),
    ...cases.filter((c) => c.technician === null),
  ];
}

/** Ends in a full stop, once. */
const sentence = (text: string): string => `${text.replace(/[.]$/, '')}${/[?]$/.test(text) ? '' : '.'}`;
