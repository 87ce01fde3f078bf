// What is sealed: never the text of it, and never a key.
import { bigint, index, integer, pgTable, text } from 'drizzle-orm/pg-core';
import { caseFile } from './cases';
import { binary, moment } from './columns';
import { person } from './people';

export const sealedKinds = ['memory', 'secret', 'photo', 'capture'] as const;
export type SealedKind = (typeof sealedKinds)[number];
/** What becomes of an item at hand-over. */
export const dispositions = ['kept', 'given', 'destroyed'] as const;
export type Disposition = (typeof dispositions)[number];

/** Table. One sealed item. Its key is in a file beside the database (server/vault/keyStore.ts); where that is gone, nobody opens it. */
export const sealed = pgTable(
  'sealed',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    name: text().notNull(),
    kind: text().$type<SealedKind>().notNull(),
    /** Name of the file it came from; empty for what was typed. */
    file: text().notNull(),
    /** Bytes of what is sealed. */
    size: integer().notNull(),
    /** SHA-256 of a memory file, for comparing; empty for anything that could be guessed from it. */
    digest: text().notNull(),
    /** Nonce, sealed text and tag; null once it is destroyed. */
    envelope: binary(),
    reason: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
    disposition: text().$type<Disposition>(),
    /** The end of the day until which it is kept. */
    keepUntil: bigint('keep_until', { mode: 'number' }),
    /** Who asked for it to be destroyed, when and why; its key is removed after that. */
    destroyedBy: text('destroyed_by').references(() => person.id),
    destroyedAt: bigint('destroyed_at', { mode: 'number' }),
    destroyedWhy: text('destroyed_why'),
    /** Wrong entries that were compared with it one after the other, and when the last one was. */
    wrongTries: integer('wrong_tries').notNull().default(0),
    wrongAt: bigint('wrong_at', { mode: 'number' }),
  },
  (t) => [index('sealed_case').on(t.caseId)],
);

/** Table. Somebody asks for an item, somebody else releases it: where the owner wants two people. */
export const release = pgTable(
  'release',
  {
    id: text().primaryKey(),
    sealedId: text('sealed_id')
      .notNull()
      .references(() => sealed.id),
    reason: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
    grantedBy: text('granted_by').references(() => person.id),
    grantedAt: bigint('granted_at', { mode: 'number' }),
    usedAt: bigint('used_at', { mode: 'number' }),
  },
  (t) => [index('release_sealed').on(t.sealedId)],
);

/** Table. A code that brings an item to a second device of the shop once; only its hash is here. */
export const passing = pgTable(
  'passing',
  {
    hash: text().primaryKey(),
    sealedId: text('sealed_id')
      .notNull()
      .references(() => sealed.id),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
    usedBy: text('used_by').references(() => person.id),
    usedAt: bigint('used_at', { mode: 'number' }),
  },
  (t) => [index('passing_sealed').on(t.sealedId)],
);
