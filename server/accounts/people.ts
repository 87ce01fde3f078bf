import { randomUUID } from 'node:crypto';
import { and, asc, eq, isNotNull, isNull, ne, sql } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import type { Db, Reader, Tx } from '../db/open';
import { audit, invitation, person, type PersonState, type Role } from '../db/schema';
import { refused } from '../base/expected';
import { type Cost, hashSecret, newToken, tokenHash, verifySecret } from '../base/secret';
import { endSessionsOf } from './sessions';
import { nameKey } from './signIn';
import { countTry, forgive } from './throttle';

/** How the ids of people begin who stand in cases that were taken over from another shop. */
export const fromElsewhere = 'elsewhere-';

/** How long a one-time link works. */
const linkMs = 3 * 24 * 60 * 60_000;

export const initialsOf = (name: string): string => {
  const words = name.trim().split(/\s+/);
  const letters = words.length > 1 ? [words[0]!, words.at(-1)!].map((w) => [...w][0]!) : [...(words[0] ?? '?')].slice(0, 2);
  return letters.join('').toUpperCase();
};

/** True until the first account exists; then set-up is over for good. */
export async function needsSetUp(db: Reader): Promise<boolean> {
  return (await db.select({ id: person.id }).from(person).where(isNotNull(person.password)).limit(1)).length === 0;
}

export const setUpOver = () => refused(403, 'setUpOver', 'This shop has been set up. Sign in, or ask its owner for a link.');

/** Creates the first account. @throws Refused 403 when there is one already */
export async function setUpOwner(tx: Tx, owner: { name: string; hash: string }, now: number): Promise<string> {
  // Two set-ups at the same moment wait for each other here.
  await tx.execute(sql`lock table person in share row exclusive mode`);
  if (!(await needsSetUp(tx))) throw setUpOver();
  const id = randomUUID();
  await addPerson(tx, { id, name: owner.name, role: 'owner' }, now);
  await tx.update(person).set({ state: 'active', password: owner.hash }).where(eq(person.id, id));
  await tx.insert(audit).values({ at: now, by: id, action: 'shop set up', detail: {} });
  return id;
}

async function addPerson(tx: Tx, { id, name, role }: { id: string; name: string; role: Role }, now: number): Promise<void> {
  const key = nameKey(name);
  if ((await tx.select({ id: person.id }).from(person).where(eq(person.nameKey, key))).length > 0)
    throw refused(409, 'nameTaken', 'Someone here already has this name. Add something to tell them apart.', 'name');
  await tx.insert(person).values({ id, name, initials: initialsOf(name), role, state: 'invited', nameKey: key, createdAt: now });
}

async function newLink(tx: Tx, personId: string, now: number): Promise<string> {
  await tx
    .update(invitation)
    .set({ usedAt: now })
    .where(and(eq(invitation.personId, personId), isNull(invitation.usedAt)));
  const token = newToken();
  await tx.insert(invitation).values({ id: tokenHash(token), personId, createdAt: now, expiresAt: now + linkMs });
  return token;
}

/** Invites a person. Returns the token of the one-time link, which is shown once and not kept. */
export async function invite(db: Db, act: Act, form: { name: string; role: Role }): Promise<{ name: string; token: string }> {
  const id = randomUUID();
  const token = await once(db, act, 'person invited', form, { person: id }, async (tx) => {
    await addPerson(tx, { id, ...form }, act.now);
    return newLink(tx, id, act.now);
  });
  return { name: form.name, token };
}

/** A new one-time link for somebody who forgot the password: the old password, the PIN and all their browsers end at once. */
export async function resetPerson(db: Db, act: Act, personId: string): Promise<{ name: string; token: string }> {
  return once(db, act, 'person reset', { personId }, { person: personId }, async (tx) => {
    const found = await personOf(tx, personId);
    await tx.update(person).set({ password: null, pin: null, state: 'invited' }).where(eq(person.id, personId));
    await keepAnOwner(tx);
    await endSessionsOf(tx, personId, act.now);
    return { name: found.name, token: await newLink(tx, personId, act.now) };
  });
}

export async function changeRole(db: Db, act: Act, form: { person: string; role: Role }): Promise<void> {
  await once(db, act, 'role changed', form, form, async (tx) => {
    await personOf(tx, form.person);
    await tx.update(person).set({ role: form.role }).where(eq(person.id, form.person));
    await keepAnOwner(tx);
  });
}

/** What somebody is trained for; the Floor plans the rest for others. @param trainings everything that can be said */
export async function setTraining(db: Db, act: Act, form: { person: string; trained: string[] }, trainings: readonly string[]): Promise<void> {
  const untrained = trainings.filter((t) => !form.trained.includes(t));
  const detail = { person: form.person, untrained };
  await once(db, act, 'training changed', detail, detail, async (tx) => {
    await personOf(tx, form.person);
    await tx.update(person).set({ untrained }).where(eq(person.id, form.person));
    await notify(tx, { what: 'case' });
  });
}

export async function lockPerson(db: Db, act: Act, personId: string): Promise<void> {
  await once(db, act, 'person locked', { personId }, { person: personId }, async (tx) => {
    await personOf(tx, personId);
    await tx.update(person).set({ state: 'locked' }).where(eq(person.id, personId));
    await keepAnOwner(tx);
    await endSessionsOf(tx, personId, act.now);
  });
}

export async function unlockPerson(db: Db, act: Act, personId: string): Promise<void> {
  await once(db, act, 'person unlocked', { personId, unlock: true }, { person: personId }, async (tx) => {
    const found = await personOf(tx, personId);
    await tx
      .update(person)
      .set({ state: found.password === null ? 'invited' : 'active' })
      .where(eq(person.id, personId));
  });
}

/** Answers of these acts may hold a one-time link, so the stored answer never does: a repeated one is refused instead of answered. */
async function once<T>(
  db: Db,
  act: Act,
  action: string,
  payload: unknown,
  detail: Record<string, unknown>,
  work: (tx: Tx) => Promise<T>,
): Promise<T> {
  let made: { value: T } | undefined;
  await actOnce(db, act, { right: 'managePeople', action, payload, detail }, async (tx) => {
    made = { value: await work(tx) };
    return null;
  });
  if (!made) throw refused(409, 'doneBefore', 'This was done before; its link was shown then. Make a new link if it is needed.');
  return made.value;
}

async function personOf(tx: Tx, id: string) {
  const [found] = await tx
    .select()
    .from(person)
    .where(and(eq(person.id, id), ne(person.state, 'recorded')))
    .for('update');
  if (!found) throw refused(404, 'noPerson', 'This person has no account. Check the list again.');
  return found;
}

async function keepAnOwner(tx: Tx): Promise<void> {
  const left = await tx
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.role, 'owner'), eq(person.state, 'active')))
    .limit(1);
  if (left.length === 0) throw refused(409, 'lastOwner', 'At least one owner must be able to sign in. Make another person owner first.');
}

export type Joining = { name: string; personId: string };

/** Whose one-time link this is, while it works. */
export async function findInvitation(db: Reader, token: string, now: number): Promise<Joining | undefined> {
  const [found] = await db
    .select()
    .from(invitation)
    .innerJoin(person, eq(invitation.personId, person.id))
    .where(eq(invitation.id, tokenHash(token)));
  if (!found || found.invitation.usedAt !== null || found.invitation.expiresAt <= now || found.person.state !== 'invited') return undefined;
  return { name: found.person.name, personId: found.person.id };
}

/** Sets the password with a one-time link, which then works no more. @throws Refused 403 for a link that is used, too old or unknown */
export async function join(db: Db, token: string, password: string, now: number, cost?: Cost): Promise<string> {
  const dead = () => refused(403, 'deadLink', 'This link was used before or is too old. Ask the owner for a new one.');
  // Looked at before anything is hashed: nobody makes the server work with a link that is none.
  if (!(await findInvitation(db, token, now))) throw dead();
  const hash = await hashSecret(password, cost);
  return db.transaction(async (tx) => {
    const [row] = await tx
      .update(invitation)
      .set({ usedAt: now })
      .where(and(eq(invitation.id, tokenHash(token)), isNull(invitation.usedAt)))
      .returning();
    const [who] =
      row && row.expiresAt > now
        ? await tx
            .select()
            .from(person)
            .where(and(eq(person.id, row.personId), eq(person.state, 'invited')))
        : [];
    if (!who) throw dead();
    await tx.update(person).set({ password: hash, state: 'active' }).where(eq(person.id, who.id));
    await tx.insert(audit).values({ at: now, by: who.id, action: 'password set by link', detail: {} });
    return who.id;
  });
}

/** Changes one's own password; other browsers of the person end. @throws Refused 403 when the present one is wrong */
export async function changePassword(db: Db, act: Act, form: { present: string; password: string }, cost?: Cost): Promise<void> {
  await proveOwn(db, act, form.present, cost);
  const hash = await hashSecret(form.password, cost);
  await actOnce(db, act, { right: 'ownAccount', action: 'password changed', payload: 'secret' }, async (tx) => {
    await tx.update(person).set({ password: hash }).where(eq(person.id, act.actor.id));
    await endSessionsOf(tx, act.actor.id, act.now);
    return null;
  });
}

/** Sets one's own PIN for devices at a bay. */
export async function setPin(db: Db, act: Act, form: { present: string; pin: string }, cost?: Cost): Promise<void> {
  await proveOwn(db, act, form.present, cost);
  const hash = await hashSecret(form.pin, cost);
  await actOnce(db, act, { right: 'ownAccount', action: 'PIN set', payload: 'secret' }, async (tx) => {
    await tx.update(person).set({ pin: hash }).where(eq(person.id, act.actor.id));
    return null;
  });
}

async function proveOwn(db: Db, act: Act, present: string, cost?: Cost): Promise<void> {
  const tried = { name: `own ${act.actor.id}`, address: `own ${act.actor.id}` };
  await countTry(db, tried, act.now);
  const [own] = await db.select({ password: person.password }).from(person).where(eq(person.id, act.actor.id));
  if (!(await verifySecret(present, own?.password ?? null, cost)))
    throw refused(403, 'wrongPassword', 'This is not your current password. Type it again.', 'present');
  await forgive(db, tried);
}

export interface Account {
  id: string;
  name: string;
  role: Role;
  state: PersonState;
  hasPin: boolean;
  /** Cautions whose work they are not trained for. */
  untrained: string[];
}

export async function listPeople(db: Reader): Promise<Account[]> {
  const rows = await db.select().from(person).where(ne(person.state, 'recorded')).orderBy(asc(person.name));
  return rows.map((p) => ({ id: p.id, name: p.name, role: p.role, state: p.state, hasPin: p.pin !== null, untrained: p.untrained }));
}
