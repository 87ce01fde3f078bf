import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { UNSAFE_DataRouterContext, useFetcher } from 'react-router';
import { type ShopUnits, type Times, timesIn, usUnits } from '../../core/units';
import type { Change } from '../../server/acts/live';
import type { ClockReading } from '../../server/services/clock';
import { type Concern, concernOf, lookAt, wider } from './concerns';
import { PageClock } from './pageClock';

export const Clock = createContext<PageClock | null>(null);
/** What the server hears of this page: it does; there is no connection; nobody is signed in here any more. */
export type Line = 'open' | 'lost' | 'signedOut';
const Connection = createContext<Line>('open');
export const Zone = createContext('UTC');
export const Units = createContext<ShopUnits>(usUnits);
const Revalidate = createContext<() => void>(() => {});
/** Whether the server can be reached: at once where the line to it stands, else by asking; `sure`: always by asking, for a line may have been cut a moment ago. */
export type Reach = (then: (reached: boolean) => void, options?: { sure?: boolean }) => void;
const Reached = createContext<Reach>((then) => then(true));

/** How often running times are drawn. */
export const tickMs = 250;
/** How often the offset is measured anew without any other reason. */
const measureMs = 60_000;
/** Time until the server is asked again after an answer that was lost, or whether somebody has signed in again. */
const againMs = 3_000;

/**
 * Looks again when something changed elsewhere, but never in the middle of a navigation or an act, and as an act that does nothing, after which the
 * router loads what is shown anew: a look of its own kind would end an act's way to another page (docs/decisions/live-updates-wait.md). The router's
 * own state is asked, since what React has rendered is older than that.
 */
function usePoliteRevalidation(clock: PageClock): (concern?: Concern) => void {
  const router = useContext(UNSAFE_DataRouterContext)?.router;
  const { submit } = useFetcher({ key: 'look' });
  const wanted = useRef<Concern>('nothing');
  const asking = useRef(false);
  const again = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** When it looked last, and when it looks for what is wanted. */
  const looked = useRef(-Infinity);
  const due = useRef(-Infinity);
  /** How long the server took for its last small answer, ms. */
  const answerMs = useRef(0);
  const attempt = useCallback(
    async function ask(): Promise<void> {
      const isFree = () => {
        if (!router) return false;
        const { navigation, revalidation, fetchers } = router.state;
        return navigation.state === 'idle' && revalidation === 'idle' && [...fetchers.values()].every((f) => f.state === 'idle');
      };
      if (wanted.current === 'nothing' || asking.current || !isFree()) return;
      const rests = due.current - performance.now();
      if (rests > 0) {
        clearTimeout(again.current);
        again.current = setTimeout(() => void ask(), rests);
        return;
      }
      asking.current = true;
      looked.current = performance.now();
      // Without a connection the look would replace the page by an error; what is shown stays right as it is.
      const answered = await clock.measure();
      answerMs.current = performance.now() - looked.current;
      asking.current = false;
      if (!answered) {
        // One answer that was lost is not the end of it: the line of changes may stand, and then nothing else would ask again.
        clearTimeout(again.current);
        again.current = setTimeout(() => void ask(), againMs);
        return;
      }
      // Whoever is signed out would be led away from what they typed; it is looked at again when somebody is signed in.
      if (clock.signedOut || !isFree()) return;
      // Read by unlessTimers (ui/looks.ts).
      const how = wanted.current === 'timers' ? { only: 1 } : null;
      wanted.current = 'nothing';
      void submit(how, { method: 'post', action: '/clock' });
    },
    [router, clock, submit],
  );
  useEffect(() => router?.subscribe(() => void attempt()), [router, attempt]);
  return useCallback(
    (concern: Concern = 'all') => {
      if (concern === 'nothing') return;
      const both = wider(wanted.current, concern);
      if (both !== wanted.current && both !== 'nothing')
        due.current = lookAt(both, { now: performance.now(), looked: looked.current, answerMs: answerMs.current, chance: Math.random() });
      wanted.current = both;
      void attempt();
    },
    [attempt],
  );
}

export function ClockProvider({
  reading,
  timeZone,
  units,
  children,
}: {
  reading: ClockReading;
  timeZone: string;
  units: ShopUnits;
  children: ReactNode;
}) {
  const [clock] = useState(() => new PageClock(reading));
  const [line, setLine] = useState<Line>('open');
  const revalidate = usePoliteRevalidation(clock);

  useEffect(() => {
    void clock.measure();
    const tick = setInterval(() => clock.tick(), tickMs);
    const measure = setInterval(() => void clock.measure(), measureMs);
    const wake = () => {
      if (document.visibilityState !== 'visible') return;
      revalidate();
    };
    document.addEventListener('visibilitychange', wake);
    const events = ['pageshow', 'focus', 'online'] as const;
    for (const name of events) window.addEventListener(name, wake);
    return () => {
      clearInterval(tick);
      clearInterval(measure);
      document.removeEventListener('visibilitychange', wake);
      for (const name of events) window.removeEventListener(name, wake);
    };
  }, [clock, revalidate]);

  useEffect(() => {
    let source: EventSource | null = null;
    let again: ReturnType<typeof setTimeout> | null = null;
    let lost = false;
    let over = false;
    const listen = () => {
      const own = (source = new EventSource('/live'));
      own.addEventListener('open', () => {
        setLine('open');
        // A change of the clock before this moment was not heard.
        void clock.measure();
        // What happened while the line was down was not heard.
        if (lost) revalidate();
        lost = false;
      });
      own.addEventListener('error', () => void broken(own));
      own.addEventListener('clock', (event) => clock.set(JSON.parse((event as MessageEvent<string>).data) as ClockReading));
      own.addEventListener('change', (event) =>
        revalidate(concernOf(JSON.parse((event as MessageEvent<string>).data) as Change, window.location.pathname)),
      );
    };
    /** The browser tries again by itself as long as the server is away; where it was refused, this does once somebody is signed in. */
    const broken = async (own: EventSource) => {
      lost = true;
      const answered = await clock.measure();
      if (over || own !== source) return;
      setLine(answered && clock.signedOut ? 'signedOut' : 'lost');
      if (own.readyState !== EventSource.CLOSED) return;
      again = setTimeout(() => (clock.signedOut ? void broken(own) : listen()), againMs);
    };
    listen();
    return () => {
      over = true;
      if (again !== null) clearTimeout(again);
      source?.close();
    };
  }, [clock, revalidate]);

  const lookAgain = useCallback(() => revalidate(), [revalidate]);

  const reach = useCallback<Reach>(
    (then, { sure = false } = {}) => {
      if (!sure && line !== 'lost' && navigator.onLine) then(true);
      else void clock.measure().then(then);
    },
    [line, clock],
  );

  return (
    <Clock value={clock}>
      <Zone value={timeZone}>
        <Units value={units}>
          <Revalidate value={lookAgain}>
            <Reached value={reach}>
              <Connection value={line}>{children}</Connection>
            </Reached>
          </Revalidate>
        </Units>
      </Zone>
    </Clock>
  );
}

/** Asks for fresh data as soon as nothing else is under way. */
export const useRevalidate = (): (() => void) => useContext(Revalidate);

export const useReach = (): Reach => useContext(Reached);

function usePageClock(): PageClock {
  const clock = useContext(Clock);
  if (!clock) throw new Error('No clock above this part');
  return clock;
}

/** The present moment, drawn four times a second. */
export function useNow(): number {
  const clock = usePageClock();
  return useSyncExternalStore(clock.subscribe, clock.shown, clock.shown);
}

/** Reads the clock at the moment of an act. */
export function useReadClock(): () => number {
  const clock = usePageClock();
  return useMemo(() => () => clock.now(), [clock]);
}

export const useLine = (): Line => useContext(Connection);

/** Clock times and days as the shop writes them, in its time zone; the same on server and page. */
export function useTimes(): Times {
  const zone = useContext(Zone);
  const units = useUnits();
  return useMemo(() => timesIn(zone, units), [zone, units]);
}

/** The shop's time zone. */
export const useZone = (): string => useContext(Zone);

/** How the shop writes distances, temperatures, times and dates. */
export const useUnits = (): ShopUnits => useContext(Units);
