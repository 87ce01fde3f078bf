import { readFileSync } from 'node:fs';
import { uptime } from 'node:os';
import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { clockDomain } from '../db/schema';

/** What a page needs to go on counting by itself. */
export interface ClockReading {
  now: number;
  /** Clock milliseconds for each real one; 0 for a clock that is moved by hand. */
  rate: number;
  /** Since this moment the time rests on the wall clock, because the machine was started anew; null: it does not. */
  wallSince: number | null;
}

/** The machine's own time: a count that survives jumps of the wall clock and restarts of this process. */
export interface Machine {
  wall(): number;
  /** Null where the system does not tell. */
  uptime(): { bootId: string; ms: number } | null;
  /** The wall clock is the same on every machine that serves this shop, so that going by it is nothing to tell. */
  shared?: boolean;
}

/** One boot has one id, so a process reads it once. Undefined: not read yet; null: the system does not tell. */
let boot: string | null | undefined;

export const thisMachine: Machine = {
  wall: () => Date.now(),
  uptime() {
    if (boot === undefined)
      try {
        boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
      } catch {
        boot = null;
      }
    return boot === null ? null : { bootId: boot, ms: Math.round(uptime() * 1000) };
  },
};

export interface Clock {
  read(): ClockReading;
  now(): number;
  /** Only on a clock that is moved by hand. @param told the rate that pages are told from now on: those that count by themselves meanwhile */
  advance(ms: number, told?: number): Promise<void>;
}

/**
 * Opens a clock domain. Its anchor (a moment of the domain, with the wall clock and the machine's uptime at that moment) and its rate are
 * stored, so a restart goes on where it was. In the same boot the elapsed time is the uptime's; otherwise the wall clock's, and the reading says so.
 */
export async function openClock(db: Db, domain: string, manual: boolean, machine: Machine = thisMachine): Promise<Clock> {
  const stored = (await db.select().from(clockDomain).where(eq(clockDomain.id, domain)))[0];
  const up = machine.uptime();
  const wall = machine.wall();
  const rate = manual ? 0 : 1;
  let now = stored?.anchorClock ?? wall;
  let wallSince = stored?.wallSince ?? null;
  if (stored && stored.rate !== 0) {
    const sameBoot = up !== null && stored.bootId === up.bootId && stored.anchorUptime !== null;
    now += Math.max(0, stored.rate * (sameBoot ? up.ms - stored.anchorUptime! : wall - stored.anchorWall));
    if (!sameBoot && !machine.shared) wallSince = stored.anchorClock;
  }
  const anchor = { anchorClock: Math.round(now), anchorWall: wall, bootId: up?.bootId ?? null, anchorUptime: up?.ms ?? null, rate, wallSince };
  await db
    .insert(clockDomain)
    .values({ id: domain, ...anchor })
    .onConflictDoUpdate({ target: clockDomain.id, set: anchor });

  let moved = anchor.anchorClock;
  let told = rate;
  const elapsed = () => {
    const current = machine.uptime();
    return current !== null && up !== null && current.bootId === up.bootId ? current.ms - up.ms : machine.wall() - wall;
  };
  const read = (): number => (rate === 0 ? moved : Math.round(anchor.anchorClock + rate * Math.max(0, elapsed())));
  return {
    now: read,
    read: () => ({ now: read(), rate: told, wallSince }),
    async advance(ms, goingOn = told) {
      if (rate !== 0) throw new Error('Only a manual clock can be advanced');
      moved += ms;
      told = goingOn;
      await db.update(clockDomain).set({ anchorClock: moved }).where(eq(clockDomain.id, domain));
    },
  };
}
