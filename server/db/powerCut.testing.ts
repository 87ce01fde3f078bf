import { cpSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { type FileSystem, type Node, type Stream, SyncedFs } from './synced';

/**
 * A disk whose power can be cut at any moment, afterwards: everything that the database does to its folder is written down, and the folder can be made again as it could look after a
 * cut behind each of those acts. What was synced is there. Of what was not, a disk keeps nothing, all, or some sectors of it.
 */

/** Bytes that a disk writes whole or not at all. */
const sectorBytes = 512;

type Operation =
  | { kind: 'file' | 'folder'; path: string }
  | { kind: 'rename'; from: string; path: string }
  | { kind: 'remove'; path: string }
  | { kind: 'write'; path: string; at: number; bytes: Uint8Array }
  | { kind: 'size'; path: string; size: number }
  | { kind: 'syncFile' | 'syncNames'; path: string };

const isFolder = (mode: number) => (mode & 0o170000) === 0o040000;

/** PGlite's folder, with everything that is done to it written down. */
export class RecordingFs extends SyncedFs {
  readonly operations: Operation[] = [];

  constructor(private readonly folder: string) {
    super(folder);
  }

  protected override syncNames(folder: string): void {
    super.syncNames(folder);
    this.operations.push({ kind: 'syncNames', path: relative(this.folder, folder) });
  }

  override async init(...given: Parameters<SyncedFs['init']>): ReturnType<SyncedFs['init']> {
    const answer = await super.init(...given);
    const record = (mod: unknown) => this.#record((mod as { NODEFS: FileSystem }).NODEFS);
    (answer.emscriptenOpts.preRun as unknown[]).push(record);
    return answer;
  }

  #record(fs: FileSystem): void {
    const pathOf = (node: Node) => relative(this.folder, fs.realPath(node));
    const { operations } = this;
    const node = fs.node_ops as unknown as Record<string, (...given: never[]) => unknown>;
    const stream = fs.stream_ops as unknown as Record<string, (...given: never[]) => unknown>;
    const around = (ops: typeof node, name: string, noted: (given: unknown[], answer: unknown) => Operation | undefined) => {
      const own = ops[name]!;
      ops[name] = (...given: never[]) => {
        // Paths are as they are before it is done; what is done is noted once it was.
        const note = noted(given, undefined);
        const answer = own(...given);
        if (note) operations.push(note.kind === 'write' ? { ...note, bytes: note.bytes.subarray(0, answer as number) } : note);
        return answer;
      };
    };
    around(node, 'mknod', ([parent, name, mode]) => ({
      kind: isFolder(mode as number) ? 'folder' : 'file',
      path: join(pathOf(parent as Node), name as string),
    }));
    around(node, 'rename', ([old, folder, name]) => ({
      kind: 'rename',
      from: pathOf(old as Node),
      path: join(pathOf(folder as Node), name as string),
    }));
    for (const name of ['unlink', 'rmdir'])
      around(node, name, ([parent, file]) => ({ kind: 'remove', path: join(pathOf(parent as Node), file as string) }));
    around(node, 'setattr', ([of, changed]) => {
      const { size } = changed as { size?: number };
      return size === undefined ? undefined : { kind: 'size', path: pathOf(of as Node), size };
    });
    around(stream, 'write', ([to, buffer, offset, length, position]) => ({
      kind: 'write',
      path: pathOf((to as Stream).node),
      at: position as number,
      bytes: new Uint8Array(
        Uint8Array.prototype.slice.call(
          new Uint8Array((buffer as Uint8Array).buffer, (buffer as Uint8Array).byteOffset + (offset as number), length as number),
        ),
      ),
    }));
    around(stream, 'fsync', ([of]) => {
      const { node: its } = of as Stream;
      return { kind: isFolder(its.mode) ? 'syncNames' : 'syncFile', path: pathOf(its) };
    });
  }
}

/** What became of what was not synced: nothing of it, all of it, or by chance: each sector, and of the names of each folder those before some moment. */
export type Unsynced = 'lost' | 'kept' | ((next: 'sector') => boolean);

/** A file's contents as they are, as they are on the disk, and what lies between. */
interface Contents {
  live: Buffer;
  disk: Buffer;
  pending: ({ at: number; bytes: Uint8Array } | { size: number })[];
}
type Name = { path: string; of: Contents | 'folder' | null; folders: string[] };

/**
 * Makes the folder as it could look after a cut.
 * @param base the folder as it was when recording began; all of it on the disk
 * @param count so many of the operations were done
 */
export function afterCut(base: string, operations: readonly Operation[], count: number, unsynced: Unsynced, to: string): void {
  const touched = new Map<string, Contents>();
  const contentsOf = (path: string): Contents => {
    let known = touched.get(path);
    if (!known) {
      const bytes = readFileSync(join(base, path));
      touched.set(path, (known = { live: bytes, disk: Buffer.from(bytes), pending: [] }));
    }
    return known;
  };
  /** Changes of names that are not on the disk yet, in their order. */
  let pendingNames: Name[] = [];
  /** Names as they are on the disk, where they differ from the base; null: gone. */
  const onDisk = new Map<string, Contents | 'folder' | null>();

  for (const op of operations.slice(0, count))
    switch (op.kind) {
      case 'file': {
        const made: Contents = { live: Buffer.alloc(0), disk: Buffer.alloc(0), pending: [] };
        touched.set(op.path, made);
        pendingNames.push({ path: op.path, of: made, folders: [dirname(op.path)] });
        break;
      }
      case 'folder':
        pendingNames.push({ path: op.path, of: 'folder', folders: [dirname(op.path)] });
        break;
      case 'rename': {
        const moved = contentsOf(op.from);
        touched.delete(op.from);
        touched.set(op.path, moved);
        // One change: a disk never shows neither name, and the old one goes when the new one comes.
        pendingNames.push(
          { path: op.path, of: moved, folders: [dirname(op.path)] },
          { path: op.from, of: null, folders: [dirname(op.path), dirname(op.from)] },
        );
        break;
      }
      case 'remove':
        touched.delete(op.path);
        pendingNames.push({ path: op.path, of: null, folders: [dirname(op.path)] });
        break;
      case 'write': {
        const file = contentsOf(op.path);
        file.live = written(file.live, op.at, op.bytes);
        file.pending.push({ at: op.at, bytes: op.bytes });
        break;
      }
      case 'size': {
        const file = contentsOf(op.path);
        file.live = sized(file.live, op.size);
        file.pending.push({ size: op.size });
        break;
      }
      case 'syncFile': {
        const file = contentsOf(op.path);
        file.disk = Buffer.from(file.live);
        file.pending = [];
        break;
      }
      case 'syncNames': {
        const isHere = (n: Name) => n.folders.some((f) => (f === '.' ? '' : f) === op.path);
        for (const n of pendingNames.filter(isHere)) onDisk.set(n.path, n.of);
        pendingNames = pendingNames.filter((n) => !isHere(n));
      }
    }

  rmSync(to, { recursive: true, force: true });
  cpSync(base, to, { recursive: true });
  const names = new Map(onDisk);
  const stopped = new Set<string>();
  for (const n of pendingNames) {
    const folder = n.folders[0]!;
    if (unsynced === 'lost' || stopped.has(folder)) continue;
    if (unsynced !== 'kept' && !unsynced('sector')) stopped.add(folder);
    else names.set(n.path, n.of);
  }
  const put = (path: string, file: Contents) => {
    mkdirSync(dirname(join(to, path)), { recursive: true });
    writeFileSync(join(to, path), unsynced === 'kept' ? file.live : unsynced === 'lost' ? file.disk : torn(file, unsynced));
  };
  const placed = new Set<Contents>();
  for (const [path, of] of names) {
    if (of === null) rmSync(join(to, path), { recursive: true, force: true });
    else if (of === 'folder') mkdirSync(join(to, path), { recursive: true });
    else {
      put(path, of);
      placed.add(of);
    }
  }
  // Files that were there before, under the name that they have on the disk.
  for (const [path, file] of touched) if (!placed.has(file) && !pendingNames.some((n) => n.of === file)) put(path, file);
}

function written(bytes: Buffer, at: number, more: Uint8Array): Buffer {
  const out = at + more.length > bytes.length ? sized(bytes, at + more.length) : bytes;
  out.set(more, at);
  return out;
}
function sized(bytes: Buffer, size: number): Buffer {
  if (size <= bytes.length) return Buffer.from(bytes.subarray(0, size));
  const out = Buffer.alloc(size);
  out.set(bytes);
  return out;
}

/** What is on the disk, with some sectors of what was written since. */
function torn(file: Contents, chance: (next: 'sector') => boolean): Buffer {
  let out: Buffer = Buffer.from(file.disk);
  for (const change of file.pending) {
    if ('size' in change) {
      if (chance('sector')) out = sized(out, change.size);
      continue;
    }
    for (let at = change.at; at < change.at + change.bytes.length;) {
      const end = Math.min(change.at + change.bytes.length, (Math.floor(at / sectorBytes) + 1) * sectorBytes);
      if (chance('sector')) out = written(out, at, change.bytes.subarray(at - change.at, end - change.at));
      at = end;
    }
  }
  return out;
}
