import { DndContext, type DragEndEvent, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from '@dnd-kit/core';
import type { CSSProperties, ReactNode } from 'react';
import { Link } from 'react-router';
import type { Grouping, Lane } from '../../server/floor/floor';
import { SystemDrawing } from '../drawings/SystemDrawing';
import { useNow, useTimes } from '../ui/clock';
import styles from './floor.module.css';

/** Ticks of the axis, as shares of it. */
const ticks = [0, 1 / 6, 2 / 6, 3 / 6, 4 / 6, 5 / 6];

/** What can be done in the lanes. */
export interface LaneActs {
  /** Opens a case's bay, technician and promise: by keyboard, and for promises. */
  place(caseId: number): void;
  /** The case was dragged into another bay, or to somebody else. */
  move(caseId: number, to: { bayId: string } | { technicianId: string }): void;
}

interface Shown {
  lanes: Lane[];
  by?: Grouping;
  /** The moment at which they were read. */
  read: number;
  horizonMs: number;
  /** Without them the lanes lead nowhere, as on a wall. */
  acts?: LaneActs;
}
/** The lanes of the Floor over their axis. */
export function Lanes({ lanes, by = 'bay', read, horizonMs, acts }: Shown) {
  const { hm } = useTimes();
  return (
    <>
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
      {acts ? (
        <Moving acts={acts} by={by}>
          <ul className={styles.lanes}>
            {lanes.map((lane, i) => (
              <MovableLane key={`${lane.bay} ${i}`} n={i} lane={lane} by={by} read={read} horizonMs={horizonMs} acts={acts} />
            ))}
          </ul>
        </Moving>
      ) : (
        <ul className={styles.lanes}>
          {lanes.map((lane, i) => (
            <LaneRow key={`${lane.bay} ${i}`} lane={lane} by={by} read={read} horizonMs={horizonMs} />
          ))}
        </ul>
      )}
    </>
  );
}

export function Legend() {
  return (
    <p className={styles.legend}>
      <span>
        <i data-kind="hands" /> hands on
      </span>
      <span>
        <i data-kind="likely" /> likely to follow
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

/** Cases are dragged by their drawing, with mouse, pen or finger. */
function Moving({ acts, by, children }: { acts: LaneActs; by: Grouping; children: ReactNode }) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = active.data.current as { caseId: number; at: string };
    const to = over?.data.current as { at: string } | undefined;
    if (to && to.at !== from.at) acts.move(from.caseId, by === 'bay' ? { bayId: to.at } : { technicianId: to.at });
  };
  return (
    <DndContext sensors={sensors} onDragEnd={dropped}>
      {children}
    </DndContext>
  );
}

function MovableLane({ n, ...lane }: Omit<Parameters<typeof LaneRow>[0], 'dragged'> & { n: number }) {
  const { bayId, technician, case: of } = lane.lane;
  const at = lane.by === 'bay' ? bayId : (technician?.id ?? '');
  const drop = useDroppable({ id: `lane ${n}`, data: { at } });
  const drag = useDraggable({ id: `case ${of?.id ?? `none ${n}`}`, data: { caseId: of?.id, at }, disabled: of === null });
  const by = drag.transform ? { transform: `translate(${drag.transform.x}px, ${drag.transform.y}px)` } : {};
  return <LaneRow {...lane} dragged={{ lane: drop.setNodeRef, over: drop.isOver, grip: drag.setNodeRef, listeners: drag.listeners, by }} />;
}

interface Dragged {
  lane: (element: HTMLElement | null) => void;
  over: boolean;
  grip: (element: HTMLElement | null) => void;
  listeners: ReturnType<typeof useDraggable>['listeners'];
  by: CSSProperties;
}

interface Row {
  lane: Lane;
  by: Grouping;
  read: number;
  horizonMs: number;
  acts?: LaneActs;
  dragged?: Dragged;
}
function LaneRow({ lane, by, read, horizonMs, acts, dragged }: Row) {
  const now = useNow();
  const { hm } = useTimes();
  const shift = Math.max(0, now - read);
  const bars = lane.spans.flatMap((span, i) => {
    const from = Math.max(0, span.from - read - shift);
    const until = Math.min(horizonMs, span.until - read - shift);
    if (until <= 0 || from >= horizonMs) return [];
    const due = i === 0 && span.kind === 'hands' && lane.attention !== 'none' && span.from - now < 60_000;
    return [{ ...span, due, left: (from / horizonMs) * 100, width: ((until - from) / horizonMs) * 100 }];
  });
  const limits = lane.spans.flatMap(({ limitAt, tight, broken }) => {
    const at = limitAt === undefined ? -1 : limitAt - read - shift;
    return at >= 0 && at < horizonMs ? [{ left: (at / horizonMs) * 100, tight: tight === true || broken === true }] : [];
  });
  // What is next in a case without a run stands beside its name.
  const first = lane.case?.runId === null ? lane.spans[0]?.from : undefined;
  const labels = labelled(bars.filter((bar) => bar.kind === 'hands' && bar.from !== first));
  const { promisedAt } = lane.case ?? { promisedAt: null };
  const promised = promisedAt === null ? -1 : promisedAt - read - shift;
  const to = lane.case ? (lane.case.runId ? `/cases/${lane.case.id}/runs/${lane.case.runId}` : `/cases/${lane.case.id}`) : undefined;
  const who = lane.technician?.name;
  const [head, beside] = by === 'bay' ? [lane.bay, ''] : [who ?? 'Anybody', lane.case ? lane.bay : ''];
  return (
    <li className={styles.lane} ref={dragged?.lane} data-over={dragged?.over || undefined}>
      <div className={styles.what}>
        {lane.case && (
          <span
            className={dragged ? styles.grip : undefined}
            ref={dragged?.grip}
            style={dragged?.by}
            {...dragged?.listeners}
            title={dragged ? (by === 'bay' ? 'Drag to another bay' : 'Drag to somebody else') : undefined}
          >
            <SystemDrawing family={lane.case.family} width={56} />
          </span>
        )}
        {lane.case && to && acts ? (
          <Link to={to} className={styles.name}>
            <b>{head}</b> {beside} {lane.case.vehicle}
          </Link>
        ) : (
          <span className={styles.name}>
            <b>{head}</b> {beside} {lane.case ? lane.case.vehicle || `Case ${lane.case.number}` : <span className="quiet">free</span>}
          </span>
        )}
        {lane.case && (
          <span className="quiet">
            {lane.case.doing}
            {by === 'bay' && who && ` · ${who}`}
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
        {lane.case && acts && (
          <button
            type="button"
            className={styles.edit}
            aria-label={`Change bay, technician or promise of case ${lane.case.number}`}
            onClick={() => acts.place(lane.case!.id)}
          >
            Change
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
