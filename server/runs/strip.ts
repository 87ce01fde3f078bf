import { valuesOf } from '../../core/library';
import { type Attention, type Glance, glance, reserveOf, type RunReserve, sayReserve } from '../../core/procedure';
import { caseNumber } from '../base/caseNumber';
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

/** So many stand over each page, and one more in place of the page's own; the rest are on the Floor. */
const mostClocks = 12;

/** Those that need somebody first, and how many there are beyond them. */
export async function firstClocks(services: Services): Promise<{ clocks: StripClock[]; more: number }> {
  const clocks = await stripClocks(services);
  return { clocks: clocks.slice(0, mostClocks + 1), more: Math.max(0, clocks.length - mostClocks - 1) };
}

/** Every run and lockout that goes on, those that need somebody first. */
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
export const urgency: Record<Attention, number> = { red: 0, amber: 1, due: 2, none: 3 };

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
export function batteryAlarm(services: Services, open: OpenRun, now: number): number | null {
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

/** How long what was seen of a run is good for at most, ms; never beyond a moment at which it changes by itself. */
const seenForMs = 1000;
const seen = new WeakMap<OpenRun, { at: number; until: number; shown: Glance }>();
/** What a run shows now. Many pages ask for all runs at once. */
export function showRun(open: OpenRun, now: number): Glance {
  const known = seen.get(open);
  if (known && known.at <= now && now < known.until) return known.shown;
  const shown = look(open, now);
  const { until, amberAt, redAt } = shown.wait ?? {};
  // What changes just behind this moment is not kept at all.
  const moments = [now + seenForMs, until, amberAt, redAt].filter((m) => m !== undefined && m >= now) as number[];
  seen.set(open, { at: now, until: Math.min(...moments), shown });
  return shown;
}

const look = (open: OpenRun, now: number): Glance =>
  glance({ program: programOf(open.procedure), params: open.params, values: valuesOf(open.params), record: open.record }, foldRun(open), now);
