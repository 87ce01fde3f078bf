import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { asStored, currentVersion, type Migration, migrations, readStored, type StoredKind } from './schema/stored';

const kinds = Object.keys(migrations) as StoredKind[];
const file = (kind: StoredKind, version: number) => join(process.cwd(), 'server/fixtures/stored', `${kind}.v${version}.json`);
const fixture = (kind: StoredKind, version: number) => JSON.parse(readFileSync(file(kind, version), 'utf8')) as { stored: unknown; read: unknown };
/** Every version of before, of every kind. */
const old = kinds.flatMap((kind) => migrations[kind].map((_step, i): [StoredKind, number] => [kind, i + 1]));

test('each migration has a fixture that goes through it', () => {
  const gone = new Map<Migration, number>();
  for (const kind of kinds) {
    const counted = migrations[kind].map((step): Migration => (value) => {
      gone.set(step, (gone.get(step) ?? 0) + 1);
      return step(value);
    });
    for (let version = 1; version < currentVersion(kind); version += 1) {
      expect([kind, version, existsSync(file(kind, version))]).toEqual([kind, version, true]);
      readStored(kind, fixture(kind, version).stored, counted);
    }
    expect(migrations[kind].filter((step) => !gone.has(step))).toEqual([]);
  }
  expect(old.length).toBeGreaterThan(3);
});

test.each(old)('%s of version %d is read as today’s', (kind, version) => {
  const { stored, read } = fixture(kind, version);
  expect(readStored(kind, stored)).toEqual(read);
  // And what is written today is read the same.
  expect(readStored(kind, JSON.parse(JSON.stringify(asStored(kind, read))))).toEqual(read);
  expect(asStored(kind, read).v).toBe(currentVersion(kind));
});

test.each(old)('a fault in the migration of %s from version %d is found by its fixture', (kind, version) => {
  const { stored, read } = fixture(kind, version);
  const faulty = migrations[kind].map((step, i): Migration => {
    if (i !== version - 1) return step;
    return (value) => {
      const [name, ...rest] = Object.keys(step(value));
      const next = step(value);
      return Object.fromEntries((rest.length > 0 ? rest : [`${name}s`]).map((n) => [n, next[n]]));
    };
  });
  expect(readStored(kind, stored, faulty)).not.toEqual(read);
});

test.each([
  ['a later one', { v: 99, type: 'answered' }],
  ['none', { v: 0, type: 'answered' }],
  ['a word', { v: 'two', type: 'answered' }],
])('a version that is not known is said: %s', (_what, stored) => {
  expect(() => readStored('event', stored)).toThrow(
    `The database holds something of kind "event" and version ${JSON.stringify(stored.v)}; this Bloodstone knows versions up to 2.`,
  );
});
