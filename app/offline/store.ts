import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Waiting } from './outbox';

/** What this browser keeps for when there is no connection (docs/offline.md). */
interface Kept extends DBSchema {
  /** Answers of runs that the server has not answered yet, in their order. */
  outbox: { key: number; value: Waiting };
  /** What pages were last shown with, by address. */
  pages: { key: string; value: KeptPage };
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

/** Answers that wait, on this browser's disk. */
export const boxStore = {
  all: async (): Promise<Waiting[]> => (await database()).getAll('outbox'),
  /** In one go: those leave, the others come behind. */
  async change(leave: readonly number[], come: readonly Omit<Waiting, 'order'>[]): Promise<Waiting[]> {
    const tx = (await database()).transaction('outbox', 'readwrite');
    for (const order of leave) void tx.store.delete(order);
    for (const one of come) void tx.store.add(one as Waiting);
    const all = await tx.store.getAll();
    await tx.done;
    return all;
  },
};

export const pageStore = {
  get: async (address: string): Promise<KeptPage | undefined> => (await database()).get('pages', address),
  put: async (page: KeptPage): Promise<void> => void (await (await database()).put('pages', page)),
  clear: async (): Promise<void> => (await database()).clear('pages'),
};
