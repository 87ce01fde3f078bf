import { fsyncSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { NodeFS } from '@electric-sql/pglite/nodefs';
import { syncFile, syncFolder } from '../base/disk';

/** The part of the database's own file system that is looked into here. */
export interface Stream {
  nfd: number;
  path?: string;
  node: Node;
}
export interface Node {
  parent: Node;
  mode: number;
}
export interface FileSystem {
  realPath(node: Node): string;
  stream_ops: {
    fsync?: (stream: Stream) => number;
    write: (stream: Stream, ...rest: unknown[]) => number;
  };
  node_ops: {
    mknod: (parent: Node, name: string, mode: number, device: number) => unknown;
    rename: (node: Node, folder: Node, name: string) => void;
    setattr: (node: unknown, changed: { mode?: number }) => unknown;
  };
}
/** A disk that took so long for a file has held everything up, ms. */
export const longSyncMs = 5_000;
/** What a file may be to others: nothing. */
const closed = (mode: number) => mode & ~0o077;

/**
 * PGlite's folder on disk, with what it lacks: when the database asks for a file to be on the disk, it is, and so are the names of files that were made or renamed before
 * (without it an acknowledged act may be lost by a power cut, docs/decisions/synced.md); and its files are its user's alone, whatever mode it asks for.
 */
export class SyncedFs extends NodeFS {
  /** How often the database has asked so far. */
  syncs = 0;
  /** Parts of the write-ahead log that were written and are not on the disk yet; none when an act is answered. */
  readonly unsynced = new Set<string>();
  /** Told when the disk took long for a file, before anything else is written. */
  stalled: () => void = () => {};
  /** Folders with names in them that are not on the disk yet. */
  readonly #named = new Set<string>();

  /** Milliseconds that only go forward. */
  protected now(): number {
    return performance.now();
  }

  /** Names in a folder are on the disk. */
  protected syncNames(folder: string): void {
    syncFolder(folder);
  }

  override async init(...given: Parameters<NodeFS['init']>): ReturnType<NodeFS['init']> {
    const { emscriptenOpts } = await super.init(...given);
    const before = emscriptenOpts.preRun ?? [];
    const sync = (mod: unknown) => {
      const { NODEFS } = mod as { NODEFS: FileSystem };
      const { mknod, rename, setattr } = NODEFS.node_ops;
      NODEFS.node_ops.mknod = (parent, name, mode, device) => {
        const node = mknod(parent, name, closed(mode), device);
        this.#named.add(NODEFS.realPath(parent));
        return node;
      };
      NODEFS.node_ops.rename = (node, folder, name) => {
        for (const changed of [node.parent, folder]) this.#named.add(NODEFS.realPath(changed));
        rename(node, folder, name);
      };
      NODEFS.node_ops.setattr = (node, changed) => setattr(node, changed.mode === undefined ? changed : { ...changed, mode: closed(changed.mode) });
      const { write } = NODEFS.stream_ops;
      NODEFS.stream_ops.write = (stream, ...rest) => {
        if (stream.path?.includes('/pg_wal/')) this.unsynced.add(stream.path);
        return write(stream, ...rest);
      };
      NODEFS.stream_ops.fsync = ({ nfd, path }) => {
        this.syncs += 1;
        const from = this.now();
        // The database asks for few folders by itself.
        for (const folder of this.#named) this.syncNames(folder);
        this.#named.clear();
        fsyncSync(nfd);
        if (path !== undefined) this.unsynced.delete(path);
        if (this.now() - from >= longSyncMs) this.stalled();
        return 0;
      };
    };
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...(Array.isArray(before) ? before : [before]), sync] as never } };
  }
}

/** A whole folder is on the disk, with every name in it and its own. */
export function syncTree(folder: string): void {
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isFile()) syncFile(path);
    else if (entry.isDirectory()) syncFolder(path);
  }
  syncFolder(folder);
  syncFolder(dirname(folder));
}

/** Step in which the log of a new folder grows; a small one leaves room on a small disk. */
export const newSegmentBytes = 1024 * 1024;
export const initParams = ['--wal-segsize=1'];

/** As PGlite starts by itself, but with syncing, and with a log that is tidied up long before it has a gigabyte. */
export function startParams(segmentBytes: number): string[] {
  const mb = (segments: number) => `${(segments * segmentBytes) / (1024 * 1024)}MB`;
  return [
    ...PGlite.defaultStartParams.filter((p) => p !== '-F'),
    // Old parts of the log are deleted, not used again with what stands in them.
    ...[
      'wal_sync_method=fsync',
      'wal_recycle=off',
      `min_wal_size=${mb(2)}`,
      `max_wal_size=${segmentBytes > newSegmentBytes ? mb(3) : mb(12)}`,
    ].flatMap((setting) => ['-c', setting]),
  ];
}
