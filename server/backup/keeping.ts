import { randomUUID } from 'node:crypto';

/** How many backups stay: the last of each of so many days, weeks and months. */
export interface KeepingRule {
  days: number;
  weeks: number;
  months: number;
}

/** A backup by its file's name; the time is in it. */
export interface NamedBackup {
  file: string;
  at: number;
}

/** `bloodstone-2026-12-01T08-15-30Z.backup`, in universal time. */
export const nameOf = (at: number): string => `bloodstone-${new Date(at).toISOString().slice(0, 19).replaceAll(':', '-')}Z.backup`;

/** @returns null for a name that is none of ours */
export function readName(file: string): NamedBackup | null {
  const found = /^bloodstone-(\d{4}-\d\d-\d\d)T(\d\d)-(\d\d)-(\d\d)Z\.backup$/.exec(file);
  if (!found) return null;
  const at = Date.parse(`${found[1]}T${found[2]}:${found[3]}:${found[4]}Z`);
  return Number.isNaN(at) ? null : { file, at };
}

/** Name under which a backup is written, until it is whole. */
export const partOf = (path: string): string => `${path}.${randomUUID().slice(0, 8)}.part`;
/** Also one of an older version, whose name was the backup’s own with `.part`. */
export const isPart = (file: string): boolean => /^bloodstone-.*\.backup(\.[0-9a-f]{8})?\.part$/.test(file);

const dayMs = 86_400_000;
const day = (at: number) => Math.floor(at / dayMs);
/** Weeks begin on Monday: the first day of 1970 was a Thursday. */
const week = (at: number) => Math.floor((day(at) + 3) / 7);
const month = (at: number) => new Date(at).toISOString().slice(0, 7);

/**
 * Which backups the rule lets go. The newest always stays; of each of the last days, weeks and months that have one, the last.
 * Periods are those that have backups, so a shop that was closed for a month loses none by it.
 */
export function toDelete(backups: readonly NamedBackup[], rule: KeepingRule): NamedBackup[] {
  const newest = [...backups].sort((a, b) => b.at - a.at);
  const kept = new Set(newest.slice(0, 1));
  for (const [period, count] of [
    [day, rule.days],
    [week, rule.weeks],
    [month, rule.months],
  ] as const) {
    const seen = new Set<number | string>();
    for (const backup of newest) {
      const its = period(backup.at);
      if (seen.has(its)) continue;
      if (seen.size >= count) break;
      seen.add(its);
      kept.add(backup);
    }
  }
  return newest.filter((b) => !kept.has(b));
}
