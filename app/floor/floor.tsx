import Button from '@mui/material/Button';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { parsePlace, parseTechnicians, setPlace, setTechnicians, mostTechnicians } from '../../server/floor/acts';
import { type Floor as FloorData, type Horizon as Ahead, readFloor } from '../../server/floor/floor';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { useRevalidate, useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/floor';
import { Aloud } from './Aloud';
import styles from './floor.module.css';
import { Lanes, Legend } from './Lanes';
import { noteWords } from './words';

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
export default function Floor({ loaderData: floor }: Route.ComponentProps) {
  const { lanes, touch, now: read, horizonMs, notes, readyAt, bays, unplanned } = floor;
  const { hm } = useTimes();
  const revalidate = useRevalidate();
  const [placing, setPlacing] = useState<number | null>(null);
  const placed = lanes.find((l) => l.case?.id === placing)?.case;
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
          <p className="label">Next up</p>
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
      <Moved moved={moved} undo={moves.undo} errors={moves.errors} />
      <Lanes lanes={lanes} read={read} horizonMs={horizonMs} acts={{ place: setPlacing, move: moves.move }} />
      <div className={styles.foot}>
        <Horizon ahead={floor.ahead} />
        <Technicians technicians={floor.technicians} most={floor.most} />
        <Aloud say={touch.say} />
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
          <PlaceDialog key={placed.id} of={placed} bays={bays} close={() => setPlacing(null)} saved={moves.saved} />
        </Suspense>
      )}
    </div>
  );
}

type Case = NonNullable<FloorData['lanes'][number]['case']>;
/** A case as it stood before it was moved. */
interface Before {
  of: Case;
  say: string;
}

/** Moves cases between bays, and back again. */
function useMoves({ lanes, bays }: FloorData) {
  const act = useAct('place');
  const [before, setBefore] = useState<Before | null>(null);
  const [undone, setUndone] = useState(false);
  const nameOf = (bayId: string) => bays.find((b) => b.id === bayId)?.name ?? 'no bay';
  const send = (of: Case, bay: string) => act.sendJson({ intent: 'setPlace', caseId: of.id, bay, promisedAt: of.promisedAt ?? '' }, '/?index');
  return {
    moved: undone || act.busy ? null : before,
    errors: act.errors,
    move(caseId: number, bayId: string) {
      const of = lanes.find((l) => l.case?.id === caseId)?.case;
      if (!of || !(bayId === '' || bays.some((b) => b.id === bayId))) return;
      setUndone(false);
      setBefore({ of, say: `Case ${of.number}: ${nameOf(bayId)}.` });
      send(of, bayId);
    },
    /** Bay and promise were changed in their dialog. */
    saved(of: Case) {
      setUndone(false);
      setBefore({ of, say: `Case ${of.number}: bay and promise changed.` });
    },
    undo() {
      if (!before) return;
      setUndone(true);
      send(before.of, before.of.bayId);
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
