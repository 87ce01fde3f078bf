import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  bigint,
  boolean,
  customType,
  doublePrecision,
  foreignKey,
  index,
  integer,
  json,
  pgTable,
  primaryKey,
  serial,
  text,
  unique,
} from 'drizzle-orm/pg-core';
import type { DocumentBody, DocumentKind } from '../../content/reader';
import type { ToldCaller } from '../../core/call';
import type { MeterRange, Resistor } from '../../core/ladder';
import type { LampReading } from '../../core/lamp';
import type { AbilityResult, DocumentPin, LampMoment, ResolvedParam } from '../../core/library';
import type { RunEvent } from '../../core/procedure';

/** A moment: milliseconds of the case's clock (server/clock.ts), not of any wall clock. */
const moment = (name: string) => bigint(name, { mode: 'number' });

/** Words of a case in the form PostgreSQL searches (server/search.ts). */
const searchWords = customType<{ data: string }>({ dataType: () => 'tsvector' });
const binary = customType<{ data: Uint8Array }>({ dataType: () => 'bytea' });

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
  /** Hashes of server/accounts/secret.ts. */
  passphrase: text(),
  pin: text(),
  createdAt: moment('created_at').notNull().default(0),
});

/** A browser that is signed in. The browser holds a random token; here stands only its hash. */
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

/** A one-time link with which a person sets a passphrase; only the hash of its token is kept. */
export const invitation = pgTable('invitation', {
  id: text().primaryKey(),
  personId: text('person_id')
    .notNull()
    .references(() => person.id),
  createdAt: moment('created_at').notNull(),
  expiresAt: moment('expires_at').notNull(),
  usedAt: moment('used_at'),
});

/** Wrong tries by name and by address (server/accounts/throttle.ts). */
export const failedTries = pgTable('failed_tries', {
  id: text().primaryKey(),
  count: integer().notNull(),
  lastAt: moment('last_at').notNull(),
  blockedUntil: moment('blocked_until').notNull(),
});

/** The shop itself: one row. */
export const shop = pgTable('shop', {
  id: text().$type<'shop'>().primaryKey(),
  name: text().notNull(),
  currency: text().notNull(),
  /** In the shop's currency, for an hour. */
  labourRate: doublePrecision('labour_rate').notNull(),
  equipment: json().$type<string[]>().notNull(),
});

export const clockDomain = pgTable('clock_domain', {
  id: text().primaryKey(),
  rate: doublePrecision().notNull(),
  /** At this moment of the domain … */
  anchorClock: moment('anchor_clock').notNull(),
  /** … the wall clock said this, */
  anchorWall: moment('anchor_wall').notNull(),
  /** and this machine, in this boot, had been up so long. */
  bootId: text('boot_id'),
  anchorUptime: moment('anchor_uptime'),
  /** When the time had to be taken from the wall clock after a reboot: from this moment on it rests on it. */
  wallSince: moment('wall_since'),
});

export const bay = pgTable('bay', {
  id: text().primaryKey(),
  name: text().notNull(),
  position: integer().notNull(),
  /** No longer used; old cases still name it. */
  retired: boolean().notNull().default(false),
});

/** Every version of every library document; rows are never changed. `body` is json, not jsonb: the order of answers is their order on screen. */
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

/** Documents of the shop that are not offered any more; the cases that were worked with them keep them. */
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

/** Names and telephone numbers of people outside the shop stand by themselves, so that they can be exported and erased. */
export const customer = pgTable('customer', {
  id: serial().primaryKey(),
  name: text().notNull(),
  phone: text().notNull(),
  erasedAt: moment('erased_at'),
});

/** What was typed into an intake that is not finished. */
export const draft = pgTable('draft', {
  id: text().primaryKey(),
  by: text()
    .notNull()
    .references(() => person.id),
  /** Fields of the form as they stand in it, checked only when the case is opened. */
  fields: json().$type<Record<string, unknown>>().notNull(),
  updatedAt: moment('updated_at').notNull(),
});

/** A call before there is a vehicle. It may become the intake of a case. */
export const call = pgTable('call', {
  id: serial().primaryKey(),
  customerId: integer('customer_id').references(() => customer.id),
  vehicle: text().notNull(),
  plate: text().notNull(),
  words: text().notNull(),
  /** `family:…` or `profile:…`; empty when the caller can't say. */
  system: text().notNull(),
  /** Answers to the questions of the call sheet. */
  answers: json().$type<Record<string, string>>().notNull(),
  /** What the lamp does in a film that was watched, tapped along. */
  film: json().$type<FilmedLamp>(),
  /** What the caller was told, as it stood on the sheet. */
  told: json().$type<ToldCaller>().notNull(),
  /** The case that it became. */
  caseId: integer('case_id').references((): AnyPgColumn => caseFile.id),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
  changedAt: moment('changed_at').notNull(),
});

export interface FilmedLamp {
  moment: LampMoment;
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
}

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
    /** After how many seconds it dies, how often it fails, the words in the dash; shapes of server/intake.ts. */
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
    closedAt: moment('closed_at'),
    closedBy: text('closed_by').references(() => person.id),
    outcome: text(),
    /** Closed with the work done, or not done. */
    closing: text().$type<'done' | 'notDone'>(),
    /** How well the cause is known in the end, and which it was: a fault of the family, or that it was none of them. */
    conclusion: text().$type<Conclusion>(),
    conclusionFault: text('conclusion_fault'),
    search: searchWords(),
  },
  (t) => [
    index('case_file_state').on(t.state, t.id),
    index('case_file_vehicle').on(t.vehicle, t.id),
    index('case_file_identification').on(t.identification),
    index('case_file_plate').on(t.plate),
    index('case_file_search').using('gin', t.search),
  ],
);

/** Kept apart, since a customer pays for the one and is told of the other. */
export const conclusions = ['proven', 'likely', 'unknown'] as const;
export type Conclusion = (typeof conclusions)[number];

/** What a line of the ledger tells: a test; a repair; the suspected cause brought back once to see it fail; and taken away again. */
export const deedKinds = ['repair', 'broughtBack', 'takenAway'] as const;
export type DeedKind = (typeof deedKinds)[number];
export type LineKind = 'test' | DeedKind;

/** Details of the complaint that only some symptoms have. */
export interface Complaint {
  diesAfterS?: number;
  howOften?: string;
  message?: string;
  /** Somebody asked what had changed, and nothing had. */
  nothingChanged?: 'yes';
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

/** What was seen of a vehicle and which system was chosen by it; a second look adds a row. */
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

/** Modules and chips that came without a vehicle. Keys that came so are keys. */
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

/** Who handed over which key or part, and when. */
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

/** Service interval, oil life, odometer: read before the work and after it. */
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

/** A photo, re-encoded when it came: nothing of the original file is kept. */
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

/** Parked, taken up again, closed, reopened: each with its reason. */
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

export const authority = pgTable('authority', {
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
});

export const run = pgTable(
  'run',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    procedureId: text('procedure_id').notNull(),
    procedureVersion: integer('procedure_version').notNull(),
    procedureHash: text('procedure_hash').notNull(),
    /** The numbers this run works with, as they were at its start, each with its source. */
    params: json().$type<Record<string, ResolvedParam>>().notNull(),
    /** Follows from the events; kept here so that open runs are found without reading them all. */
    status: text().$type<'running' | 'finished' | 'stopped'>().notNull(),
    startedAt: moment('started_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [index('run_status').on(t.status), index('run_case').on(t.caseId)],
);

export const runEvent = pgTable(
  'run_event',
  {
    runId: integer('run_id')
      .notNull()
      .references(() => run.id),
    seq: integer().notNull(),
    id: text().notNull().unique(),
    event: json().$type<RunEvent>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.seq] })],
);

/** A lamp that was watched: the raw taps, kept as they came. */
export const lampLook = pgTable(
  'lamp_look',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    keyTag: text('key_tag'),
    moment: text().$type<LampMoment>().notNull(),
    origin: text().$type<LookOrigin>().notNull(),
    /** Name of the file it came from. */
    file: text().notNull(),
    /** Begin and end of each light, seconds from the beginning of the look; none when it was judged by eye. */
    lit: json().$type<[number, number][]>().notNull(),
    litAtEnd: boolean('lit_at_end').notNull(),
    lengthS: doublePrecision('length_s').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('lamp_look_case').on(t.caseId)],
);

/** How a look was read in one family; another family, another reading. */
export const lampReading = pgTable(
  'lamp_reading',
  {
    id: serial().primaryKey(),
    lookId: text('look_id')
      .notNull()
      .references(() => lampLook.id),
    family: json().$type<DocumentPin>().notNull(),
    state: text().$type<LampReading['state']>().notNull(),
    /** The likeliest pattern, or `none`. */
    pattern: text().notNull(),
    /** How likely it is; null when it was judged by eye. */
    p: doublePrecision(),
    verdict: text().notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('lamp_reading_look').on(t.lookId)],
);

/** What an instrument of the bench measured in a case: all that was read, as it came, and what it was taken for. */
export const measurement = pgTable(
  'measurement',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    keyTag: text('key_tag'),
    kind: text().$type<MeasurementKind>().notNull(),
    /** By its form in server/measurements/form.ts. */
    raw: json().$type<unknown>().notNull(),
    verdict: text().notNull(),
    /** Steps of a key's pellets, by side; null for other kinds. */
    steps: json().$type<(number | null)[]>(),
    /** Where the values come from a simulated device. */
    simulated: boolean().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('measurement_case').on(t.caseId)],
);
export const measurementKinds = ['pellet', 'wiring', 'wiggle', 'trials'] as const;
export type MeasurementKind = (typeof measurementKinds)[number];

/** A step of a ladder that was tried with a resistor, while nobody knows the right one. */
export const stepTry = pgTable(
  'step_try',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    ladder: json().$type<DocumentPin>().notNull(),
    step: integer().notNull(),
    /** What was put in place of the contacts, in ohms. */
    resistor: text().notNull(),
    /** Null takes the try back that `replaces` names. */
    result: text().$type<'refused' | 'accepted'>(),
    replaces: text(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('step_try_case').on(t.caseId)],
);

/** Ohmmeters of the shop. */
export const meter = pgTable('meter', {
  id: text().primaryKey(),
  name: text().notNull(),
  ranges: json().$type<MeterRange[]>().notNull(),
  /** Where it answers SCPI over TCP, as host:port; empty: its values are typed. */
  address: text().notNull(),
  /** No device: a stand-in that ships with the app. */
  simulated: boolean().notNull().default(false),
  retired: boolean().notNull().default(false),
});

/** The shop's drawer of resistors: one row, the whole list. */
export const drawer = pgTable('drawer', {
  id: text().$type<'drawer'>().primaryKey(),
  resistors: json().$type<Resistor[]>().notNull(),
  /** Across a key at the guard's input, volts; what parts are checked against. */
  senseVolts: doublePrecision('sense_volts').notNull(),
});

/** Where a look comes from: tapped along with, a file of an instrument, a film that was watched, or judged without taps. */
export type LookOrigin = 'tapped' | 'file' | 'film' | 'eye';

export const evidence = pgTable(
  'evidence',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    seq: integer().notNull(),
    kind: text().$type<LineKind>().notNull().default('test'),
    /** Id of the test; of the fault, where something was done about one. */
    test: text().notNull(),
    /** Of a test its outcome, else `works` or `fails`. Null withdraws the entry that `replaces` names. */
    outcome: text(),
    keyTag: text('key_tag'),
    note: text().notNull(),
    replaces: text(),
    /** The run's event that brought it, if a run did. */
    runId: integer('run_id').references(() => run.id),
    eventId: text('event_id'),
    /** The look that was read, if a lamp was. */
    lookId: text('look_id').references(() => lampLook.id),
    /** The measurement that it is taken from, if an instrument made one. */
    measurementId: text('measurement_id').references(() => measurement.id),
    /** How long it took, counted from the opening of the test or put right by hand; null: nobody counted. */
    minutes: doublePrecision(),
    /** The version of the family whose words were on the buttons. */
    familyHash: text('family_hash').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    occurredAt: moment('occurred_at').notNull(),
    receivedAt: moment('received_at').notNull(),
  },
  (t) => [unique('evidence_case_seq').on(t.caseId, t.seq), foreignKey({ columns: [t.replaces], foreignColumns: [t.id] })],
);

/** One judgement of one ability of one key; the latest counts. */
export const ability = pgTable(
  'ability',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id').notNull(),
    keyTag: text('key_tag').notNull(),
    ability: text().notNull(),
    result: text().$type<AbilityResult>().notNull(),
    /** What the customer says is kept apart from what somebody here saw. */
    source: text().$type<'told' | 'seen'>().notNull().default('seen'),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [foreignKey({ columns: [t.caseId, t.keyTag], foreignColumns: [caseKey.caseId, caseKey.tag] }), index('ability_case').on(t.caseId)],
);

/** Accepted commands by their browser-made id: the same id again is answered from here and done only once. */
export const command = pgTable('command', {
  id: text().primaryKey(),
  /** SHA-256 of what was asked: the same id with another payload is a conflict. */
  hash: text().notNull(),
  answer: json().$type<{ value?: unknown }>().notNull(),
  at: moment('at').notNull(),
});

export const audit = pgTable(
  'audit',
  {
    id: serial().primaryKey(),
    at: moment('at').notNull(),
    /** Null where nobody was signed in. */
    by: text().references(() => person.id),
    action: text().notNull(),
    caseId: integer('case_id'),
    detail: json().$type<Record<string, unknown>>().notNull(),
  },
  (t) => [index('audit_case').on(t.caseId)],
);

/** Tables whose rows are only ever added; a trigger of the first migration holds it. */
export const appendOnly = [
  'document',
  'authority',
  'run_event',
  'evidence',
  'ability',
  'command',
  'audit',
  'custody',
  'counter_reading',
  'state_change',
  'lamp_look',
  'lamp_reading',
  'measurement',
  'step_try',
] as const;
