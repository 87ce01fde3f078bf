import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { here } from '../../server/http/requestContext';
import { type Lane, readFloor } from '../../server/runs/floor';
import { useRevalidate, useNow, useTimes } from '../ui/clock';
import type { Route } from './+types/floor';
import { SystemDrawing } from '../drawings/SystemDrawing';
import styles from './floor.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Floor · Bloodstone' }];
export const handle = { place: () => ({ title: 'Floor', detail: 'open cases and the hour ahead' }) };

export const loader = ({ context }: Route.LoaderArgs) => readFloor(context.get(here).services);

/** How often the lanes are drawn anew without any news: a minute is a sixtieth of the axis. */
const redrawMs = 30_000;
const ticks = [0, 10, 20, 30, 40, 50];

export default function Floor({ loaderData: { lanes, touch, now: read, horizonMs } }: Route.ComponentProps) {
  const { hm } = useTimes();
  const revalidate = useRevalidate();
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
          </p>
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
            <span key={t} style={{ left: `${(t / 60) * 100}%` }} className="mono">
              {t === 0 ? 'now' : hm(read + t * 60_000)}
            </span>
          ))}
        </div>
        <span />
      </div>
      <ul className={styles.lanes}>
        {lanes.map((lane, i) => (
          <LaneRow key={`${lane.bay} ${i}`} lane={lane} read={read} horizonMs={horizonMs} />
        ))}
      </ul>
      <p className={styles.legend}>
        <span>
          <i data-kind="hands" /> hands on
        </span>
        <span>
          <i data-kind="wait" /> no hands needed
        </span>
        <span>
          <i data-kind="due" /> due now
        </span>
      </p>
    </div>
  );
}

function LaneRow({ lane, read, horizonMs }: { lane: Lane; read: number; horizonMs: number }) {
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
  const labels = labelled(bars.filter((bar) => bar.kind === 'hands'));
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
            {lane.case.batteryAt !== null && now >= lane.case.batteryAt && <b className={styles.low}> battery low</b>}
          </span>
        )}
      </div>
      <div className={styles.track}>
        {ticks.map((t) => (
          <i key={t} className={styles.tick} style={{ left: `${(t / 60) * 100}%` }} />
        ))}
        {bars.map((bar, i) => (
          <span
            key={i}
            className={styles.span}
            data-kind={bar.due ? 'due' : bar.kind}
            style={{ left: `${bar.left}%`, width: `max(6px, ${bar.width}%)` }}
          >
            <span className="hidden">
              {bar.kind === 'wait' ? 'no hands needed' : 'hands on'} from {hm(bar.from)} to {hm(bar.until)}: {bar.label}
            </span>
          </span>
        ))}
        {labels.map((bar, i) => (
          <span key={i} className={styles.label} style={{ left: `${bar.left}%`, width: `${bar.room}%` }} aria-hidden="true">
            {bar.label}
          </span>
        ))}
      </div>
      <div className={styles.then}>{lane.then}</div>
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
