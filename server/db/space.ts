import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, rmSync, statSync, writeSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { join } from 'node:path';
import { refused } from '../base/expected';

const mb = 1024 * 1024;
/** Kept for the database's own needs (its log, tidying up, a clean end) when the disk is full, bytes. */
const reserveBytes = 6 * mb;
/** Free space, beside the reserve, below which nothing is written any more, bytes: the largest act with its trace in the log, twice. */
const leastFree = 6 * mb;
/** A file of this size is written several times: to the log, to the table, and to the log again after tidying up. */
const copies = 3;

/** Free space of the disk that holds the data. */
export interface Space {
  /**
   * Looks whether the disk has room for an act that brings so many bytes. @throws Refused 507 when it has not; whatever is there can still be read
   */
  need(bytes?: number): Promise<void>;
  /** Whether small things may be written that nobody asked for. */
  roomy(): Promise<boolean>;
  /** Gives the reserve back to the disk, for a clean end. */
  release(): void;
}

/** The disk has no room to start on. */
export class DiskFull extends Error {}

/** @throws DiskFull when the folder's disk has not even room for a start, with the reserve given back */
export async function roomToStart(folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const free = async () => {
    const { bavail, bsize } = await statfs(folder);
    return bavail * bsize;
  };
  if ((await free()) < leastFree) rmSync(join(folder, 'reserve'), { force: true });
  const bytes = await free();
  if (bytes < reserveBytes / 2)
    throw new DiskFull(
      `The disk that holds ${folder} is nearly full: ${(bytes / mb).toFixed(1)} MB are free, ${reserveBytes / 2 / mb} MB are needed to start. Make room on it, then start again.`,
    );
}

/** Where the database is a server's, its disk is that server's business. */
export const endless: Space = { need: async () => {}, roomy: async () => true, release: () => {} };

/**
 * The embedded database ends for good when its log finds no room, so it never gets there: acts are refused while little is free, and a reserve lies
 * on the disk which is given back to it when somebody else has filled the rest.
 * @param segmentBytes step in which the database's log grows
 */
export function openSpace(folder: string, segmentBytes: number): Space {
  const path = join(folder, 'reserve');
  const least = leastFree + 2 * segmentBytes;

  const look = async (): Promise<number> => {
    const { bavail, bsize } = await statfs(folder);
    const free = bavail * bsize;
    if (free < reserveBytes) release();
    else if (free > least + 2 * reserveBytes && !isWhole() && take()) return free - reserveBytes;
    return free;
  };
  const isWhole = () => existsSync(path) && statSync(path).size === reserveBytes;
  const release = () => rmSync(path, { force: true });
  const take = (): boolean => {
    try {
      const file = openSync(path, 'w', 0o600);
      try {
        // Not zeros: a disk that packs its files would keep nothing.
        const block = Buffer.alloc(mb, 0x5a);
        for (let i = 0; i < reserveBytes; i += mb) writeSync(file, block);
        fsyncSync(file);
      } finally {
        closeSync(file);
      }
      return true;
    } catch {
      release();
      return false;
    }
  };
  return {
    async need(bytes = 0) {
      const free = await look();
      const wanted = least + bytes * copies;
      if (free < wanted)
        throw refused(
          507,
          'diskFull',
          `The disk of this shop’s Bloodstone is nearly full: ${Math.floor(free / mb)} MB are free, ${Math.ceil(wanted / mb)} MB are needed. ` +
            'Nothing was saved. Make room on it, then send this again; what you typed stays here.',
        );
    },
    roomy: async () => (await look()) >= least,
    release,
  };
}
