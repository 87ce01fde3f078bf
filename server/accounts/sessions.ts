import Bowser from 'bowser';
import { and, desc, eq, isNull, lt, sql } from 'drizzle-orm';
import type { Keeping } from '../db/kept';
import type { Db, Reader, Tx } from '../db/open';
import { audit, person, session } from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import type { Person } from '../acts/rights';
import { newToken, tokenHash, verifySecret } from '../base/secret';

const minute = 60_000;
/** How long a browser stays signed in: without a sign of a person, and at most. */
export const limits = {
  idleMs: 12 * 60 * minute,
  absoluteMs: 7 * 24 * 60 * minute,
  /** A device at a bay locks instead of ending. */
  bayLockMs: 20 * minute,
  bayAbsoluteMs: 30 * 24 * 60 * minute,
  /** Signs of a person are written down at most this often. */
  touchMs: minute,
} as const;
/** Wrong PINs before the password is asked for. */
export const pinTries = 5;

export interface Session {
  id: string;
  person: Person;
  atBay: boolean;
  locked: boolean;
  touchedAt: number;
  createdAt: number;
}

export interface Browser {
  /** The user agent it states. */
  agent: string;
  address: string;
}

/** Browser and system in plain words. Only told to people; nothing depends on it. */
export function deviceName(agent: string): string {
  const { browser, os, platform } = Bowser.parse(agent || ' ');
  return [browser.name || 'browser', os.name, kinds[platform.type ?? ''] ?? 'device'].filter(Boolean).join(', ');
}
const kinds: Readonly<Record<string, string>> = { mobile: 'phone', tablet: 'tablet', desktop: 'computer' };

/** Begins a session under a new id; one that the same browser had before ends. Returns the token for the cookie. */
export async function beginSession(tx: Tx, personId: string, browser: Browser, atBay: boolean, now: number, before?: string): Promise<string> {
  if (before)
    await tx
      .update(session)
      .set({ endedAt: now })
      .where(and(eq(session.id, tokenHash(before)), isNull(session.endedAt)));
  const token = newToken();
  await tx.insert(session).values({
    id: tokenHash(token),
    personId,
    device: deviceName(browser.agent.slice(0, 300)),
    address: browser.address.slice(0, 64),
    atBay,
    createdAt: now,
    touchedAt: now,
  });
  return token;
}

/** The session of a cookie, if it is one that still counts. Every request asks for it, so its row is kept until sessions or people change. */
export async function findSession({ database: { db }, kept }: Keeping, token: string | undefined, now: number): Promise<Session | undefined> {
  if (token === undefined || token === '') return undefined;
  const id = tokenHash(token);
  const [found] = await kept.read(`session ${id}`, [session, person], () =>
    db.select().from(session).innerJoin(person, eq(session.personId, person.id)).where(eq(session.id, id)),
  );
  if (!found) return undefined;
  const { session: s, person: p } = found;
  if (s.endedAt !== null || p.state !== 'active') return undefined;
  const quiet = now - s.touchedAt;
  if (now - s.createdAt >= (s.atBay ? limits.bayAbsoluteMs : limits.absoluteMs)) return undefined;
  if (!s.atBay && quiet >= limits.idleMs) return undefined;
  const locked = s.atBay && (s.locked || quiet >= limits.bayLockMs);
  // Without a PIN there is nothing to unlock it with.
  if (locked && p.pin === null) return undefined;
  return {
    id: s.id,
    person: { id: p.id, name: p.name, initials: p.initials, role: p.role },
    atBay: s.atBay,
    locked,
    touchedAt: s.touchedAt,
    createdAt: s.createdAt,
  };
}

/** Writes down that a person is at this browser. */
export async function touch(db: Db, found: Session, now: number): Promise<void> {
  if (!found.locked && now - found.touchedAt >= limits.touchMs) await db.update(session).set({ touchedAt: now }).where(eq(session.id, found.id));
}

export async function lockSession(db: Db, found: Session): Promise<void> {
  if (!found.atBay) return;
  await db.update(session).set({ locked: true }).where(eq(session.id, found.id));
  await notify(db, { what: 'session', session: found.id });
}

/**
 * Unlocks a device at a bay.
 * @throws Refused 403 for a wrong PIN; after the last try the session has ended and the password is needed
 */
export async function unlockSession(db: Db, found: Session, pin: string, now: number): Promise<void> {
  // One statement counts the try, before the PIN is compared: of any number made at the same moment each gets a count of its own.
  const [counted] = await db
    .update(session)
    .set({ pinFailures: sql`${session.pinFailures} + 1` })
    .where(and(eq(session.id, found.id), isNull(session.endedAt), lt(session.pinFailures, pinTries)))
    .returning({ failures: session.pinFailures });
  if (!counted) throw refused(403, 'pinUsedUp', 'No PIN tries are left. Sign in with the password.', 'pin');
  const [owner] = await db.select({ pin: person.pin }).from(person).where(eq(person.id, found.person.id));
  if (await verifySecret(pin, owner?.pin ?? null)) {
    await db
      .update(session)
      .set({ locked: false, pinFailures: 0, touchedAt: now })
      .where(and(eq(session.id, found.id), isNull(session.endedAt)));
    return;
  }
  const left = pinTries - counted.failures;
  if (left > 0) throw refused(403, 'wrongPin', `Wrong PIN. ${left === 1 ? 'One try is left.' : `${left} tries are left.`}`, 'pin');
  await db.transaction(async (tx) => {
    await endSession(tx, found.id, now);
    await tx.insert(audit).values({ at: now, by: found.person.id, action: 'device signed out after wrong PINs', detail: {} });
  });
  throw refused(403, 'pinUsedUp', 'Wrong PIN, and no tries are left. Sign in with the password.', 'pin');
}

export async function endSession(db: Pick<Tx, 'update' | 'execute'>, id: string, now: number): Promise<void> {
  await db
    .update(session)
    .set({ endedAt: now })
    .where(and(eq(session.id, id), isNull(session.endedAt)));
  await notify(db, { what: 'session', session: id });
}

/** All browsers of a person end, but the one that is kept. */
export async function endSessionsOf(tx: Tx, personId: string, now: number): Promise<void> {
  await tx
    .update(session)
    .set({ endedAt: now })
    .where(and(eq(session.personId, personId), isNull(session.endedAt)));
  await notify(tx, { what: 'session' });
}

/** Forgets browsers that can't be signed in any more, however they were used: their addresses are nobody's business. The audit log keeps who signed in. */
export async function forgetSessions(db: Pick<Db, 'delete'>, now: number): Promise<void> {
  await db.delete(session).where(lt(session.createdAt, now - Math.max(limits.absoluteMs, limits.bayAbsoluteMs)));
}

export interface Device {
  id: string;
  person: string;
  device: string;
  address: string;
  atBay: boolean;
  createdAt: number;
  touchedAt: number;
}

/** Browsers that are signed in, of one person or of all, the latest first. The ids are hashes; no cookie can be made of them. */
export async function listDevices(db: Reader, now: number, personId?: string): Promise<Device[]> {
  const rows = await db
    .select()
    .from(session)
    .innerJoin(person, eq(session.personId, person.id))
    .where(and(isNull(session.endedAt), ...(personId ? [eq(session.personId, personId)] : [])))
    .orderBy(desc(session.touchedAt));
  return rows
    .filter(({ session: s, person: p }) => {
      const age = now - s.createdAt;
      return p.state === 'active' && (s.atBay ? age < limits.bayAbsoluteMs : age < limits.absoluteMs && now - s.touchedAt < limits.idleMs);
    })
    .map(({ session: s, person: p }) => ({
      id: s.id,
      person: p.name,
      device: s.device,
      address: s.address,
      atBay: s.atBay,
      createdAt: s.createdAt,
      touchedAt: s.touchedAt,
    }));
}
