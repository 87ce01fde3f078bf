import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { mostTechnicians, parseAtWork, parsePlace, parseTechnicians, setAtWork, setPlace, setTechnicians } from '../../server/floor/acts';
import { type Floor as FloorData, type Grouping, type Horizon as Ahead, readFloor } from '../../server/floor/floor';
import { overdueBackup } from '../../server/backup/backups';
import { may } from '../../server/acts/rights';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { useRevalidate, useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/floor';
import { Aloud } from './Aloud';
import styles from './floor.module.css';
import { Lanes, Legend } from './Lanes';
import type { PlacedCase } from './PlaceDialog';
import { noteWords } from './words';

export const meta: Route.MetaFunction = () => [{ title: 'Floor · Bloodstone' }];
export const handle = { place: () => ({ title: 'Floor', detail: 'open cases and what is ahead' }) };

export async function loader({ context, request }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url);
  const ahead: Ahead = searchParams.get('ahead') === 'day' ? 'day' : 'hour';
  const by: Grouping = searchParams.get('by') === 'technician' ? 'technician' : 'bay';
  const { services, session } = context.get(here);
  return {
    ...(await readFloor(services, { horizon: ahead, by, ...(session ? { viewer: session.person.id } : {}) })),
    ahead,
    by,
    most: mostTechnicians,
    backup: await overdueBackup(services),
    mayBackUp: session ? may(session.person, 'backUp') : false,
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/', args, {
    setTechnicians: async ({ form, act }) => {
      await setTechnicians(db, act(), parseTechnicians(form).technicians);
      return { said: 'The plan counts on these technicians now.' };
    },
    setAtWork: async ({ form, act }) => {
      await setAtWork(db, act(), parseAtWork(form));
      return { said: 'The plan counts on these technicians now.' };
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
export default function Floor({ loaderData: floor }: Route.ComponentProps) {
  const { lanes, touch, now: read, horizonMs, notes, readyAt, bays, unplanned } = floor;
  const { hm } = useTimes();
  const revalidate = useRevalidate();
  const [placing, setPlacing] = useState<number | null>(null);
  const placed = placedIn(lanes, placing);
  const moves = useMoves(floor);
  const { moved } = moves;
  useEffect(() => {
    const timer = setInterval(revalidate, redrawMs);
    return () => clearInterval(timer);
  }, [revalidate]);
  return (
    <div>
      <section className={styles.touch} aria-label="Next up" data-attention={touch.attention}>
        <div>
          <p className="label">{floor.yours ? 'Next up for you' : 'Next up'}</p>
          <h1>{touch.to ? <Link to={touch.to}>{touch.say}</Link> : touch.say}</h1>
          <p>
            {touch.then}
            {touch.be.map((b) => ` Be at ${b.where} at ${hm(b.at)}.`)}
            {readyAt !== null && ` Everything should be done by ${hm(readyAt)}.`}
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
      {floor.backup && <BackupOverdue {...floor.backup} mayBackUp={floor.mayBackUp} />}
      <Moved moved={moved} undo={moves.undo} errors={moves.errors} />
      <Lanes lanes={lanes} read={read} horizonMs={horizonMs} by={floor.by} acts={{ place: setPlacing, move: moves.move }} />
      <div className={styles.foot}>
        <Choices ahead={floor.ahead} by={floor.by} />
        <Technicians technicians={floor.technicians} people={floor.people} most={floor.most} />
        <Aloud say={touch.say} />
        <Legend />
      </div>
      {unplanned > 0 && (
        <p className={styles.foot}>
          {unplanned === 1 ? 'One more open case has' : `${unplanned} more open cases have`} no place in the plan yet: it plans twelve at once, those
          in a run first.
        </p>
      )}
      {floor.others.length > 0 && <Others others={floor.others} />}
      {placed && (
        <Suspense>
          <PlaceDialog key={placed.id} of={placed} bays={bays} people={floor.people} close={() => setPlacing(null)} saved={moves.saved} />
        </Suspense>
      )}
    </div>
  );
}

/** A backup that should have been made long ago: whoever is at the Floor tells the owner. */
function BackupOverdue({ lastAt, everyHours, mayBackUp }: NonNullable<Route.ComponentProps['loaderData']['backup']> & { mayBackUp: boolean }) {
  const { day, hm } = useTimes();
  return (
    <p role="alert" className={styles.foot}>
      {lastAt === null ? 'No backup has been made yet' : `The last backup is of ${day(lastAt)}, ${hm(lastAt)}`}; one is due every {everyHours} h.{' '}
      {mayBackUp ? <Link to="/shop/backups">Backups</Link> : 'Tell the owner.'}
    </p>
  );
}

/** Cases without a lane, drawn when somebody wants to see them. */
function Others({ others }: Pick<FloorData, 'others'>) {
  const [open, setOpen] = useState(false);
  return (
    <details className={styles.others} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary>{others.length} open cases without a lane: in no bay, for anybody</summary>
      {open && (
        <ul>
          {others.map((o) => (
            <li key={o.id}>
              <Link to={`/cases/${o.id}`}>
                {o.number} {o.vehicle}
              </Link>{' '}
              <span className="quiet">{o.doing}</span>
            </li>
          ))}
        </ul>
      )}
    </details>
  );
}

type Case = PlacedCase;
/** Where a case goes. */
type To = Pick<Case, 'bayId' | 'technicianId'>;
/** A case as it stood before it was moved. */
interface Before {
  of: Case;
  say: string;
}

const placedIn = (lanes: FloorData['lanes'], id: number | null): PlacedCase | undefined => {
  const lane = lanes.find((l) => l.case?.id === id);
  return lane?.case ? { ...lane.case, technicianId: lane.technician?.id ?? '' } : undefined;
};

/** Moves cases between bays and people, and back again. */
function useMoves({ lanes, bays, people }: FloorData) {
  const act = useAct('place');
  const [before, setBefore] = useState<Before | null>(null);
  const [undone, setUndone] = useState(false);
  const nameOf = (bayId: string) => bays.find((b) => b.id === bayId)?.name ?? 'no bay';
  const whoIs = (id: string) => people.find((p) => p.id === id)?.name ?? 'anybody';
  const send = (of: Case, { bayId, technicianId }: To) =>
    act.sendJson({ intent: 'setPlace', caseId: of.id, bay: bayId, technician: technicianId, promisedAt: of.promisedAt ?? '' }, '/?index');
  return {
    moved: undone || act.busy ? null : before,
    errors: act.errors,
    move(caseId: number, to: Partial<To>) {
      const of = placedIn(lanes, caseId);
      if (!of || !(to.bayId === undefined || to.bayId === '' || bays.some((b) => b.id === to.bayId))) return;
      setUndone(false);
      setBefore({ of, say: `Case ${of.number}: ${to.bayId === undefined ? whoIs(to.technicianId ?? '') : nameOf(to.bayId)}.` });
      send(of, { bayId: of.bayId, technicianId: of.technicianId, ...to });
    },
    /** Bay, technician and promise were changed in their dialog. */
    saved(of: Case) {
      setUndone(false);
      setBefore({ of, say: `Case ${of.number} was changed.` });
    },
    undo() {
      if (!before) return;
      setUndone(true);
      send(before.of, before.of);
    },
  };
}

function Moved({ moved, undo, errors }: { moved: Before | null; undo: () => void; errors: Record<string, string | undefined> }) {
  const [problem] = Object.values(errors);
  return (
    <div role="status" className={problem || moved ? styles.moved : undefined}>
      {problem ? (
        <span>{problem}</span>
      ) : (
        moved && (
          <>
            <span>{moved.say}</span>
            <Button size="small" variant="outlined" color="inherit" onClick={undo}>
              Undo
            </Button>
          </>
        )
      )}
    </div>
  );
}

/** An hour ahead, or the day; lanes by bay, or by who works on them. */
function Choices({ ahead, by }: { ahead: Ahead; by: Grouping }) {
  const [params] = useSearchParams();
  const to = (name: 'ahead' | 'by', value: string) => {
    const next = new URLSearchParams(params);
    next.delete('index');
    if (value) next.set(name, value);
    else next.delete(name);
    return `/${next.size > 0 ? `?${next}` : ''}`;
  };
  const link = (name: 'ahead' | 'by', value: string, isHere: boolean, say: string) => (
    <Link to={to(name, value)} aria-current={isHere ? 'true' : undefined}>
      {say}
    </Link>
  );
  return (
    <>
      <nav aria-label="How far ahead" className={styles.choice}>
        {link('ahead', '', ahead === 'hour', 'next hour')}
        {link('ahead', 'day', ahead === 'day', '8 hours')}
      </nav>
      <nav aria-label="Lanes by" className={styles.choice}>
        {link('by', '', by === 'bay', 'by bay')}
        {link('by', 'technician', by === 'technician', 'by technician')}
      </nav>
    </>
  );
}

/** For how many, and for whom by name, the Floor plans; everybody in the shop sees the same. */
function Technicians({ technicians, people, most }: Pick<FloorData, 'technicians' | 'people'> & { most: number }) {
  const { sendJson, busy, errors } = useAct('technicians');
  const problem = errors.technicians ?? errors.person;
  const named = people.filter((p) => p.atWork);
  return (
    <div className={styles.technicians}>
      <label>
        technicians at work{' '}
        <select
          value={technicians}
          disabled={busy}
          onChange={(e) => sendJson({ intent: 'setTechnicians', technicians: Number(e.target.value) }, '/?index')}
          aria-invalid={problem !== undefined}
        >
          {Array.from({ length: most }, (_, i) => (
            <option key={i} value={i + 1}>
              {i + 1}
            </option>
          ))}
        </select>
      </label>
      <details>
        <summary>{named.length === 0 ? 'by name' : named.map((p) => p.name).join(', ')}</summary>
        <div role="group" aria-label="At work by name">
          {people.map((p) => (
            <button
              type="button"
              key={p.id}
              aria-pressed={p.atWork}
              disabled={busy}
              onClick={() => sendJson({ intent: 'setAtWork', person: p.id, atWork: !p.atWork }, '/?index')}
            >
              {p.name}
            </button>
          ))}
        </div>
      </details>
      {problem && <span role="alert"> {problem}</span>}
    </div>
  );
}
