import { mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { type Act, actOnce } from '../acts/commands';
import { may } from '../acts/rights';
import { refused } from '../base/expected';
import { log } from '../base/log';
import { backupRule } from '../db/schema';
import type { Services } from '../services/services';
import type { BackupSecret } from './key';
import { isPart, type KeepingRule, nameOf, type NamedBackup, readName, toDelete } from './keeping';
import { kindOf } from './key';
import { makeBackup } from './make';

/** Where backups go, and what opens them. */
export interface BackupPlace {
  folder: string;
  secret: BackupSecret;
  /** The key file, where there is one: for the page to name. */
  keyPath?: string;
  /** Folder of the vault's keys. */
  vault: string;
}

export interface BackupRule extends KeepingRule {
  everyHours: number;
}
export const usualRule: BackupRule = { everyHours: 24, days: 7, weeks: 4, months: 12 };

export interface BackupState {
  /** Null: the server was not told where backups go. */
  place: { folder: string; opens: 'password' | 'key file'; keyPath: string | null } | null;
  rule: BackupRule;
  /** When the newest was made, also while its folder is away. */
  lastAt: number | null;
  /** Newest first; null: the folder can’t be read. */
  backups: { file: string; at: number; bytes: number }[] | null;
  /** How far the one is that is being made, 0 to 1; null: none is. */
  running: number | null;
  /** What went wrong the last time, until one succeeds. */
  failed: { at: number; why: string } | null;
  /** The last success is older than it should be, or there is none though one was due. */
  overdue: boolean;
}

const hourMs = 3_600_000;
/** After a failure it is tried again after this, ms. */
const againMs = hourMs;
/** What is left of a backup that nobody has written to for so long is not written to any more, ms. */
const brokenMs = hourMs;
/** Late by this share of the time between two, it is overdue: the Floor says so. */
const patience = 1.5;

/** The backups of one server: made on time and on demand, one at a time, and let go by the rule. */
export class Backups {
  #running: { share: number; stop: AbortController; done: Promise<void> } | null = null;
  #looking: Promise<void> | null = null;
  #failed: BackupState['failed'] = null;
  #rule: BackupRule = usualRule;
  readonly #since: number;
  /** When the newest in the folder was made, as of the last look. */
  #newest: number | undefined;

  private constructor(
    private readonly services: Services,
    private readonly place: BackupPlace | null,
  ) {
    this.#since = services.clock.now();
  }

  static async open(services: Services, place: BackupPlace | null): Promise<Backups> {
    const backups = new Backups(services, place);
    await backups.readRule();
    if (place) mkdirSync(place.folder, { recursive: true, mode: 0o700 });
    backups.#look();
    return backups;
  }

  /** The rule as it stands, which may have been set on another server of the same database. */
  async readRule(): Promise<void> {
    const [row] = await this.services.database.db.select().from(backupRule);
    if (row) this.#rule = { everyHours: row.everyHours, days: row.days, weeks: row.weeks, months: row.months };
  }

  #look(): NamedBackup[] | null {
    const backups = this.place ? listed(this.place.folder) : [];
    // Of a folder that is away now, what was seen last is still the newest.
    if (backups) this.#newest = backups[0]?.at;
    return backups;
  }

  /** When the newest was made, where one should have been made since; null: nothing is late. The folder was looked into within the last minute. */
  get overdue(): { lastAt: number | null; everyHours: number } | null {
    const { everyHours } = this.#rule;
    const late = this.place !== null && this.services.clock.now() - (this.#newest ?? this.#since) > patience * everyHours * hourMs;
    return late ? { lastAt: this.#newest ?? null, everyHours } : null;
  }

  state(): BackupState {
    const { place } = this;
    const backups = this.#look();
    return {
      place: place && { folder: place.folder, opens: kindOf(place.secret), keyPath: place.keyPath ?? null },
      rule: this.#rule,
      lastAt: this.#newest ?? null,
      backups:
        backups && backups.map(({ file, at }) => ({ file, at, bytes: statSync(join(place!.folder, file), { throwIfNoEntry: false })?.size ?? 0 })),
      running: this.#running?.share ?? null,
      failed: this.#failed,
      overdue: this.overdue !== null,
    };
  }

  /** Makes one when it is time for it. */
  tick(): void {
    const { place } = this;
    if (!place || this.#running || this.#looking) return;
    this.#looking = this.#makeIfDue(place).finally(() => (this.#looking = null));
  }

  async #makeIfDue(place: BackupPlace): Promise<void> {
    await this.readRule().catch((error: unknown) => log.warn({ err: error }, 'The rule of backups could not be read; the last one holds.'));
    const now = this.services.clock.now();
    this.#look();
    const last = this.#newest;
    if (last !== undefined && now - last < this.#rule.everyHours * hourMs) return;
    if (this.#failed && now - this.#failed.at < againMs) return;
    // Somebody may have begun one meanwhile.
    if (!this.#running) this.#begin(place);
  }

  /** Begins one now. @throws Refused where there is no place for it; one that is being made goes on */
  async begin(act: Act): Promise<void> {
    const { place } = this;
    if (!place) throw refused(409, 'noPlace', 'This server was not told where backups go. Set BLOODSTONE_BACKUP to a folder, then start it again.');
    await actOnce(this.services.database.db, act, { right: 'backUp', action: 'backUp', payload: null }, () => Promise.resolve(null));
    if (!this.#running) this.#begin(place);
  }

  /**
   * Breaks off the one that is being made; nothing is left of it. It is broken off before the act is recorded: on the embedded database every act waits for the backup.
   * @returns whether it was broken off; it may have been finished meanwhile
   */
  async cancel(act: Act): Promise<boolean> {
    const before = this.#newest;
    if (may(act.actor, 'backUp')) this.#running?.stop.abort();
    await this.finished();
    this.#look();
    await actOnce(this.services.database.db, act, { right: 'backUp', action: 'cancelBackup', payload: null }, () => Promise.resolve(null));
    return this.#newest === before;
  }

  async setRule(act: Act, rule: BackupRule): Promise<void> {
    await actOnce(this.services.database.db, act, { right: 'backUp', action: 'setBackupRule', payload: rule, detail: { ...rule } }, async (tx) => {
      await tx.delete(backupRule).where(eq(backupRule.id, 'rule'));
      await tx.insert(backupRule).values({ id: 'rule', ...rule });
      return null;
    });
    this.#rule = rule;
  }

  /** The one that is being made, for whoever waits for it. */
  async finished(): Promise<void> {
    await this.#looking;
    await this.#running?.done;
  }

  async close(): Promise<void> {
    await this.#looking;
    this.#running?.stop.abort();
    await this.finished();
  }

  #begin(place: BackupPlace): void {
    const stop = new AbortController();
    const running = { share: 0, stop, done: Promise.resolve() };
    this.#running = running;
    running.done = this.#make(place, running).finally(() => (this.#running = null));
  }

  async #make(place: BackupPlace, running: { share: number; stop: AbortController }): Promise<void> {
    const at = this.services.clock.now();
    try {
      removeBroken(place.folder, at);
      const path = join(place.folder, nameOf(at));
      const made = await makeBackup({ database: this.services.database, vault: place.vault }, path, place.secret, new Date(at).toISOString(), {
        told: (share) => (running.share = share),
        signal: running.stop.signal,
      });
      this.#failed = null;
      log.info({ backup: path, rows: made.rows, bytes: made.bytes }, 'A backup was made.');
      for (const old of toDelete(this.#look() ?? [], this.#rule)) rmSync(join(place.folder, old.file), { force: true });
      this.#look();
    } catch (error) {
      if (running.stop.signal.aborted) return;
      log.error({ err: error }, 'A backup could not be made.');
      this.#failed = { at, why: whyNot(error, place.folder) };
    }
  }
}

function whyNot(error: unknown, folder: string): string {
  const code = (error as NodeJS.ErrnoException).code;
  if (code === 'ENOSPC') return `The disk of ${folder} is full. Make room on it.`;
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS') return `${folder} can’t be written to. Let the server’s user write there.`;
  if (code === 'ENOENT' || code === 'EIO') return `${folder} is not there. Connect its disk.`;
  return 'The server’s log says more.';
}

/** What a server that was killed left of a backup goes; one that is written to is another server’s, which makes its own. */
function removeBroken(folder: string, now: number): void {
  for (const file of readdirSync(folder).filter(isPart)) {
    const path = join(folder, file);
    const written = statSync(path, { throwIfNoEntry: false })?.mtimeMs;
    if (written !== undefined && now - written > brokenMs) rmSync(path, { force: true });
  }
}

/** Backups in the folder, newest first; null for a folder that can't be read. */
function listed(folder: string): NamedBackup[] | null {
  try {
    return readdirSync(folder)
      .flatMap((file) => readName(file) ?? [])
      .sort((a, b) => b.at - a.at);
  } catch {
    return null;
  }
}

const ofServices = new WeakMap<Services, Backups>();
/** The backups of a server; of one that was told nothing, those without a place. */
export async function backupsOf(services: Services): Promise<Backups> {
  let backups = ofServices.get(services);
  if (!backups) ofServices.set(services, (backups = await Backups.open(services, null)));
  return backups;
}

/** What the Floor says: when the last one was made, where one should have been made since. */
export const overdueBackup = async (services: Services): Promise<Backups['overdue']> => (await backupsOf(services)).overdue;

/** How often it is looked whether one is due, ms. */
const lookMs = 60_000;
/** Begins to make them on time. @returns ends it */
export async function startBackups(services: Services, place: BackupPlace | null): Promise<() => Promise<void>> {
  const backups = await Backups.open(services, place);
  ofServices.set(services, backups);
  const timer = setInterval(() => backups.tick(), lookMs);
  timer.unref();
  return () => {
    clearInterval(timer);
    return backups.close();
  };
}
