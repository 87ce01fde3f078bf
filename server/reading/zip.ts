import { Unzip, UnzipInflate, zipSync } from 'fflate';
import { type Refused, refused } from '../base/expected';

/** What a file with a case may hold, unpacked. */
export const limits = { entries: 80, entryBytes: 16 * 1024 * 1024, totalBytes: 128 * 1024 * 1024 } as const;
/** Packed bytes that are unpacked at a time: even the densest grow to no more than some megabytes before the limits are looked at again. */
const slice = 8192;

/** Packs files; photos are packed already. */
export const pack = (files: Record<string, Uint8Array>): Uint8Array =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, data]) => [name, [data, { level: name.endsWith('.json') ? 6 : 0 }]])));

const bad = (message: string) => refused(400, 'badZip', message, 'file');

/**
 * Unpacks a file, slice by slice, and stops as soon as it holds more than it may: the sizes that a file states are not believed.
 * @param allowed the names an entry may have; no other entry is unpacked, so no name ever becomes a path
 * @throws Refused 400 for a file that is no whole ZIP or holds something else, 413 when it holds too much
 */
export async function unpack(data: Uint8Array, allowed: RegExp): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  const open = new Set<string>();
  let total = 0;
  // The unpacker turns what is thrown in it into its own error, so the first reason is kept here.
  let reason: Refused | undefined;
  const stop = (why: Refused): never => {
    throw (reason ??= why);
  };
  const unzip = new Unzip((entry) => {
    const name = entry.name;
    if (files.size + open.size >= limits.entries)
      stop(refused(413, 'zipTooLarge', `The file holds more than ${limits.entries} entries. Export the case again.`, 'file'));
    if (!allowed.test(name)) stop(bad(`The file holds “${name.slice(0, 60)}”, which doesn’t belong in an exported case. Export the case again.`));
    if (files.has(name) || open.has(name)) stop(bad(`“${name}” is in the file twice. Export the case again.`));
    const chunks: Uint8Array[] = [];
    let bytes = 0;
    open.add(name);
    entry.ondata = (error, chunk, final) => {
      if (error) stop(bad('The file is damaged. Export the case again.'));
      bytes += chunk.byteLength;
      total += chunk.byteLength;
      if (bytes > limits.entryBytes || total > limits.totalBytes)
        stop(refused(413, 'zipTooLarge', 'The file unpacks to more than an exported case can be. It was not read.', 'file'));
      chunks.push(chunk);
      if (!final) return;
      open.delete(name);
      files.set(name, Buffer.concat(chunks));
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  if (data[0] !== 0x50 || data[1] !== 0x4b) throw bad('This is not a ZIP file. Choose the file that the other shop exported.');
  // The list at its end comes last: without it the file was cut off.
  if (Buffer.from(data.subarray(-65_557)).lastIndexOf('PK\u0005\u0006') < 0) throw bad('The file is incomplete. Copy it again.');
  try {
    for (let from = 0; from < data.byteLength; from += slice) {
      unzip.push(data.subarray(from, from + slice), from + slice >= data.byteLength);
      // Other requests come in between.
      if (from % (slice * 64) === 0) await new Promise(setImmediate);
    }
  } catch {
    throw reason ?? bad('The file is damaged. Export the case again.');
  }
  if (open.size > 0) throw bad('The file is incomplete. Copy it again.');
  return files;
}
