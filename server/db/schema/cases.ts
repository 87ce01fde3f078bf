// A case: the vehicle or the parts, the people, and everything that came with them.
import { sql } from 'drizzle-orm';
import { type AnyPgColumn, boolean, doublePrecision, index, integer, json, pgTable, primaryKey, serial, text } from 'drizzle-orm/pg-core';
import type { Scan } from '../../../core/codes';
import type { Learned } from '../../../core/diagnosis';
import type { OptionEntry } from '../../../core/options';
import type { JobEntry } from '../../../core/replacement';
import type { DocumentPin } from '../../../core/library';
import { binary, moment, searchWords, versioned } from './columns';
import { person } from './people';
import { clockDomain, bay } from './shop';

/** Table. Names and phone numbers of people outside the shop stand by themselves, so that they can be exported and erased. */
export const customer = pgTable('customer', {
  id: serial().primaryKey(),
  name: text().notNull(),
  phone: text().notNull(),
  erasedAt: moment('erased_at'),
});

export type CaseKind = 'vehicle' | 'parts';
export type CaseState = 'open' | 'parked' | 'closed';

export const caseFile = pgTable(
  'case_file',
  {
    id: serial().primaryKey(),
    /** The same in every shop that has taken the case over. */
    uid: text()
      .notNull()
      .unique()
      .default(sql`gen_random_uuid()::text`),
    domain: text()
      .notNull()
      .references(() => clockDomain.id),
    kind: text().$type<CaseKind>().notNull().default('vehicle'),
    state: text().$type<CaseState>().notNull(),
    bayId: text('bay_id').references(() => bay.id),
    customerId: integer('customer_id').references(() => customer.id),
    vehicle: text().notNull(),
    year: integer(),
    identification: text().notNull(),
    plate: text().notNull(),
    words: text().notNull(),
    changed: json().$type<{ what: string; note: string; on?: string }[]>().notNull(),
    symptoms: json().$type<string[]>().notNull(),
    /** After how many seconds it dies, how often it fails, the words in the dash; shapes of server/cases/intake.ts. */
    complaint: json().$type<Complaint>().notNull().default({}),
    /** The state in which the vehicle came. */
    condition: json().$type<Condition>().notNull().default({}),
    familyId: text('family_id').notNull(),
    familyVersion: integer('family_version').notNull(),
    familyHash: text('family_hash').notNull(),
    profileId: text('profile_id'),
    profileVersion: integer('profile_version'),
    profileHash: text('profile_hash'),
    openedAt: moment('opened_at').notNull(),
    openedBy: text('opened_by')
      .notNull()
      .references(() => person.id),
    /** When it is promised to be ready: this shop's own, it does not go with the case. */
    promisedAt: moment('promised_at'),
    /** Who works on it; null: anybody. This shop's own as well. */
    technicianId: text('technician_id').references(() => person.id),
    closedAt: moment('closed_at'),
    closedBy: text('closed_by').references(() => person.id),
    outcome: text(),
    /** Closed with the work done, or not done. */
    closing: text().$type<'done' | 'notDone'>(),
    /** How well the cause is known in the end, and which it was: a fault of the family, or that it was none of them. */
    conclusion: text().$type<Conclusion>(),
    conclusionFault: text('conclusion_fault'),
    /** The case that came back as this one. */
    cameFrom: integer('came_from').references((): AnyPgColumn => caseFile.id),
    search: searchWords(),
  },
  (t) => [
    index('case_file_state').on(t.state, t.id),
    index('case_file_vehicle').on(t.vehicle, t.id),
    index('case_file_identification').on(t.identification),
    index('case_file_plate').on(t.plate),
    index('case_file_came_from').on(t.cameFrom),
    index('case_file_search').using('gin', t.search),
  ],
);

/** Kept apart, since a customer pays for the one and is told of the other. */
export const conclusions = ['proven', 'likely', 'unknown'] as const;
export type Conclusion = (typeof conclusions)[number];

/** Details of the complaint that only some symptoms have. */
export interface Complaint {
  diesAfterS?: number;
  howOften?: string;
  message?: string;
  /** Somebody asked what had changed, and nothing had. */
  nothingChanged?: 'yes';
  /** What the caller answered on the phone, where the case came from a call: each question with its answer. */
  phone?: string[];
}

/** How the vehicle came in; what is not known is left out. */
export interface Condition {
  partsOff?: string;
  engineCanRun?: 'yes' | 'no';
  lastRunning?: string;
  arrived?: 'driven' | 'towed' | 'stoodHere';
  batteryVolts?: number;
}

/** A key that is to be fitted: what was ordered, for the fit check. */
export interface NewKeyPlan {
  extent: 'shell' | 'complete';
  chip: string;
  band: string;
  memory: string;
  blade: string;
  cutBy: string;
  /** In the shop's currency. */
  price?: number;
}

/** Table. What was seen of a vehicle and which system was chosen by it; a second look adds a row. */
export const identification = pgTable(
  'identification',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    /** Answers to the questions of the feature list. */
    seen: json().$type<Record<string, string>>().notNull(),
    family: json().$type<DocumentPin>().notNull(),
    profile: json().$type<DocumentPin>(),
    /** Lines of the ledger, recorded under another family before, that mean the same in this one. */
    carried: json().$type<string[]>().notNull(),
    /** Proven causes of this shop's closed cases at that moment, by fault: the prior that the case starts with and keeps. */
    proven: json().$type<Record<string, number>>().notNull().default({}),
    /** What else they had taught at that moment; null: nothing yet. */
    learned: json().$type<Learned>(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('identification_case').on(t.caseId)],
);

export const caseKey = pgTable(
  'case_key',
  {
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    tag: text().notNull(),
    /** Short code of its label, the same on no other key of the shop. */
    code: text().notNull().unique(),
    role: text().notNull(),
    kind: text().notNull().default('unknown'),
    marks: text().notNull().default(''),
    colour: text().notNull().default(''),
    condition: text().notNull().default(''),
    cell: text().notNull().default(''),
    note: text().notNull(),
    present: boolean().notNull(),
    toFit: json('to_fit').$type<NewKeyPlan>(),
  },
  (t) => [primaryKey({ columns: [t.caseId, t.tag] })],
);

/** Table. Modules and chips that came without a vehicle. Keys that came so are keys. */
export const part = pgTable(
  'part',
  {
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    tag: text().notNull(),
    what: text().notNull(),
    /** Part, hardware and software numbers and other digits of its label. */
    label: text().notNull(),
    note: text().notNull(),
  },
  (t) => [primaryKey({ columns: [t.caseId, t.tag] })],
);

/** Table. Who handed over which key or part, and when. */
export const custody = pgTable(
  'custody',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    /** Tag of a key or part. */
    tag: text().notNull(),
    act: text().$type<'received' | 'returned'>().notNull(),
    /** The other person; null: the case's customer. */
    contactId: integer('contact_id').references(() => customer.id),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('custody_case').on(t.caseId)],
);

/** Table. Service interval, oil life, odometer: read before the work and after it. */
export const counterReading = pgTable(
  'counter_reading',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    counter: text().notNull(),
    unit: text().notNull(),
    phase: text().$type<'before' | 'after'>().notNull(),
    value: doublePrecision().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('counter_case').on(t.caseId)],
);

/** Table. A scan: trouble codes and which modules were heard. The text that it was read from is not kept. */
export const scan = pgTable(
  'scan',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    phase: text().$type<'before' | 'after'>().notNull(),
    found: versioned<Scan>('found', 'scan').notNull(),
    /** The codes were cleared after it. */
    cleared: boolean().notNull(),
    note: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('scan_case').on(t.caseId)],
);

/** Table. What was done and written down after parts were replaced: plans, numbers of parts, what was saved, answers to steps. */
export const replacement = pgTable(
  'replacement',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    entry: versioned<JobEntry>('entry', 'replacement').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('replacement_case').on(t.caseId)],
);

/** Table. What was offered, agreed to and declined, what the papers say, and what was heard after the hand-over. Rows are only added, but for what a customer said, which is erased with the personal data. */
export const offer = pgTable(
  'offer',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    entry: versioned<OptionEntry>('entry', 'offer').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('offer_case').on(t.caseId)],
);

/** Table. A photo, re-encoded when it came: nothing of the original file is kept. */
export const photo = pgTable(
  'photo',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    keyTag: text('key_tag'),
    caption: text().notNull(),
    type: text().$type<'image/jpeg' | 'image/png'>().notNull(),
    width: integer().notNull(),
    height: integer().notNull(),
    data: binary().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('photo_case').on(t.caseId)],
);

/** Table. Parked, taken up again, closed, reopened: each with its reason. */
export const stateChange = pgTable(
  'state_change',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    state: text().$type<CaseState>().notNull(),
    reason: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('state_change_case').on(t.caseId)],
);

export const authority = pgTable(
  'authority',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    kind: text().notNull(),
    note: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('authority_case').on(t.caseId)],
);
