import { asc, eq } from 'drizzle-orm';
import { getTableConfig, type PgColumn, type PgTable } from 'drizzle-orm/pg-core';
import { coverages, scannedModules } from '../../core/codes';
import { mostEntries } from '../replacement/acts';
import { entryField } from '../replacement/entries';
import { mostOffers } from '../offers/acts';
import { offerField } from '../offers/entries';
import { abilities, abilityResults, counters, keyKinds } from '../../core/library';
import {
  choice,
  type Field,
  line,
  list,
  needed,
  number,
  oneOf,
  optionalLine,
  orElse,
  orNull,
  type Out,
  pattern,
  record,
  shape,
  text,
  whole,
  yesNo,
} from '../base/field';
import { hash, pin, tag } from '../base/fields';
import type { Reader } from '../db/open';
import {
  ability,
  authority,
  captureAside,
  caseKey,
  counterReading,
  evidence,
  identification,
  measurement,
  offer,
  part,
  repairActionKinds,
  replacement,
  scan,
  stateChange,
  stepTry,
} from '../db/schema';
import { keptMeasurement } from '../ledger/measurements/form';

/** Moments are milliseconds since 1970. */
export const moment = whole(0, 4_102_444_800_000);
export const person = line(80);
export const by = { by: needed(person), at: needed(moment) };
const id = line(80);
/** A value that files of before it existed leave out. */
const since = <F extends Field<unknown>>(field: F) => orNull(field).default(null) as Field<Out<F> | null>;

/** What a scan found, as core/codes has it. */
const scanFound = shape({
  codes: needed(
    list(
      shape({
        code: needed(pattern(/^[PCBU][0-3][0-9A-F]{3}$/, 'a trouble code such as P0562')),
        failureType: pattern(/^[0-9A-F]{2}$/, 'two hexadecimal digits'),
        status: choice('present', 'stored', 'pending'),
        statusByte: pattern(/^[0-9A-F]{2}$/, 'two hexadecimal digits'),
        module: choice(...scannedModules),
        freezeFrame: list(line(100)).max(100),
      }),
    ).max(500),
  ),
  coverage: needed(record(choice(...scannedModules), choice(...coverages))),
});

const counts = record(id, number(0, 1e9));
const timed = record(id, shape({ n: needed(number(0, 1e9)), sum: needed(number(0, 1e12)) }));
/** What the shop had learned when the system was identified, as core/diagnosis has it. */
const learnedField = shape({
  line: needed(counts.max(200)),
  slips: needed(record(id, shape({ n: needed(number(0, 1e9)), off: needed(number(0, 1e9)) })).max(300)),
  testMinutes: needed(timed.max(300)),
  fixMinutes: needed(timed.max(300)),
});

type CaseTable = PgTable & { caseId: PgColumn };

/** A list of a case that goes out and comes in as the rows of one table. */
interface List<R extends Field<unknown>> {
  table: CaseTable;
  /** Columns by which its rows are read out. */
  order: PgColumn[];
  /** What a row must be, in a file. */
  row: R;
  /** Most rows. */
  most: number;
  /** Names in the file that differ from the column's. */
  names?: Readonly<Record<string, string>>;
  /** Files of before it existed have none. */
  later?: boolean;
}
const of = <R extends Field<unknown>>(
  table: CaseTable,
  order: PgColumn[],
  most: number,
  row: R,
  more: Pick<List<R>, 'names' | 'later'> = {},
): List<R> => ({
  table,
  order,
  row,
  most,
  ...more,
});

/**
 * Each list once: the form of a file, what is read out and what is entered are derived from it. A table's columns go out all, but for the case's number and
 * numbers that only this database counts; one that a file's row doesn't know is found by the first export that is read again.
 */
export const lists = {
  keys: of(
    caseKey,
    [caseKey.tag],
    40,
    shape({
      tag: needed(tag),
      code: needed(pattern(/^[A-Z0-9]{6,12}$/, 'a code of 6 to 12 letters and digits')),
      role: needed(line(20)),
      kind: needed(oneOf(keyKinds)),
      marks: optionalLine(120),
      colour: optionalLine(40),
      condition: optionalLine(120),
      cell: optionalLine(40),
      note: optionalLine(120),
      present: needed(yesNo()),
      toFit: needed(
        orNull(
          shape({
            extent: needed(choice('shell', 'complete')),
            chip: optionalLine(60),
            band: optionalLine(30),
            memory: needed(line(20)),
            blade: optionalLine(60),
            cutBy: optionalLine(60),
            price: number(0, 1e9),
          }),
        ),
      ),
    }),
  ),
  parts: of(part, [part.tag], 40, shape({ tag: needed(tag), what: needed(line(20)), label: optionalLine(120), note: optionalLine(300) })),
  authority: of(authority, [authority.id], 40, shape({ kind: needed(line(20)), note: optionalLine(300), ...by })),
  counters: of(
    counterReading,
    [counterReading.id],
    200,
    shape({
      counter: needed(oneOf(counters)),
      unit: needed(line(10)),
      phase: needed(choice('before', 'after')),
      value: needed(number(-1e12, 1e12)),
      ...by,
    }),
  ),
  scans: of(
    scan,
    [scan.id],
    100,
    shape({
      phase: needed(choice('before', 'after')),
      found: needed(scanFound),
      cleared: needed(yesNo()),
      note: needed(optionalLine(300)),
      ...by,
    }),
    { later: true },
  ),
  replacement: of(replacement, [replacement.id], mostEntries, shape({ entry: needed(entryField), ...by }), { later: true }),
  offers: of(offer, [offer.id], mostOffers, shape({ entry: needed(offerField), ...by }), { later: true }),
  states: of(
    stateChange,
    [stateChange.id],
    200,
    shape({ state: needed(choice('open', 'parked', 'closed')), reason: needed(text(4000).allow('')), ...by }),
  ),
  abilities: of(
    ability,
    [ability.id],
    4000,
    shape({
      key: needed(tag),
      ability: needed(oneOf(abilities)),
      result: needed(oneOf(abilityResults)),
      source: needed(choice('told', 'seen')),
      ...by,
    }),
    { names: { keyTag: 'key' } },
  ),
  identifications: of(
    identification,
    [identification.id],
    100,
    shape({
      seen: needed(record(line(60), line(60)).max(60)),
      family: needed(pin),
      profile: needed(orNull(pin)),
      carried: needed(list(id).max(5000)),
      // Fractions, where other shops had taught some.
      proven: orElse(record(id, number(0, 1e9)).max(100), {}),
      learned: since(learnedField),
      ...by,
    }),
    { later: true },
  ),
  measurements: of(
    measurement,
    [measurement.at, measurement.id],
    2000,
    keptMeasurement({
      id: needed(id),
      key: needed(orNull(tag)),
      verdict: needed(text(4000)),
      steps: since(list(orNull(whole(-1e9, 1e9))).max(2)),
      simulated: needed(yesNo()),
      ...by,
    }),
    { names: { keyTag: 'key' }, later: true },
  ),
  stepTries: of(
    stepTry,
    [stepTry.at, stepTry.id],
    1000,
    shape({
      id: needed(id),
      ladder: needed(pin),
      step: needed(whole(0, 9999)),
      resistor: needed(line(120)),
      result: needed(orNull(choice('refused', 'accepted'))),
      replaces: needed(orNull(id)),
      ...by,
    }),
    { later: true },
  ),
  capturesAside: of(captureAside, [captureAside.at, captureAside.id], 2000, shape({ id: needed(id), reason: needed(line(200)), ...by }), {
    later: true,
  }),
  evidence: of(
    evidence,
    [evidence.seq],
    5000,
    shape({
      id: needed(id),
      seq: needed(whole(1, Number.MAX_SAFE_INTEGER)),
      kind: orElse(choice('test', ...repairActionKinds), 'test'),
      test: needed(id),
      outcome: needed(orNull(id)),
      key: needed(orNull(tag)),
      note: optionalLine(500),
      replaces: needed(orNull(id)),
      run: needed(orNull(whole(0, Number.MAX_SAFE_INTEGER))),
      event: needed(orNull(id)),
      look: since(id),
      measurement: since(id),
      minutes: since(number(0, 1440)),
      familyHash: needed(hash),
      by: needed(person),
      occurredAt: needed(moment),
      receivedAt: needed(moment),
    }),
    { names: { keyTag: 'key', runId: 'run', eventId: 'event', lookId: 'look', measurementId: 'measurement' } },
  ),
};
type Lists = typeof lists;
export type ListName = keyof Lists;
export type Rows = { [N in ListName]: Out<Lists[N]['row']>[] };

/** The fields of the file's form, one for each list. */
export const listFields = Object.fromEntries(
  Object.entries<List<Field<unknown>>>(lists).map(([name, { row, most, later }]) => {
    const rows = list(row).max(most);
    return [name, later ? orElse(rows, []) : needed(rows)];
  }),
) as unknown as { [N in ListName]: Field<Rows[N]> };

/** Columns that go into a file, with their names there. */
export function columnsOf({ table, names = {} }: List<Field<unknown>>): [column: string, name: string][] {
  const counted = new Set(getTableConfig(table).columns.filter((c) => c.columnType === 'PgSerial'));
  return Object.entries(table as unknown as Record<string, PgColumn>)
    .filter(([column, c]) => c && typeof c === 'object' && 'columnType' in c && column !== 'caseId' && !counted.has(c))
    .map(([column]) => [column, names[column] ?? column]);
}

/** Every list of a case, as a file has it. */
export async function readLists(tx: Reader, caseId: number): Promise<Rows> {
  const read = async ([name, of]: [string, List<Field<unknown>>]) => {
    const rows: Record<string, unknown>[] = await tx
      .select()
      .from(of.table)
      .where(eq(of.table.caseId, caseId))
      .orderBy(...of.order.map((c) => asc(c)));
    const columns = columnsOf(of);
    return [name, rows.map((row) => Object.fromEntries(columns.map(([column, inFile]) => [inFile, row[column]])))] as const;
  };
  const all: (readonly [string, unknown])[] = [];
  for (const entry of Object.entries<List<Field<unknown>>>(lists)) all.push(await read(entry));
  return Object.fromEntries(all) as Rows;
}

/** A row of a file as its table's columns. */
export function asColumns<N extends ListName>(name: N, row: Rows[N][number]): Record<string, unknown> {
  const values = row as Record<string, unknown>;
  return Object.fromEntries(columnsOf(lists[name]).map(([column, inFile]) => [column, values[inFile]]));
}
