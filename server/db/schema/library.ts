// Versions of what the library holds.
import { integer, json, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import type { DocumentBody, DocumentKind } from '../../../content/reader';
import { moment } from './columns';
import { person } from './people';

/** Table. Every version of every library document; rows are never changed. `body` is json, not jsonb: the order of answers is their order on screen. */
export const document = pgTable(
  'document',
  {
    kind: text().$type<DocumentKind>().notNull(),
    id: text().notNull(),
    version: integer().notNull(),
    hash: text().notNull(),
    /** `case`: came with a case of another shop, and is only there for it. */
    origin: text().$type<'shipped' | 'shop' | 'case'>().notNull(),
    body: json().$type<DocumentBody>().notNull(),
    enteredAt: moment('entered_at').notNull(),
    /** Who saved it; nobody for what is shipped. */
    by: text().references(() => person.id),
  },
  (t) => [primaryKey({ columns: [t.kind, t.id, t.version] })],
);

/** Table. Documents of the shop that are not offered any more; the cases that were worked with them keep them. */
export const retiredDocument = pgTable(
  'retired_document',
  {
    kind: text().$type<DocumentKind>().notNull(),
    id: text().notNull(),
    at: moment('at').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
  },
  (t) => [primaryKey({ columns: [t.kind, t.id] })],
);
