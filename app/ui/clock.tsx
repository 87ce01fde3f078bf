import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { UNSAFE_DataRouterContext } from 'react-router';
import type { ClockReading } from '../../server/clock';
import { PageClock } from './pageClock';

const Clock = createContext<PageClock | null>(null);
const Connection = createContext(true);
const Zone = createContext('UTC');
const Look = createContext<() => void>(() => {});

/** How often running times are drawn. */
const tickMs = 250;
/** How often the offset is measured anew without any other reason. */
const measureMs = 60_000;

/**
 * Looks again when something changed elsewhere, but never in the middle of a navigation or an act: the router would take the look for a newer
 * navigation and drop the one that is under way (docs/decisions/live-updates-wait.md). The router's own state is asked, since what React has
 * rendered is older than that.
 */
function usePoliteRevalidation(clock: PageClock): () => void {
  const router = useContext(UNSAFE_DataRouterContext)?.router;
  const wanted = useRef(false);
  const asking = useRef(false);
  const attempt = useCallback(async () => {
    const isFree = () => {
      if (!router) return false;
      const { navigation, revalidation, fetchers } = router.state;
      return navigation.state === 'idle' && revalidation === 'idle' && [...fetchers.values()].every((f) => f.state === 'idle');
    };
    if (!wanted.current || asking.current || !isFree()) return;
    asking.current = true;
    // Without a connection the look would replace the page by an error; what is shown stays right as it is.
    const answered = await clock.measure();
    asking.current = false;
    if (!answered || !isFree()) return;
    wanted.current = false;
    void router?.revalidate();
  }, [router, clock]);
  useEffect(() => router?.subscribe(() => void attempt()), [router, attempt]);
  return useCallback(() => {
    wanted.current = true;
    void attempt();
  }, [attempt]);
}

export function ClockProvider({ reading, timeZone, children }: { reading: ClockReading; timeZone: string; children: ReactNode }) {
  const [clock] = useState(() => new PageClock(reading));
  const [connected, setConnected] = useState(true);
  const lookAgain = usePoliteRevalidation(clock);

  useEffect(() => {
    void clock.measure();
    const tick = setInterval(() => clock.tick(), tickMs);
    const measure = setInterval(() => void clock.measure(), measureMs);
    const wake = () => {
      if (document.visibilityState !== 'visible') return;
      lookAgain();
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
  }, [clock, lookAgain]);

  useEffect(() => {
    const source = new EventSource('/live');
    let lost = false;
    source.addEventListener('open', () => {
      setConnected(true);
      // A change of the clock before this moment was not heard.
      void clock.measure();
      // What happened while the line was down was not heard.
      if (lost) lookAgain();
      lost = false;
    });
    source.addEventListener('error', () => {
      lost = true;
      setConnected(false);
    });
    source.addEventListener('clock', (event) => clock.set(JSON.parse((event as MessageEvent<string>).data) as ClockReading));
    source.addEventListener('change', lookAgain);
    return () => source.close();
  }, [clock, lookAgain]);

  return (
    <Clock value={clock}>
      <Zone value={timeZone}>
        <Look value={lookAgain}>
          <Connection value={connected}>{children}</Connection>
        </Look>
      </Zone>
    </Clock>
  );
}

/** Asks for fresh data as soon as nothing else is under way. */
export const useLookAgain = (): (() => void) => useContext(Look);

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

export const useConnected = (): boolean => useContext(Connection);

/** Clock times as hh:mm in the shop's time zone, the same on server and page. */
export function useTimes(): { hm(ms: number): string; day(ms: number): string } {
  const zone = useContext(Zone);
  return useMemo(() => timesIn(zone), [zone]);
}

interface Times {
  hm(ms: number): string;
  hms(ms: number): string;
  day(ms: number): string;
}
/** Making a formatter takes as long as a query; there is one zone, that of the server. */
const made = new Map<string, Times>();

export function timesIn(timeZone: string): Times {
  const before = made.get(timeZone);
  if (before) return before;
  const hm = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' });
  const hms = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit', second: '2-digit' });
  const day = new Intl.DateTimeFormat('en-GB', { timeZone, weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' });
  const times: Times = { hm: (ms) => hm.format(ms), hms: (ms) => hms.format(ms), day: (ms) => day.format(ms) };
  made.set(timeZone, times);
  return times;
}
