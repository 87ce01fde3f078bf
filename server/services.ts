import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import type { Library } from '../content/reader';
import { type Clock, openClock } from './clock';
import { openDatabase, type OpenDatabase } from './db/open';
import { bay, caseFile, person } from './db/schema';
import { type Documents, enterContent, openDocuments } from './documents';
import { type Live, openLive } from './live';
import type { Person } from './rights';

/** Everything loaders and actions work with; opened once at the start. */
export interface Services {
  database: OpenDatabase;
  clock: Clock;
  live: Live;
  library: Library;
  documents: Documents;
  /** True when the data is the demo world's; every page says so. */
  demo: boolean;
  /** Who acts, until sign-in exists: a fixed person. */
  actor(): Promise<Person>;
  close(): Promise<void>;
}

export interface Settings {
  /** Folder of the project: content and migrations are found from here. */
  root: string;
  folder?: string;
  url?: string;
  templates?: string;
  manualClock?: boolean;
  /** The demo world: loaded into a folder that is emptied first when `fresh`. */
  demo?: boolean;
  fresh?: boolean;
}

/** The person every action is booked to until sign-in exists; in the demo world a name, in a shop's own data a plain word. */
const fixedPerson: Person = { id: 'im', name: 'Ines Marrow', initials: 'IM', roles: ['technician', 'lead'] };
const bays = ['Bay 1', 'Bay 2', 'Bay 3', 'Bay 4', 'Van'];

export async function openServices(settings: Settings): Promise<Services> {
  const { root } = settings;
  const database = await openDatabase({
    migrations: join(root, 'server/db/migrations'),
    ...(settings.folder ? { folder: settings.folder } : {}),
    ...(settings.url ? { url: settings.url } : {}),
    ...(settings.demo && settings.fresh ? { fresh: true } : {}),
    ...(settings.templates ? { templates: settings.templates } : {}),
  });
  try {
    const { db } = database;
    const clock = await openClock(db, 'shop', settings.manualClock ?? false);
    const library = await enterContent(db, join(root, 'content'), clock.now());
    await db
      .insert(bay)
      .values(bays.map((name, position) => ({ id: name.toLowerCase().replace(' ', '-'), name, position })))
      .onConflictDoNothing();
    await db
      .insert(person)
      .values(settings.demo ? fixedPerson : { ...fixedPerson, name: 'Shop technician', initials: 'ST' })
      .onConflictDoNothing();
    const [actor] = await db.select().from(person).where(eq(person.id, fixedPerson.id));
    const live = await openLive(database);
    return {
      database,
      clock,
      live,
      library,
      documents: openDocuments(db),
      demo: settings.demo ?? false,
      actor: async () => actor!,
      close: () => database.close(),
    };
  } catch (error) {
    await database.close();
    throw error;
  }
}

/** Whether nothing has been recorded yet. */
export async function isEmpty(services: Services): Promise<boolean> {
  return (await services.database.db.select({ id: caseFile.id }).from(caseFile).limit(1)).length === 0;
}
