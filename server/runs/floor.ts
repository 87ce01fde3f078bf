import { asc, eq } from 'drizzle-orm';
import { type Family, valuesOf } from '../../core/library';
import type { Step } from '../../core/diagnosis';
import { type Attention, forecast, type ForecastSpan, reserveOf, type RunReserve, sayReserve, view } from '../../core/procedure';
import { midSentence } from '../../core/words';
import { caseNumber } from '../base/caseNumber';
import { type CaseRecord, onRecord } from '../record/cases';
import { caseFile } from '../db/schema';
import { readForDiagnosis, stepsOf } from '../diagnosis/diagnosis';
import { notify } from '../acts/live';
import { keptBays } from '../shop/shop';
import { foldRun, type OpenRun, keptOpenRuns, programOf } from './runs';
import type { Services } from '../services/services';
import { runningLockouts } from '../ledger/stepSearch';

/** A running run as the clock strip shows it: moments, so that the page counts by itself. */
export interface StripClock {
  /** Run, or what else waits. */
  id: string;
  /** Address of its page. */
  to: string;
  caseId: number;
  bay: string;
  where: string;
  instruction: string;
  round: string | null;
  attention: Attention;
  /** When its battery is about to be no longer enough; null where the run is over before. */
  batteryAt: number | null;
  wait: { startedAt: number; until: number; amberAt: number | null; redAt: number | null; kind: 'least' | 'most' } | null;
}

export async function stripClocks(services: Services): Promise<StripClock[]> {
  const now = services.clock.now();
  const open = await keptOpenRuns(services);
  const ofShop = reserves.get(services);
  for (const id of ofShop?.keys() ?? []) if (!open.some((r) => r.id === id)) ofShop!.delete(id);
  const clocks = [...open.map((r) => stripClock(services, r, now)), ...(await runningLockouts(services)).map(lockoutClock)];
  return clocks.sort((a, b) => urgency[a.attention] - urgency[b.attention] || (a.wait?.until ?? now) - (b.wait?.until ?? now));
}

/** A lockout waits by itself; when it is over the next step may be tried, and nothing is spoilt by trying later. */
function lockoutClock({ caseId, vehicle, bay, startedAt, until, ladder }: Awaited<ReturnType<typeof runningLockouts>>[number]): StripClock {
  const place = bay ?? `Case ${caseNumber(caseId)}`;
  return {
    id: `steps ${caseId}`,
    to: `/bench/steps?case=${caseId}&ladder=${ladder}`,
    caseId,
    bay: place,
    where: `${place} ${vehicle}`,
    instruction: 'then the next value',
    round: 'lockout',
    attention: 'none',
    batteryAt: null,
    wait: { startedAt, until, amberAt: null, redAt: null, kind: 'least' },
  };
}

/** Who needs a person first. */
const urgency: Record<Attention, number> = { red: 0, amber: 1, due: 2, none: 3 };

function stripClock(services: Services, open: OpenRun, now: number): StripClock {
  const shown = showRun(open, now);
  return {
    id: `run ${open.id}`,
    to: `/cases/${open.caseId}/runs/${open.id}`,
    caseId: open.caseId,
    bay: open.bay ?? `Case ${caseNumber(open.caseId)}`,
    where: `${open.bay ?? `Case ${caseNumber(open.caseId)}`} ${open.vehicle}`,
    instruction: shown.instruction,
    round: shown.round ?? null,
    attention: shown.attention,
    batteryAt: batteryAlarm(services, open, now),
    wait: shown.wait
      ? {
          startedAt: shown.wait.startedAt,
          until: shown.wait.until,
          amberAt: shown.wait.amberAt ?? null,
          redAt: shown.wait.redAt ?? null,
          kind: shown.wait.kind,
        }
      : null,
  };
}

/** What was reckoned of each run's battery, by shop: a tap in one run is no reason to reckon those of all others again. */
const reserves = new WeakMap<Services, Map<number, { last: string; reserve: RunReserve | undefined }>>();
function batteryAlarm(services: Services, open: OpenRun, now: number): number | null {
  let ofShop = reserves.get(services);
  if (!ofShop) reserves.set(services, (ofShop = new Map()));
  const last = open.events.at(-1)!.id;
  let known = ofShop.get(open.id);
  if (known?.last !== last) {
    known = { last, reserve: reserveOf(programOf(open.procedure), valuesOf(open.params), foldRun(open)) };
    ofShop.set(open.id, known);
  }
  return known.reserve ? (sayReserve(known.reserve, now).alarm?.at ?? null) : null;
}

const showRun = (open: OpenRun, now: number) =>
  view({ program: programOf(open.procedure), params: open.params, values: valuesOf(open.params), record: open.record }, foldRun(open), now);

/** What to do next in a case, by the best answer that is there now; when a better one comes, open pages look again. */
async function nextOf(services: Services, record: CaseRecord): Promise<Step> {
  const { weigher, database } = services;
  const read = await readForDiagnosis(services, record);
  const answer = read.situation && weigher.quick(read.situation);
  if (answer && !answer.final)
    weigher
      .prefetch(read.situation!)
      ?.then(() => notify(database.db, { what: 'case', id: record.id }))
      // The first answer stands, as on the page of the case; a worker that died is in the log.
      .catch(() => {});
  return stepsOf(services, read, answer && answer.diagnosis).next[0]!;
}

/** One bay with the case in it and the hour ahead. */
export interface Lane {
  bay: string;
  case: {
    id: number;
    number: string;
    vehicle: string;
    /** Id of its system type; empty for parts. */ family: string;
    doing: string;
    runId: number | null;
    /** When the battery of its run is about to be no longer enough; null where the run is over before, or there is none. */
    batteryAt: number | null;
  } | null;
  spans: ForecastSpan[];
  attention: Attention;
  then: string;
}

export interface Floor {
  now: number;
  horizonMs: number;
  lanes: Lane[];
  /** What to touch next, and when. */
  touch: { say: string; then: string; be: { where: string; at: number }[]; to: string | null; attention: Attention };
}

/** How far ahead the lanes look, milliseconds. */
const horizonMs = 60 * 60_000;

export async function readFloor(services: Services): Promise<Floor> {
  const { db } = services.database;
  const now = services.clock.now();
  const open = await keptOpenRuns(services);
  const rows = await services.kept.read('open cases', [caseFile], () =>
    db.select({ id: caseFile.id, bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.state, 'open')).orderBy(asc(caseFile.id)),
  );
  const lanes: Lane[] = [];
  const wants: { at: number; where: string; say: string; to: string; attention: Attention }[] = [];
  const records = new Map((await services.cases.all(rows.map((r) => r.id))).map((r) => [r.id, r]));
  const place = async (name: string, caseId: number) => {
    const record = records.get(caseId)!;
    const run = open.find((r) => r.caseId === caseId);
    if (run) {
      const shown = showRun(run, now);
      const spans = forecast({ program: programOf(run.procedure), values: valuesOf(run.params) }, foldRun(run), now, horizonMs);
      const to = `/cases/${caseId}/runs/${run.id}`;
      lanes.push({
        bay: name,
        case: {
          id: caseId,
          number: record.number,
          vehicle: record.vehicle,
          family: record.family.id,
          doing: [run.procedure.title, shown.round?.toLowerCase()].filter(Boolean).join(', '),
          runId: run.id,
          batteryAt: batteryAlarm(services, run, now),
        },
        spans,
        attention: shown.attention,
        then: 'then verify',
      });
      const firstHands = spans.find((s) => s.kind === 'hands')?.from ?? now;
      wants.push({
        where: name,
        at: shown.attention === 'none' ? (shown.wait?.until ?? firstHands) : now,
        say: `${name}, ${record.vehicle}: ${shown.attention === 'none' ? 'look at the run' : shown.instruction}`,
        to,
        attention: shown.attention,
      });
      return;
    }
    if (record.kind === 'parts') {
      lanes.push({
        bay: name,
        case: {
          id: caseId,
          number: record.number,
          vehicle: record.vehicle || 'Parts',
          family: '',
          doing: 'parts without a vehicle',
          runId: null,
          batteryAt: null,
        },
        spans: [],
        attention: 'none',
        then: '',
      });
      return;
    }
    const next = await nextOf(services, record);
    const { doing, title, minutes } = wordsOf(next, await services.documents.family(record.family));
    const gateShut = next.kind === 'procedure' && !onRecord(record).authority;
    lanes.push({
      bay: name,
      case: {
        id: caseId,
        number: record.number,
        vehicle: record.vehicle,
        family: record.family.id,
        doing: gateShut ? 'waits for authority' : doing,
        runId: null,
        batteryAt: null,
      },
      spans: minutes > 0 ? [{ kind: 'hands', from: now, until: now + minutes * 60_000, label: title }] : [],
      attention: 'none',
      then: next.kind === 'procedure' ? (gateShut ? 'relearn once authority is seen' : 'relearn, when you start it') : '',
    });
    if (!gateShut)
      wants.push({
        at: now,
        where: name,
        say: `${name}, ${record.vehicle}: ${title}`,
        to: `/cases/${caseId}`,
        attention: 'none',
      });
  };
  const bays = await keptBays(services);
  for (const { id, name } of bays) {
    const here = rows.filter((r) => r.bayId === id);
    if (here.length === 0) lanes.push({ bay: name, case: null, spans: [], attention: 'none', then: '' });
    for (const row of here) await place(name, row.id);
  }
  // Without a bay, or in one that is out of use.
  for (const row of rows.filter((r) => !bays.some((b) => b.id === r.bayId))) await place(records.get(row.id)!.bay ?? 'No bay', row.id);

  wants.sort((a, b) => urgency[a.attention] - urgency[b.attention] || a.at - b.at);
  const [first, ...rest] = wants;
  const second = rest.find((w) => w.at <= now);
  return {
    now,
    horizonMs,
    lanes,
    touch: first
      ? {
          say: first.at <= now ? sentence(first.say) : `Nothing now. ${first.where} is next.`,
          then: second ? sentence(`Then ${second.say}`) : '',
          be: wants.filter((w) => w.at > now).map((w) => ({ where: w.where.toLowerCase(), at: w.at })),
          to: first.to,
          attention: first.attention,
        }
      : { say: 'No case is open.', then: 'Open the first one when a vehicle comes in.', be: [], to: null, attention: 'none' },
  };
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
      return { doing: 'next: confirm the fix', title: 'confirm the fix', minutes: 5 };
    case 'verify':
      return { doing: 'next: verify the keys', title: 'verify the keys', minutes: 6 };
    case 'handOver':
      return { doing: 'ready to hand over', title: 'hand over', minutes: 5 };
    case 'unknown':
    case 'nothing':
      return { doing: 'nothing left to test', title: 'nothing left to test', minutes: 0 };
  }
}

/** Ends in a full stop, once. */
const sentence = (text: string): string => `${text.replace(/[.]$/, '')}${/[?]$/.test(text) ? '' : '.'}`;
