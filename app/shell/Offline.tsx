import { lazy, type ReactNode, Suspense, useCallback, useContext, useEffect, useMemo, useRef, useState } from 'react';
import { useLocation } from 'react-router';
import type { ActBox } from '../offline/actBox';
import { type ActsHere, noActs } from '../offline/acts';
import { mayWait } from '../offline/later';
import { useReach, useReadClock, useRevalidate } from '../ui/clock';
import { LaterActs, Sending } from '../ui/sending';
import styles from './shell.module.css';

const NotSentYet = lazy(() => import('./NotSentYet'));

/** How long it is said that nothing was sent, milliseconds. */
const saidMs = 8000;

/**
 * What every page does for when there is no connection: it sends what waits, is kept, keeps what may arrive later, and says what can't be done now where that is
 * pressed.
 */
export function Offline({ person, children }: { person: string; children: ReactNode }) {
  const [told, setTold] = useState(0);
  const notSent = useCallback(() => setTold((n) => n + 1), []);
  const { pathname, search } = useLocation();
  useEffect(() => {
    let stop: (() => void) | undefined;
    let over = false;
    void import('../offline/kept').then(({ keepSoon }) => {
      if (!over) stop = keepSoon(pathname + search);
    });
    return () => {
      over = true;
      stop?.();
    };
  }, [pathname, search]);
  useFormsWait(notSent);
  useEffect(() => {
    if (told === 0) return;
    const over = setTimeout(() => setTold(0), saidMs);
    return () => clearTimeout(over);
  }, [told]);
  const { acts, sending } = useActBox(person, notSent);
  return (
    <Sending value={sending}>
      <LaterActs value={acts}>
        {children}
        {told > 0 && (
          <p className={styles.notSent} role="alert" key={told}>
            No connection: nothing was sent. What you typed stays here. Try again when the connection is back.
          </p>
        )}
      </LaterActs>
    </Sending>
  );
}

/** What lies on this device for the server, where anything does. */
export function LaterHere() {
  const { waiting, refused, arrived } = useContext(LaterActs);
  if (waiting.length + refused.length + arrived.length === 0) return null;
  return (
    <Suspense>
      <NotSentYet />
    </Suspense>
  );
}

/** What may arrive later, as it lies on this device. */
function useActBox(person: string, notSent: () => void): { acts: ActsHere; sending: Sending } {
  const [acts, setActs] = useState(noActs);
  /** From the first moment, so that what is kept before it is loaded is kept all the same. */
  const box = useRef<Promise<ActBox> | null>(null);
  const now = useReadClock();
  const revalidate = useRevalidate();
  useEffect(() => {
    let stop: (() => void) | undefined;
    let over = false;
    // What is only needed when nobody waits for it comes after the page.
    void import('./NotSentYet');
    const opened = import('../offline/browser').then(({ actBox, outbox }) => {
      void outbox().start(person);
      const acts = actBox();
      if (!over) stop = acts.subscribe(() => setActs(acts.here()));
      void acts.start(person);
      return acts;
    });
    box.current = opened;
    // Nothing waits for it, and where it did not come each act says so.
    opened.catch(() => {});
    return () => {
      over = true;
      stop?.();
    };
  }, [person]);
  const arrived = acts.arrived.length;
  useEffect(() => {
    if (arrived > 0) revalidate();
  }, [arrived, revalidate]);
  const sending = useMemo(
    (): Sending => ({
      notSent,
      keep(act, id) {
        if (!mayWait(act.address, act.fields.intent) || !box.current) return notSent();
        const kept = { ...act, page: act.page ?? window.location.pathname + window.location.search, id, at: now() };
        box.current.then((acts) => void acts.add(kept), notSent);
      },
      discard: (id) => void box.current?.then((acts) => acts.discard(id)),
      read: () => void box.current?.then((acts) => acts.read()),
    }),
    [notSent, now],
  );
  return { acts, sending };
}

/** Forms that the router sends by itself wait for the same question; one that may go is sent as if nobody had asked. */
function useFormsWait(notSent: () => void): void {
  const reach = useReach();
  const free = useRef<HTMLFormElement | null>(null);
  useEffect(() => {
    const ask = (event: SubmitEvent) => {
      const form = event.target as HTMLFormElement;
      if (form.method !== 'post') return;
      if (free.current === form) {
        free.current = null;
        return;
      }
      const { submitter } = event;
      let answered: boolean | undefined;
      let later = false;
      reach((reached) => {
        answered = reached;
        if (!later) return;
        if (!reached) return notSent();
        free.current = form;
        form.requestSubmit(submitter);
      });
      // Answered at once: it goes its way.
      if (answered) return;
      event.preventDefault();
      event.stopPropagation();
      later = true;
    };
    document.addEventListener('submit', ask, true);
    return () => document.removeEventListener('submit', ask, true);
  }, [reach, notSent]);
}
