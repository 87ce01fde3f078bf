import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { isNull } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { type Clock, openClock } from './clock';
import { besideOthers } from './databaseClock';
import { Kept } from '../db/kept';
import { type Db, openDatabase, type OpenDatabase, type PoolSettings } from '../db/open';
import { sealed } from '../db/schema';
import type { SyncedFs } from '../db/synced';
import { moveToPresent } from '../db/world';
import { forgetCommands } from '../acts/commands';
import { type Documents, enterContent, openDocuments } from '../library/documents';
import { contentName } from '../../content/prepared';
import { log } from '../base/log';
import { type Live, openLive } from '../acts/live';
import { type Cost, cost } from '../base/secret';
import { type Files, openFiles, type Readings } from '../reading/files';
import { KeptCases } from '../record/keptCases';
import { finishDestroying, sweepKeys } from '../vault/items';
import { fleetingFolder, openKeys, type VaultKeys, type VaultPlace } from '../vault/keys';
import { openPlanner, type Planner } from '../weighing/planner';
import { openWeigher, type Weigher } from '../weighing/weigher';

/** Everything loaders and actions work with; opened once at the start. */
export interface Services {
  database: OpenDatabase;
  /** What pages read again and again, kept until it changes. */
  kept: Kept;
  cases: KeptCases;
  clock: Clock;
  live: Live;
  library: Library;
  documents: Documents;
  weigher: Weigher;
  planner: Planner;
  /** Reads what people give us as files. */
  files: Files;
  /** The keys of what is sealed, or why they aren't there. */
  keys: VaultKeys;
  /** True when the data is the demo world's; every page says so. */
  demo: boolean;
  /** The address people use, where it is set. */
  address: string | undefined;
  /** Cost of hashing a password; tests use a small one. */
  secretCost: Cost;
  close(): Promise<void>;
}

export interface Settings {
  /** Folder of the project: content and migrations are found from here. */
  root: string;
  folder?: string;
  url?: string;
  pool?: PoolSettings;
  /** Folder of what the build prepares: an empty database, the demo world, the content as read. */
  templates?: string;
  /** File of the worker that looks far ahead in a diagnosis and plans over all cases. */
  worker?: string;
  /** File of the process that reads files from outside, or the readings themselves. */
  reading: string | Readings;
  /** The database's folder as it sees it; for tests. */
  openFs?: (dataDir: string) => SyncedFs;
  manualClock?: boolean;
  /** Reads what is kept anew each time and ends in an error where it is another; for tests. */
  compareKept?: boolean;
  /** The address people use, when it is not the one listened on. */
  address?: string;
  secretCost?: Cost;
  /** Where the keys of what is sealed are; beside the database in its folder, if nothing else is said. */
  vault?: Partial<VaultPlace>;
  /** The demo world: loaded into a folder that is emptied first when `fresh`. */
  demo?: boolean;
  fresh?: boolean;
  /** The demo's shop has a past: generated closed cases. */
  history?: boolean;
  /** Starts the simulated meter beside the server; the demo always does. */
  simulatedMeter?: boolean;
}

/** Name of a ready-made demo world: another content is another world, and one with a past another one too. */
export const worldName = (root: string, history = false): string => `${contentName(join(root, 'content'))}${history ? '-history' : ''}`;

/** How often the ids of old acts are forgotten, ms. */
const forgetMs = 6 * 60 * 60_000;

export async function openServices(settings: Settings): Promise<Services> {
  const { root } = settings;
  const database = await openDatabase({
    migrations: join(root, 'server/db/migrations'),
    ...(settings.folder ? { folder: settings.folder } : {}),
    ...(settings.url ? { url: settings.url } : {}),
    ...(settings.pool ? { pool: settings.pool } : {}),
    ...(settings.demo && settings.fresh ? { fresh: true } : {}),
    ...(settings.templates ? { templates: settings.templates } : {}),
    ...(settings.openFs ? { openFs: settings.openFs } : {}),
    ...(settings.demo && settings.templates ? { world: worldName(root, settings.history) } : {}),
  });
  try {
    const { db } = database;
    if (settings.demo) await moveToPresent(db, Date.now());
    // On an embedded database this server alone answers; on a server of its own others do too.
    const others = database.ours ? undefined : await besideOthers(db);
    const clock = await openClock(db, 'shop', settings.manualClock ?? false, others);
    const library = await database.alone(() => enterContent(db, join(root, 'content'), clock.now(), settings.templates));
    const forget = () => forgetCommands(db, clock.now());
    await forget();
    const forgetting = setInterval(
      () => void forget().catch((error: unknown) => log.warn({ err: error }, 'Old action ids could not be deleted.')),
      forgetMs,
    );
    forgetting.unref();
    const live = await openLive(database);
    const weigher = openWeigher(settings.worker);
    const planner = openPlanner(settings.worker);
    const files = openFiles(settings.reading);
    const place = placeOf(settings);
    const keys = await openVault(db, settings, place.folder);
    const kept = new Kept(database.ours ? database.statements : null, settings.compareKept);
    return {
      database,
      kept,
      cases: new KeptCases(db, kept, settings.compareKept),
      clock,
      live,
      library,
      documents: openDocuments(db),
      weigher,
      planner,
      files,
      keys,
      demo: settings.demo ?? false,
      address: settings.address,
      secretCost: settings.secretCost ?? cost,
      close: async () => {
        clearInterval(forgetting);
        others?.close();
        await Promise.all([weigher.close(), planner.close(), files.close()]);
        await database.close();
        if (place.fleeting) rmSync(place.folder, { recursive: true, force: true });
      },
    };
  } catch (error) {
    await database.close();
    throw error;
  }
}

/** Where the keys of what is sealed are: where it is said, beside the database, or, for a database in memory, in a folder that goes with it. */
function placeOf({ vault, folder, root, url }: Settings): { folder: string; fleeting: boolean } {
  const given = vault?.folder ?? (url ? join(root, '.data/vault') : folder && join(folder, 'vault'));
  return given ? { folder: given, fleeting: false } : { folder: fleetingFolder(), fleeting: true };
}

/** The keys of what is sealed; without them everything else works. What a server that ended has left undone is done. */
async function openVault(db: Db, { vault, folder, url, demo, fresh }: Settings, keysFolder: string): Promise<VaultKeys> {
  // The demo begins anew, with nothing sealed.
  if (demo && fresh && !url && folder) rmSync(join(folder, 'vault'), { recursive: true, force: true });
  const [used] = await db.select({ id: sealed.id }).from(sealed).where(isNull(sealed.destroyedAt)).limit(1);
  const keys = openKeys({ ...vault, folder: keysFolder }, used !== undefined);
  if (!keys.open) {
    log.warn(keys.why);
    return keys;
  }
  await finishDestroying(db, keys.store);
  await sweepKeys(db, keys.store, Date.now());
  return keys;
}
