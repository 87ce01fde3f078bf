import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream, openSync, closeSync, readSync, statSync, renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { PassThrough, Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { syncFile, syncFolder } from '../base/disk';
import { BackupProblem, type BackupSecret, keyOf, kindOf, saltBytes } from './key';
import { partOf } from './keeping';

/** The first line of a backup, open to everybody: what it is, when it was made, and what opens it. */
export interface BackupHead {
  bloodstone: 'backup';
  form: 1;
  /** ISO 8601. */
  made: string;
  opens: 'password' | 'key file';
  salt: string;
  nonce: string;
}
/** One piece of what is inside: a line of JSON that says what it is and how long, then so many bytes. */
export interface Piece {
  head: Record<string, unknown>;
  body: Buffer;
}

const cipher = 'aes-256-gcm';
const [nonceBytes, tagBytes] = [12, 16];
/** Longest first line, and longest line before a piece, bytes. */
const longestHead = 4096;
const longestPieceHead = 1 << 20;

/**
 * Writes a backup: the head, then pieces, packed with gzip and encrypted as one (AES-256-GCM, NIST SP 800-38D; the head is covered too), the tag at the end. Under its name it is there
 * whole, on the disk, or not at all.
 * @param signal breaks it off; nothing is left then
 */
export async function writeBackup(
  path: string,
  secret: BackupSecret,
  made: string,
  pieces: AsyncIterable<Piece>,
  signal?: AbortSignal,
): Promise<{ bytes: number }> {
  const salt = randomBytes(saltBytes);
  const nonce = randomBytes(nonceBytes);
  const head: BackupHead = {
    bloodstone: 'backup',
    form: 1,
    made,
    opens: kindOf(secret),
    salt: salt.toString('base64'),
    nonce: nonce.toString('base64'),
  };
  const first = Buffer.from(`${JSON.stringify(head)}\n`);
  const lock = createCipheriv(cipher, keyOf(secret, salt), nonce).setAAD(first);
  // Of its own name: another server may make one at the same moment.
  const part = partOf(path);
  const out = createWriteStream(part, { mode: 0o600 });
  try {
    out.write(first);
    await pipeline(Readable.from(framed(pieces)), createGzip({ level: 6 }), lock, out, { ...(signal ? { signal } : {}), end: false });
    await new Promise<void>((resolve, reject) => out.end(lock.getAuthTag(), (error?: Error | null) => (error ? reject(error) : resolve())));
    syncFile(part);
    renameSync(part, path);
    syncFolder(dirname(path));
    return { bytes: statSync(path).size };
  } catch (error) {
    out.destroy();
    rmSync(part, { force: true });
    throw error;
  }
}

async function* framed(pieces: AsyncIterable<Piece>): AsyncGenerator<Buffer> {
  for await (const { head, body } of pieces) {
    yield Buffer.from(`${JSON.stringify({ ...head, bytes: body.length })}\n`);
    if (body.length > 0) yield body;
  }
}

/** The first line of a backup. @throws BackupProblem */
export function readHead(path: string): { head: BackupHead; line: Buffer } {
  const start = Buffer.alloc(longestHead);
  let n: number;
  try {
    const file = openSync(path, 'r');
    n = readSync(file, start, 0, longestHead, 0);
    closeSync(file);
  } catch (error) {
    throw new BackupProblem(`${path}: can’t be read (${(error as NodeJS.ErrnoException).code}). Name a backup.`);
  }
  const end = start.subarray(0, n).indexOf(10);
  const line = start.subarray(0, end + 1);
  const none = () => new BackupProblem(`${path} is no backup of Bloodstone: its first line is another one.`);
  if (end < 0) throw none();
  let head: Partial<BackupHead>;
  try {
    head = JSON.parse(line.toString()) as Partial<BackupHead>;
  } catch {
    throw none();
  }
  if (head?.bloodstone !== 'backup') throw none();
  if (head.form !== 1) throw new BackupProblem(`${path} is a backup of a newer Bloodstone. Restore it with that one.`);
  if (
    typeof head.made !== 'string' ||
    Number.isNaN(Date.parse(head.made)) ||
    (head.opens !== 'password' && head.opens !== 'key file') ||
    Buffer.from(String(head.salt), 'base64').length !== saltBytes ||
    Buffer.from(String(head.nonce), 'base64').length !== nonceBytes
  )
    throw new BackupProblem(`${path} is damaged: its first line can’t be read. Take another backup.`);
  return { head: head as BackupHead, line };
}

/**
 * The pieces of a backup. Before the first is given, the whole file is read once and its tag is looked at, so nothing that was changed or cut off is ever taken.
 * @throws BackupProblem
 */
export async function* readBackup(path: string, secret: BackupSecret): AsyncGenerator<Piece> {
  const { head, line } = readHead(path);
  if (head.opens !== kindOf(secret)) throw new BackupProblem(`${path} is opened with a ${head.opens}, and a ${kindOf(secret)} was given.`);
  const key = keyOf(secret, Buffer.from(head.salt, 'base64'));
  await pipeline(opened(path, head, line, key), new Writable({ write: (_bytes, _encoding, done) => done() })).catch((error: unknown) => {
    if (error instanceof BackupProblem) throw error;
    throw new BackupProblem(
      `${path} can’t be opened: the ${head.opens} is another one, or the file was changed or cut off. Try the right ${head.opens}, then another backup.`,
    );
  });
  const unpacked = new PassThrough();
  const reading = pipeline(opened(path, head, line, key), createGunzip(), unpacked);
  reading.catch((error: Error) => unpacked.destroy(error));
  yield* piecesOf(unpacked, path);
  await reading;
}

/** What the cipher gives back; an error at its end unless every byte is as it was written. */
function opened(path: string, head: BackupHead, line: Buffer, key: Uint8Array): Readable {
  const { size } = statSync(path);
  if (size < line.length + tagBytes) throw new BackupProblem(`${path} is cut off. Take another backup.`);
  const tag = Buffer.alloc(tagBytes);
  const file = openSync(path, 'r');
  readSync(file, tag, 0, tagBytes, size - tagBytes);
  closeSync(file);
  const unlock = createDecipheriv(cipher, key, Buffer.from(head.nonce, 'base64')).setAAD(line).setAuthTag(tag);
  // An empty file between head and tag has no stream to read from.
  const from = size - tagBytes > line.length ? createReadStream(path, { start: line.length, end: size - tagBytes - 1 }) : Readable.from([]);
  from.on('error', (error: Error) => unlock.destroy(error));
  return from.pipe(unlock);
}

async function* piecesOf(bytes: AsyncIterable<Buffer>, path: string): AsyncGenerator<Piece> {
  let head: Record<string, unknown> | null = null;
  let waiting: Buffer[] = [];
  let have = 0;
  for await (const more of bytes) {
    waiting.push(more);
    have += more.length;
    const wanted = head ? (head.bytes as number) : 0;
    if (have < wanted) continue;
    let rest = Buffer.concat(waiting);
    for (;;) {
      if (!head) {
        const end = rest.indexOf(10);
        if (end < 0 && rest.length > longestPieceHead) throw new BackupProblem(`${path}: a piece has no head.`);
        if (end < 0) break;
        head = JSON.parse(rest.subarray(0, end).toString()) as Record<string, unknown>;
        rest = rest.subarray(end + 1);
      }
      const size = head.bytes as number;
      if (rest.length < size) break;
      yield { head, body: rest.subarray(0, size) };
      rest = rest.subarray(size);
      head = null;
    }
    waiting = rest.length > 0 ? [rest] : [];
    have = rest.length;
  }
  if (head || have > 0) throw new BackupProblem(`${path} ends in the middle of a piece.`);
}
