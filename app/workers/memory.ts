import { formOf, lookAtReads, type Layout, type MemoryImage, type MemoryLook, type MemoryReads, mostFileBytes, readMemory } from '../../core/memory';

/** What is asked of the worker: to read one file, or to look at the reads there are. */
export type MemoryAsked = { kind: 'read'; file: File; layout: Layout } | { kind: 'look'; reads: MemoryReads; layout: Layout; written: number | null };
export type MemoryNews =
  | { kind: 'progress'; share: number }
  | { kind: 'read'; image: MemoryImage }
  | { kind: 'look'; look: MemoryLook }
  | { kind: 'problem'; message: string };

const tell = (news: MemoryNews) => postMessage(news);

addEventListener('message', ({ data }: MessageEvent<MemoryAsked>) => {
  if (data.kind === 'look') tell({ kind: 'look', look: lookAtReads(data.reads, data.layout, data.written) });
  else void read(data.file, data.layout);
});

async function read(file: File, { base }: Layout): Promise<void> {
  const say = (message: string) => tell({ kind: 'problem', message: `${file.name}: ${message}` });
  if (file.size > mostFileBytes) return say(`larger than ${mostFileBytes / 2 ** 20} MB. Choose the memory file.`);
  const bytes = new Uint8Array(file.size);
  try {
    const pieces = file.stream().getReader();
    let done = 0;
    for (;;) {
      const { value, done: over } = await pieces.read();
      if (over) break;
      bytes.set(value, done);
      done += value.byteLength;
      tell({ kind: 'progress', share: done / file.size });
    }
  } catch {
    return say('can’t be read. Choose it again.');
  }
  const found = readMemory(bytes, formOf(file.name), base);
  if (found.ok) return tell({ kind: 'read', image: found.value });
  const [first, ...more] = found.problems;
  say([first!.path, first!.message, more.length > 0 ? `(and ${more.length} more)` : ''].filter(Boolean).join(' '));
}
