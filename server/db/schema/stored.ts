/**
 * What is stored as JSON and read again years later carries the version of its form: events of runs, raw readings of instruments, lights that were watched,
 * films, scans, the work after a replacement, offers, what cases have taught. Each is read by way of these migrations, wherever it is read (columns of the kind `versioned`), so that the rest of the code knows today's form only.
 */
export type StoredKind = 'event' | 'raw' | 'lights' | 'film' | 'scan' | 'replacement' | 'offer' | 'lesson' | 'tallies';

/** A value as it is stored: the fields of its form, and `v`, its version. Before there were versions (1) it had none. */
export type Stored = Record<string, unknown>;

/** A step from one version to the next; what comes in has no `v`. */
export type Migration = (old: unknown) => Stored;

/** 1 was the value itself. */
const withVersion: Migration = (old) => old as Stored;
/** 1 was the bare list of lights. */
const listInField: Migration = (old) => ({ lights: old });

/** Of each kind, the step from version 1 to 2, from 2 to 3 and so on. A fixture of each old version stands in server/fixtures/stored. */
export const migrations: Readonly<Record<StoredKind, readonly Migration[]>> = {
  event: [withVersion],
  raw: [withVersion],
  lights: [listInField],
  film: [withVersion],
  scan: [],
  replacement: [],
  offer: [],
  lesson: [],
  tallies: [],
};

export const currentVersion = (kind: StoredKind): number => migrations[kind].length + 1;

const isObject = (value: unknown): value is Stored => typeof value === 'object' && value !== null && !Array.isArray(value);

/** The value of today's form that something stored stands for. @throws Error for a version that is not known here */
export function readStored(kind: StoredKind, stored: unknown, steps: readonly Migration[] = migrations[kind]): unknown {
  const { v, ...fields } = isObject(stored) ? stored : { v: undefined };
  const version = v === undefined ? 1 : v;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1 || version > steps.length + 1)
    throw new Error(
      `The database holds something of kind "${kind}" and version ${JSON.stringify(version)}; this Bloodstone knows versions up to ${steps.length + 1}.`,
    );
  const body = steps.slice(version - 1).reduce<unknown>((old, step) => step(old), isObject(stored) ? fields : stored);
  return kind === 'lights' ? (body as Stored).lights : body;
}

/** A value as it is stored now. */
export const asStored = (kind: StoredKind, value: unknown): Stored => ({
  v: currentVersion(kind),
  ...(kind === 'lights' ? { lights: value } : (value as Stored)),
});
