import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { KeptAct } from './acts';
import type { Waiting } from './outbox';
import type { Queued } from './queue';

/** What this browser keeps for when there is no connection (docs/offline.md). */
interface Kept extends DBSchema {
  /** Answers of runs that the server has not answered yet, in their order. */
  outbox: { key: number; value: Waiting };
  /** What pages were last shown with, by address. */
  pages: { key: string; value: KeptPage };
}
/** A database of its own: a tab with an older version of the app, whose run goes on without a connection, is in nobody's way. */
interface KeptActs extends DBSchema {
  /** Acts of other pages that the server has not taken, in their order. */
  acts: { key: number; value: KeptAct };
}

export interface KeptPage {
  address: string;
  /** The build whose page it is: data of another one may have another shape. */
  build: string;
  /** What the page showed; undefined where only its document is kept. */
  data?: unknown;
}

let opened: Promise<IDBPDatabase<Kept>> | undefined;
const database = () =>
  (opened ??= openDB<Kept>('bloodstone', 1, {
    upgrade(db) {
      db.createObjectStore('outbox', { keyPath: 'order', autoIncrement: true });
      db.createObjectStore('pages', { keyPath: 'address' });
    },
  }));
let openedActs: Promise<IDBPDatabase<KeptActs>> | undefined;
const actsDatabase = () =>
  (openedActs ??= openDB<KeptActs>('bloodstone.acts', 1, {
    upgrade(db) {
      db.createObjectStore('acts', { keyPath: 'order', autoIncrement: true });
    },
  }));

/** One kind of what waits for the server, on this browser's disk. */
interface List<T> {
  getAll(): Promise<T[]>;
  delete(order: number): Promise<unknown>;
  add(one: T): Promise<unknown>;
}
const queueStore = <T extends Queued>(open: () => Promise<{ store: List<T>; done: Promise<unknown> }>) => {
  /** In one go: those leave, the others come behind. */
  const change = async (leave: readonly number[], come: readonly Omit<T, 'order'>[]): Promise<T[]> => {
    const { store, done } = await open();
    for (const order of leave) void store.delete(order);
    for (const one of come) void store.add(one as T);
    const all = await store.getAll();
    await done;
    return all;
  };
  return { all: () => change([], []), change };
};
export const runStore = queueStore<Waiting>(async () => (await database()).transaction('outbox', 'readwrite'));
export const actStore = queueStore<KeptAct>(async () => (await actsDatabase()).transaction('acts', 'readwrite'));

export const pageStore = {
  get: async (address: string): Promise<KeptPage | undefined> => (await database()).get('pages', address),
  put: async (page: KeptPage): Promise<void> => void (await (await database()).put('pages', page)),
  clear: async (): Promise<void> => (await database()).clear('pages'),
};
