import { lazy, Suspense, useSyncExternalStore, type ReactNode } from 'react';
import styles from './ladder.module.css';

/** Drawing needs the size of the page, so it waits for the browser; its scripts are only loaded where something is drawn. */
export const LadderChart = lazy(() => import('./Charts').then((m) => ({ default: m.LadderChart })));
export const WiggleChart = lazy(() => import('./Charts').then((m) => ({ default: m.WiggleChart })));

const noChanges = () => () => {};
export function Plot({ say, children }: { say: string; children: ReactNode }) {
  const drawn = useSyncExternalStore(
    noChanges,
    () => true,
    () => false,
  );
  return (
    <div className={styles.plot} role="img" aria-label={say}>
      {drawn && <Suspense fallback={<p className="quiet">Drawing …</p>}>{children}</Suspense>}
    </div>
  );
}
