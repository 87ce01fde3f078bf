// Who works here, and how they sign in.
import { boolean, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { moment } from './columns';

/** Each has the rights of those before it. */
export const roles = ['technician', 'lead', 'owner'] as const;
export type Role = (typeof roles)[number];

/** `recorded`: stands in records only (from another shop, or from before there were accounts) and can never sign in. */
export type PersonState = 'invited' | 'active' | 'locked' | 'recorded';

export const person = pgTable('person', {
  id: text().primaryKey(),
  name: text().notNull(),
  initials: text().notNull(),
  role: text().$type<Role>().notNull().default('technician'),
  state: text().$type<PersonState>().notNull().default('recorded'),
  /** The name as sign-in compares it; only people with an account have one. */
  nameKey: text('name_key').unique(),
  /** Hashes of server/base/secret.ts. */
  password: text('passphrase'),
  pin: text(),
  /** At work at the cars now: the Floor plans for them by name. */
  atWork: boolean('at_work').notNull().default(false),
  /** Cautions whose work they are not trained for: the Floor plans it for others. */
  untrained: text().array().notNull().default([]),
  createdAt: moment('created_at').notNull().default(0),
});

/** Table. A browser that is signed in. The browser holds a random token; here stands only its hash. */
export const session = pgTable(
  'session',
  {
    id: text().primaryKey(),
    personId: text('person_id')
      .notNull()
      .references(() => person.id),
    /** Browser and system in plain words, for the list of devices. */
    device: text().notNull(),
    address: text().notNull(),
    /** Stays signed in at a bay: locks instead of ending, and is unlocked by PIN. */
    atBay: boolean('at_bay').notNull(),
    locked: boolean().notNull().default(false),
    pinFailures: integer('pin_failures').notNull().default(0),
    createdAt: moment('created_at').notNull(),
    /** Last sign of a person at this browser. */
    touchedAt: moment('touched_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [index('session_person').on(t.personId)],
);

/** Table. A one-time link with which a person sets a password; only the hash of its token is kept. */
export const invitation = pgTable('invitation', {
  id: text().primaryKey(),
  personId: text('person_id')
    .notNull()
    .references(() => person.id),
  createdAt: moment('created_at').notNull(),
  expiresAt: moment('expires_at').notNull(),
  usedAt: moment('used_at'),
});

/** Table. Wrong tries by name and by address (server/accounts/throttle.ts). */
export const failedTries = pgTable('failed_tries', {
  id: text().primaryKey(),
  count: integer().notNull(),
  lastAt: moment('last_at').notNull(),
  blockedUntil: moment('blocked_until').notNull(),
});
