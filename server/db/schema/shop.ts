// The shop: its clocks, bays, meters, and drawer.
import { boolean, doublePrecision, integer, json, pgTable, serial, text } from 'drizzle-orm/pg-core';
import type { MeterRange, Resistor } from '../../../core/ladder';
import type { PriceBook } from '../../../core/quote';
import type { ShopUnits } from '../../../core/units';
import { binary, moment } from './columns';
import { person } from './people';

/** Table. The shop itself: one row. */
export const shop = pgTable('shop', {
  id: text().$type<'shop'>().primaryKey(),
  name: text().notNull(),
  /** As it stands on papers; several lines are one text. */
  address: text().notNull().default(''),
  phone: text().notNull().default(''),
  currency: text().notNull(),
  /** In the shop's currency, for an hour. */
  labourRate: doublePrecision('labour_rate').notNull(),
  equipment: json().$type<string[]>().notNull(),
  /** Shops of before this was asked for go on with what they saw until then. */
  units: json().$type<ShopUnits>().notNull().default({ distance: 'km', temperature: '°C', clock: '24', dates: 'dmy' }),
  /** Technicians at work now: for so many the Floor plans. */
  technicians: integer().notNull().default(1),
  /** What is sealed is opened by two people: one asks, another one releases. */
  releaseByTwo: boolean('release_by_two').notNull().default(false),
});

/** Table. What the shop charges: versions that are only added, each in force from its moment on until a later one is. */
export const priceBook = pgTable('price_book', {
  version: serial().primaryKey(),
  from: moment('from').notNull(),
  book: json().$type<PriceBook>().notNull(),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
});

/** Table. What stands at the head of the shop's papers in place of our mark: one row, or none. */
export const shopPicture = pgTable('shop_picture', {
  id: text().$type<'shop'>().primaryKey(),
  type: text().$type<'image/jpeg' | 'image/png'>().notNull(),
  width: integer().notNull(),
  height: integer().notNull(),
  data: binary().notNull(),
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

/** Table. Ohmmeters of the shop. */
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

/** Table. The shop's drawer of resistors: one row, the whole list. */
export const drawer = pgTable('drawer', {
  id: text().$type<'drawer'>().primaryKey(),
  resistors: json().$type<Resistor[]>().notNull(),
  /** Across a key at the immobilizer's input, volts; what parts are checked against. */
  senseVolts: doublePrecision('sense_volts').notNull(),
});

/** Table. Addresses of the shop that work without signing in: whoever has one sees what it is for, until it is revoked. Only a hash of each is kept. */
export const openAddress = pgTable('open_address', {
  id: serial().primaryKey(),
  /** Hash of the secret part of the address. */
  hash: text().notNull().unique(),
  kind: text().$type<'wall' | 'calendar'>().notNull(),
  /** What it is for, in the owner's words. */
  name: text().notNull(),
  /** Vehicles and plates are shown too. */
  vehicles: boolean().notNull(),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
  revokedAt: moment('revoked_at'),
});
