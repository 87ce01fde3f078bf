import ContrastOutlined from '@mui/icons-material/ContrastOutlined';
import { useColorScheme } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { formatDuration, formatLeft } from '../../core/units';
import type { StripClock } from '../../server/runs/strip';
import { useLine, useRevalidate, useNow, useTimes } from '../ui/clock';
import { useKeys } from '../ui/keys';
import { PersonMenu } from './PersonMenu';
import type { ShellPerson } from './PersonMenuItems';
import { usePlace } from './place';
import styles from './Strip.module.css';

interface Props {
  clocks: StripClock[];
  /** Runs beyond those. */
  more: number;
  person: ShellPerson;
  demo: boolean;
  wallSince: number | null;
}

/** One line over every page: where am I, the running waits of the shop, find, who, colour scheme. */
export function Strip({ clocks, more, person, demo, wallSince }: Props) {
  const { title, detail } = usePlace();
  const navigate = useNavigate();
  const line = useLine();
  const { pathname, search } = useLocation();
  // The page that one looks at shows its own wait.
  const others = clocks.filter((c) => c.to !== pathname && c.to !== pathname + search);
  useKeys([{ keys: '/', shown: '/', say: 'find', act: () => void navigate('/find') }]);
  return (
    <header className={styles.strip}>
      <div className={styles.place}>
        <span className={styles.title}>{title}</span>
        <span className={styles.detail}>{detail}</span>
      </div>
      {line !== 'open' && (
        <span className={styles.alone} role="status">
          {line === 'lost' ? (
            'No connection. Timers keep running here.'
          ) : (
            <>
              You are signed out here. What you typed stays.{' '}
              <a href="/sign-in" target="_blank" rel="noopener">
                Sign in in a new tab
              </a>
              , then continue here.
            </>
          )}
        </span>
      )}
      {wallSince !== null && <WallNote since={wallSince} />}
      {demo && <span className={styles.demo}>Demo data</span>}
      <ul className={styles.clocks} aria-label="Running waits">
        {others.map((c) => (
          <li key={c.id}>
            <StripClockLink clock={c} />
          </li>
        ))}
        {more > 0 && (
          <li>
            <Link to="/" className={styles.more}>
              {more} more
            </Link>
          </li>
        )}
      </ul>
      <Link to="/find" className={styles.tool} aria-label="Find">
        <span className="mono" aria-hidden="true">
          /
        </span>
      </Link>
      <SchemeSwitch />
      <PersonMenu person={person} />
    </header>
  );
}

function WallNote({ since }: { since: number }) {
  const { hm } = useTimes();
  return <span className={styles.alone}>The computer was restarted: since {hm(since)} timers rely on its wall clock.</span>;
}

/** Attention grows with time by itself, so it is worked out here from the moments and not only on the server. */
function StripClockLink({ clock }: { clock: StripClock }) {
  const now = useNow();
  const revalidate = useRevalidate();
  const { wait } = clock;
  const over = wait !== null && now >= wait.until;
  const asked = useRef(false);
  useEffect(() => {
    // A wait that needs nobody ends by itself: ask once what comes next.
    if (over && clock.attention === 'none' && !asked.current) {
      asked.current = true;
      revalidate();
    }
    if (!over) asked.current = false;
  }, [over, clock.attention, revalidate]);
  const low = clock.batteryAt !== null && now >= clock.batteryAt;
  const own = !wait
    ? clock.attention
    : wait.redAt !== null && now >= wait.redAt
      ? 'red'
      : wait.amberAt !== null && now >= wait.amberAt
        ? 'amber'
        : over
          ? wait.kind === 'most'
            ? 'red'
            : 'due'
          : clock.attention;
  const attention = low && own !== 'red' ? 'amber' : own;
  const share = wait ? Math.min(1, Math.max(0, (wait.until - now) / Math.max(1, wait.until - wait.startedAt))) : 0;
  return (
    <Link to={clock.to} className={styles.clock} data-attention={attention}>
      <span className={styles.line}>
        <span className={`mono ${styles.time}`}>
          {wait ? (over ? `+${formatDuration((now - wait.until) / 1000)}` : formatLeft(wait.until - now)) : 'now'}
        </span>
        <span className={styles.where} aria-hidden="true">
          {clock.bay}
        </span>
        <span className="hidden">{clock.where}</span>
      </span>
      {/* Short, so that it is seen whole; the sentence is for those who hear it. */}
      <span className={styles.act} aria-hidden="true">
        {low ? 'battery low' : attention === 'none' ? (clock.round?.toLowerCase() ?? 'wait') : 'your turn'}
      </span>
      <span className="hidden">
        {low ? 'the battery is getting low, ' : ''}
        {clock.round ? `${clock.round.toLowerCase()}, ` : ''}
        {clock.instruction}
      </span>
      <span className={styles.bar} style={{ width: `${100 * share}%` }} />
    </Link>
  );
}

function SchemeSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const shown = mode === 'system' ? systemMode : mode;
  return (
    <button
      type="button"
      className={styles.tool}
      aria-label={shown === 'dark' ? 'Light colors' : 'Dark colors'}
      onClick={() => setMode(shown === 'dark' ? 'light' : 'dark')}
    >
      <ContrastOutlined fontSize="small" aria-hidden="true" />
    </button>
  );
}
