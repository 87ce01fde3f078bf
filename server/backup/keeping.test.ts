import { generator } from '../../core/units';
import { type KeepingRule, nameOf, type NamedBackup, readName, toDelete } from './keeping';

const at = (text: string): NamedBackup => ({ file: nameOf(Date.parse(text)), at: Date.parse(text) });
const kept = (backups: NamedBackup[], rule: KeepingRule) => {
  const gone = new Set(toDelete(backups, rule));
  return backups.filter((b) => !gone.has(b)).map((b) => new Date(b.at).toISOString().slice(0, 16));
};

test('a name holds the moment, and nothing else is taken for a backup', () => {
  const name = nameOf(Date.parse('2026-12-01T08:15:30.900Z'));
  expect(name).toBe('bloodstone-2026-12-01T08-15-30Z.backup');
  expect(readName(name)).toEqual({ file: name, at: Date.parse('2026-12-01T08:15:30Z') });
  for (const other of [`${name}.part`, 'bloodstone-2026-13-41T08-15-30Z.backup', 'notes.txt', `x${name}`]) expect(readName(other)).toBeNull();
});

test('the last of each day, week and month that has one; the newest always', () => {
  const list = [
    '2026-12-01T09:00Z',
    '2026-12-01T18:00Z',
    '2026-11-30T18:00Z',
    '2026-11-29T18:00Z',
    '2026-11-22T18:00Z',
    '2026-10-31T18:00Z',
    '2026-09-01T18:00Z',
  ];
  const backups = list.map(at);
  expect(kept(backups, { days: 2, weeks: 0, months: 0 })).toEqual(['2026-12-01T18:00', '2026-11-30T18:00']);
  // Monday the 30th begins the week of 1 December; the 29th is the Sunday before.
  expect(kept(backups, { days: 1, weeks: 3, months: 0 })).toEqual(['2026-12-01T18:00', '2026-11-29T18:00', '2026-11-22T18:00']);
  expect(kept(backups, { days: 1, weeks: 0, months: 3 })).toEqual(['2026-12-01T18:00', '2026-11-30T18:00', '2026-10-31T18:00']);
  expect(kept(backups, { days: 0, weeks: 0, months: 0 })).toEqual(['2026-12-01T18:00']);
  expect(toDelete([], { days: 7, weeks: 4, months: 12 })).toEqual([]);
});

test('against a naive count, over 300 seeded shops: never fewer than the rule asks for, and what goes has a younger one in each of its periods or is too old', () => {
  for (let seed = 1; seed <= 300; seed += 1) {
    const next = generator(seed);
    const backups = Array.from({ length: Math.floor(60 * next()) }, () => {
      const ms = Date.parse('2026-01-01') + Math.floor(400 * 86_400_000 * next());
      return { file: nameOf(ms), at: ms };
    });
    const rule = { days: Math.floor(10 * next()), weeks: Math.floor(8 * next()), months: Math.floor(14 * next()) };
    const days = new Set(backups.map((b) => new Date(b.at).toISOString().slice(0, 10)));
    const gone = toDelete(backups, rule);
    const stay = backups.filter((b) => !gone.includes(b));
    const lastOfDay = [...days]
      .sort()
      .reverse()
      .slice(0, rule.days)
      .map((d) => Math.max(...backups.filter((b) => new Date(b.at).toISOString().startsWith(d)).map((b) => b.at)));
    for (const moment of lastOfDay) expect([seed, stay.some((b) => b.at === moment)]).toEqual([seed, true]);
    expect(stay.length).toBeLessThanOrEqual(Math.max(1, rule.days + rule.weeks + rule.months));
    if (backups.length > 0) expect(stay.some((b) => b.at === Math.max(...backups.map((x) => x.at)))).toBe(true);
  }
});
