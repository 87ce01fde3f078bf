import { readings } from '../transfer/readings';
import { randomUUID } from 'node:crypto';
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import pg from 'pg';
import type { Act } from '../acts/commands';
import { usUnits } from '../../core/units';
import { type Db, ensureTemplate } from '../db/open';
import * as schema from '../db/schema';
import { initialsOf } from '../accounts/people';
import { hashSecret } from '../base/secret';
import { nameKey } from '../accounts/signIn';
import { person, type Role } from '../db/schema';
import { Refused } from '../base/expected';
import { type NewCase, parseNewCase } from '../cases/forms';
import { createCase } from '../cases/openCase';
import type { Person } from '../acts/rights';
import { openServices, type Services, type Settings } from './services';
import { insertBays, listBays, writeShop } from '../shop/shop';
import { enterContent } from '../library/documents';
import { contentName, readPrepared } from '../../content/prepared';
import { parsePrices, savePrices } from '../shop/prices';
import { fleetingFolder } from '../vault/keys';

/** A cost that lets a test hash hundreds of passwords; the way is the same. */
export const cheap = { N: 2 ** 8, r: 8, p: 1 };
export const password = 'grey herons wade at dusk';

const make = (id: string, name: string, role: Role): Person => ({ id, name, initials: initialsOf(name), role });
export const technician = make('t', 'Orla Quibb', 'technician');
export const lead = make('im', 'Ines Marrow', 'lead');
export const owner = make('o', 'Maud Ferrow', 'owner');

/** A shop with three people and two bays on a database of its own, with a clock that stands still. */
export class Harness {
  #count = 0;
  private constructor(
    readonly services: Services,
    readonly close: () => Promise<void>,
  ) {}

  /** @param more other settings of the services; a folder that holds a shop already is opened as it is */
  static async open(server = process.env.TEST_DATABASE_URL, more: Partial<Settings> = {}): Promise<Harness> {
    const root = process.cwd();
    // On PGlite in memory, or on a database made for it at a PostgreSQL server.
    const url = server && (await makeDatabase(server));
    const templates = url ? join(root, '.cache/templates') : await filledTemplates(root);
    const vault = fleetingFolder();
    const services = await openServices({
      root,
      manualClock: true,
      compareKept: true,
      vault: { folder: vault },
      reading: readings,
      secretCost: cheap,
      ...(url ? { url } : { templates }),
      ...more,
    });
    const { db } = services.database;
    const [known] = await db.select({ id: person.id }).from(person).limit(1);
    for (const p of known ? [] : [technician, lead, owner])
      await db.insert(person).values({ ...p, state: 'active', nameKey: nameKey(p.name), password: await hashSecret(password, cheap) });
    if (!known)
      await db.transaction(async (tx) => {
        await writeShop(tx, {
          name: 'Saltmarsh Auto Electric',
          address: '',
          phone: '',
          currency: 'cr',
          labourRate: 84,
          equipment: [],
          units: usUnits,
        });
        await insertBays(tx, ['Bay 1', 'Bay 2']);
      });
    return new Harness(services, async () => {
      await services.close();
      rmSync(vault, { recursive: true, force: true });
      if (server && url) await onServer(server, `drop database "${databaseOf(url)}"`);
    });
  }

  get db() {
    return this.services.database.db;
  }
  /** What acts that read a file work with. */
  get with() {
    return { db: this.db, library: this.services.library, files: this.services.files };
  }
  bay = async (name = 'Bay 1') => (await listBays(this.db)).find((b) => b.name === name)!.id;
  act = (actor: Person = lead, now = this.services.clock.now()): Act => ({ id: `test-${String((this.#count += 1)).padStart(8, '0')}`, actor, now });

  /** Gives the shop a price book of 84 an hour, without items, from now on. */
  async setPrices(more: Record<string, unknown> = {}): Promise<void> {
    const plain = {
      basedOn: 0,
      from: '',
      decimals: 2,
      rate: '84',
      stepMin: 6,
      leastMin: 0,
      callOut: '0',
      leastBill: '0',
      tax: '0',
      taxName: '',
      items: '',
    };
    await savePrices(this.db, this.act(owner), parsePrices({ ...plain, ...more }));
  }

  /** Opens a case through the same form as a page. */
  async openCase(more: Record<string, unknown> = {}, act = this.act()): Promise<number> {
    return (await createCase(this.db, this.services.library, act, intake(more))).id;
  }
}

/** A folder with an empty database that has the shipped content already, and the content as read: made once for all files of tests. */
async function filledTemplates(root: string): Promise<string> {
  const bare = join(root, '.cache/templates');
  const content = join(root, 'content');
  const empty = await ensureTemplate(bare, join(root, 'server/db/migrations'));
  const templates = join(bare, `with-${contentName(content)}`);
  const path = join(templates, basename(empty));
  if (existsSync(path)) return templates;
  readPrepared(content, templates);
  const client = await PGlite.create({ loadDataDir: new Blob([readFileSync(empty)]) });
  await enterContent(drizzle(client, { schema }) as unknown as Db, content, 0, templates);
  const dump = await client.dumpDataDir('gzip');
  await client.close();
  writeFileSync(`${path}.${process.pid}`, Buffer.from(await dump.arrayBuffer()));
  renameSync(`${path}.${process.pid}`, path);
  return templates;
}

const databaseOf = (url: string) => new URL(url).pathname.slice(1);

async function onServer(server: string, statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  await client.query(statement);
  await client.end();
}

async function makeDatabase(server: string): Promise<string> {
  const url = new URL(server);
  url.pathname = `/bloodstone_${randomUUID().replaceAll('-', '')}`;
  await onServer(server, `create database "${databaseOf(url.href)}"`);
  return url.href;
}

export const intake = (more: Record<string, unknown> = {}): NewCase =>
  parseNewCase({
    vehicle: 'Tarn Gantry, grey',
    words: 'It does not start.',
    system: 'profile:tarn-gantry',
    keys: [
      { tag: 'b', role: 'user', here: 'on' },
      { tag: 'a', role: 'main', here: 'on' },
    ],
    ...more,
  });

/** What an act was refused with, or "accepted". */
export async function refusal(work: Promise<unknown>) {
  try {
    await work;
  } catch (error) {
    if (error instanceof Refused)
      return { status: error.status, code: error.problems[0]?.code, path: error.problems[0]?.path, message: error.message };
    throw error;
  }
  return 'accepted';
}
