import type { ShopUnits } from '../../core/units';
import type { ReactNode } from 'react';
import type { StripClock } from '../../server/runs/strip';
import type { ClockReading } from '../../server/services/clock';
import { ClockProvider } from '../ui/clock';
import { KeysProvider } from '../ui/keys';
import { useOneClick } from '../ui/oneClick';
import { LaterHere, Offline } from './Offline';
import { Presence } from './Presence';
import { Rail } from './Rail';
import styles from './shell.module.css';
import { Strip } from './Strip';

export interface ShellData {
  clocks: StripClock[];
  /** Runs beyond those. */
  more: number;
  clock: ClockReading;
  person: { id: string; name: string; initials: string; role: string; atBay: boolean };
  timeZone: string;
  units: ShopUnits;
  demo: boolean;
  /** When a device at a bay locks, unless somebody is there; milliseconds of the clock. */
  locksAt: number | null;
}

/** Rail and strip round every page, errors of a page included. */
export function Frame({ shell, children }: { shell: ShellData; children: ReactNode }) {
  useOneClick();
  return (
    <ClockProvider reading={shell.clock} timeZone={shell.timeZone} units={shell.units}>
      <KeysProvider>
        <Presence locksAt={shell.locksAt} />
        <Offline person={shell.person.id}>
          <div className={styles.shell}>
            <a className={styles.skip} href="#main">
              Skip to content
            </a>
            <Rail />
            <Strip clocks={shell.clocks} more={shell.more} person={shell.person} demo={shell.demo} wallSince={shell.clock.wallSince} />
            <main id="main" className={styles.main} tabIndex={-1}>
              <LaterHere />
              {children}
            </main>
          </div>
        </Offline>
      </KeysProvider>
    </ClockProvider>
  );
}
