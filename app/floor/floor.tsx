import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { parsePlace, parseTechnicians, setPlace, setTechnicians, mostTechnicians } from '../../server/floor/acts';
import { type Floor as FloorData, type Horizon as Ahead, type Lane, type Note, readFloor } from '../../server/floor/floor';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { SystemDrawing } from '../drawings/SystemDrawing';
import { useRevalidate, useNow, useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/floor';
import styles from './floor.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Floor · Bloodstone' }];
export const handle = { place: () => ({ title: 'Floor', detail: 'open cases and what is ahead' }) };

export async function loader({ context, request }: Route.LoaderArgs) {
  const ahead: Ahead = new URL(request.url).searchParams.get('ahead') === 'day' ? 'day' : 'hour';
  return { ...(await readFloor(context.get(here).services, ahead)), ahead, most: mostTechnicians };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/', args, {
    setTechnicians: async ({ form, act }) => {
      await setTechnicians(db, act(), parseTechnicians(form).technicians);
      return { said: 'The plan is for them now.' };
    },
    setPlace: async ({ form, act }) => {
      await setPlace(db, act(), parsePlace(form));
      return { said: 'Saved.' };
    },
  });
}

const PlaceDialog = lazy(() => import('./PlaceDialog'));

/** How often the lanes are drawn anew without any news: a minute is a sixtieth of the axis. */
const redrawMs = 30_000;
/** Ticks of the axis, as shares of it. */
const ticks = [0, 1 / 6, 2 / 6, 3 / 6, 4 / 6, 5 / 6];

export default function Floor({ loaderData: floor }: Route.ComponentProps) {
  const { lanes, touch, now: read, horizonMs, notes, readyAt, bays, unplanned } = floor;
  const { hm } = useTimes();
  const revalidate = useRevalidate();
  const [placing, setPlacing] = useState<number | null>(null);
  const placed = lanes.find((l) => l.case?.id === placing)?.case;
  useEffect(() => {
    const timer = setInterval(revalidate, redrawMs);
    return () => clearInterval(timer);
  }, [revalidate]);
  return (
    <div>
      <section className={styles.touch} aria-label="Next up" data-attention={touch.attention}>
        <div>
          <p className="label">Next up</p>
          <h1>{touch.to ? <Link to={touch.to}>{touch.say}</Link> : touch.say}</h1>
          <p>
            {touch.then}
            {touch.be.map((b) => ` Be at ${b.where} at ${hm(b.at)}.`)}
            {readyAt !== null && ` As things look, all of it is done by ${hm(readyAt)}.`}
          </p>
          {notes.length > 0 && (
            <ul className={styles.notes}>
              {notes.map((n, i) => (
                <li key={i} data-kind={n.kind}>
                  {noteWords(n, hm)}
                </li>
              ))}
            </ul>
          )}
        </div>
        <Button component={Link} to="/cases/new" variant="contained" size="large">
          New case{' '}
          <span className="keycap" aria-hidden="true" style={{ marginLeft: 12 }}>
            n
          </span>
        </Button>
      </section>
      <div className={styles.axis} aria-hidden="true">
        <span>where, what</span>
        <div className={styles.ticks}>
          {ticks.map((t) => (
            <span key={t} style={{ left: `${t * 100}%` }} className="mono">
              {t === 0 ? 'now' : hm(read + t * horizonMs)}
            </span>
          ))}
        </div>
        <span />
      </div>
      <ul className={styles.lanes}>
        {lanes.map((lane, i) => (
          <LaneRow key={`${lane.bay} ${i}`} lane={lane} read={read} horizonMs={horizonMs} place={setPlacing} />
        ))}
      </ul>
      <div className={styles.foot}>
        <Horizon ahead={floor.ahead} />
        <Technicians technicians={floor.technicians} most={floor.most} />
        <Legend />
      </div>
      {unplanned > 0 && (
        <p className={styles.foot}>
          {unplanned === 1 ? 'One more open case has' : `${unplanned} more open cases have`} no place in the plan yet: it plans twelve at once, those
          in a run first.
        </p>
      )}
      {placed && (
        <Suspense>
          <PlaceDialog key={placed.id} of={placed} bays={bays} close={() => setPlacing(null)} />
        </Suspense>
      )}
    </div>
  );
}

function noteWords(note: Note, hm: (ms: number) => string): string {
  switch (note.kind) {
    case 'later':
      return `${note.bay} and ${inside(note.other)} would both need somebody at ${hm(note.at)}: begin ${inside(note.bay)} ${note.minutes} min later.`;
    case 'missed':
      return `${note.bay} can’t be reached by ${hm(note.at)}. Ask somebody to help, or expect to do that cycle again.`;
    case 'late':
      return `${note.bay} will be ${note.minutes} min after its promise. Tell the customer.`;
  }
}
/** A bay's name inside a sentence. */
const inside = (bay: string) => bay.replace(/^(Bay|Van|No)\b/, (word) => word.toLowerCase());

/** An hour ahead, or the day. */
function Horizon({ ahead }: { ahead: Ahead }) {
  const [params] = useSearchParams();
  const to = (day: boolean) => {
    const next = new URLSearchParams(params);
    next.delete('index');
    if (day) next.set('ahead', 'day');
    else next.delete('ahead');
    return `/${next.size > 0 ? `?${next}` : ''}`;
  };
  return (
    <nav aria-label="How far ahead" className={styles.choice}>
      <Link to={to(false)} aria-current={ahead === 'hour' ? 'true' : undefined}>
        next hour
      </Link>
      <Link to={to(true)} aria-current={ahead === 'day' ? 'true' : undefined}>
        8 hours
      </Link>
    </nav>
  );
}

/** For how many the Floor plans; everybody in the shop sees the same. */
function Technicians({ technicians, most }: Pick<FloorData, 'technicians'> & { most: number }) {
  const { sendJson, busy, errors } = useAct('technicians');
  return (
    <label className={styles.technicians}>
      technicians at work{' '}
      <select
        value={technicians}
        disabled={busy}
        onChange={(e) => sendJson({ intent: 'setTechnicians', technicians: Number(e.target.value) }, '/?index')}
        aria-invalid={errors.technicians !== undefined}
      >
        {Array.from({ length: most }, (_, i) => (
          <option key={i} value={i + 1}>
            {i + 1}
          </option>
        ))}
      </select>
      {errors.technicians && <span role="alert"> {errors.technicians}</span>}
    </label>
  );
}

function Legend() {
  return (
    <p className={styles.legend}>
      <span>
        <i data-kind="hands" /> hands on
      </span>
      <span>
        <i data-kind="likely" /> likely after it
      </span>
      <span>
        <i data-kind="wait" /> no hands needed
      </span>
      <span>
        <i data-kind="limit" /> at the latest
      </span>
      <span>
        <i data-kind="due" /> due now
      </span>
    </p>
  );
}

function LaneRow({ lane, read, horizonMs, place }: { lane: Lane; read: number; horizonMs: number; place: (caseId: number) => void }) {
  const now = useNow();
  const { hm } = useTimes();
  const shift = Math.max(0, now - read);
  const bars = lane.spans.flatMap((span, i) => {
    const from = Math.max(0, span.from - read - shift);
    const until = Math.min(horizonMs, span.until - read - shift);
    if (until <= 0 || from >= horizonMs) return [];
    const due = i === 0 && span.kind === 'hands' && lane.attention !== 'none';
    return [{ ...span, due, left: (from / horizonMs) * 100, width: ((until - from) / horizonMs) * 100 }];
  });
  const limits = lane.spans.flatMap(({ limitAt, tight, broken }) => {
    const at = limitAt === undefined ? -1 : limitAt - read - shift;
    return at >= 0 && at < horizonMs ? [{ left: (at / horizonMs) * 100, tight: tight === true || broken === true }] : [];
  });
  const labels = labelled(bars.filter((bar) => bar.kind === 'hands'));
  const { promisedAt } = lane.case ?? { promisedAt: null };
  const promised = promisedAt === null ? -1 : promisedAt - read - shift;
  const to = lane.case ? (lane.case.runId ? `/cases/${lane.case.id}/runs/${lane.case.runId}` : `/cases/${lane.case.id}`) : undefined;
  return (
    <li className={styles.lane}>
      <div className={styles.what}>
        {lane.case && <SystemDrawing family={lane.case.family} width={56} />}
        {lane.case && to ? (
          <Link to={to} className={styles.name}>
            <b>{lane.bay}</b> {lane.case.vehicle}
          </Link>
        ) : (
          <span className={styles.name}>
            <b>{lane.bay}</b> <span className="quiet">free</span>
          </span>
        )}
        {lane.case && (
          <span className="quiet">
            {lane.case.doing}
            {lane.case.promisedAt !== null && (
              <span className={lane.case.late ? styles.low : undefined}>
                {' '}
                · by {hm(lane.case.promisedAt)}
                {lane.case.late && ', late'}
              </span>
            )}
            {lane.case.batteryAt !== null && now >= lane.case.batteryAt && <b className={styles.low}> battery low</b>}
          </span>
        )}
      </div>
      <div className={styles.track}>
        {ticks.map((t) => (
          <i key={t} className={styles.tick} style={{ left: `${t * 100}%` }} />
        ))}
        {bars.map((bar, i) => (
          <span
            key={i}
            className={styles.span}
            data-kind={bar.due ? 'due' : bar.kind}
            data-sure={bar.sure >= 0.95 ? undefined : bar.sure >= 0.5 ? 'likely' : 'maybe'}
            style={{ left: `${bar.left}%`, width: `max(6px, ${bar.width}%)` }}
          >
            <span className="hidden">
              {bar.kind === 'wait' ? 'no hands needed' : 'hands on'} from {hm(bar.from)} to {hm(bar.until)}: {bar.label}
              {bar.sure < 0.95 && `, if all goes as is likely, ${Math.round(bar.sure * 100)} %`}
              {bar.limitAt !== undefined && `, at the latest at ${hm(bar.limitAt)}`}
              {bar.tight && ', no slack'}
            </span>
          </span>
        ))}
        {limits.map((l, i) => (
          <i key={`limit ${i}`} className={styles.limit} data-tight={l.tight || undefined} style={{ left: `${l.left}%` }} />
        ))}
        {promised >= 0 && promised < horizonMs && <i className={styles.promise} style={{ left: `${(promised / horizonMs) * 100}%` }} />}
        {labels.map((bar, i) => (
          <span key={i} className={styles.label} style={{ left: `${bar.left}%`, width: `${bar.room}%` }} aria-hidden="true">
            {bar.label}
          </span>
        ))}
      </div>
      <div className={styles.then}>
        <span>{lane.then}</span>
        {lane.case && (
          <button
            type="button"
            className={styles.edit}
            aria-label={`Bay and promise of case ${lane.case.number}`}
            onClick={() => place(lane.case!.id)}
          >
            Bay and promise
          </button>
        )}
      </div>
    </li>
  );
}

/** Least room for a label, percent of the track: on the smallest phone some six letters. */
const leastRoom = 14;

/** Labels with the room they have until the next one; one that would stand on another is left out, its bar stays. */
function labelled<B extends { left: number }>(bars: readonly B[]): (B & { room: number })[] {
  const kept: B[] = [];
  for (const bar of bars) if (bar.left - (kept.at(-1)?.left ?? -leastRoom) >= leastRoom && 100 - bar.left >= leastRoom) kept.push(bar);
  return kept.map((bar, i) => ({ ...bar, room: (kept[i + 1]?.left ?? 100) - bar.left }));
}
