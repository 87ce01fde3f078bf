import { lampCsvReader, lampVcdReader } from '../../core/lamp';
import type { Look } from '../bench/look';

/** What the reader of a file tells the page. */
export type LampFileNews = { kind: 'progress'; share: number } | { kind: 'read'; look: Look } | { kind: 'problem'; message: string };

const tell = (news: LampFileNews) => postMessage(news);

/** Reads a recording in pieces, so that a long one needs neither memory nor the page's time. */
addEventListener('message', (event: MessageEvent<File>) => void read(event.data));

async function read(file: File): Promise<void> {
  const reader = /\.vcd$/i.test(file.name) ? lampVcdReader() : /\.csv$/i.test(file.name) ? lampCsvReader() : undefined;
  if (!reader) return tell({ kind: 'problem', message: `${file.name}: unknown kind of file. Choose a .csv (seconds,level) or a .vcd file.` });
  const say = ({ path, message }: { path: string; message: string }) =>
    tell({ kind: 'problem', message: [file.name, path, message].filter(Boolean).join(': ') });
  try {
    let done = 0;
    const pieces = file.stream().pipeThrough(
      new TransformStream<Uint8Array, Uint8Array>({
        transform(piece, controller) {
          done += piece.byteLength;
          controller.enqueue(piece);
        },
      }),
    );
    const text = pieces.pipeThrough(new TextDecoderStream() as ReadableWritablePair<string, Uint8Array>).getReader();
    for (;;) {
      const { value, done: over } = await text.read();
      if (over) break;
      const problem = reader.push(value);
      if (problem) return say(problem);
      tell({ kind: 'progress', share: file.size === 0 ? 1 : done / file.size });
    }
  } catch {
    return tell({ kind: 'problem', message: `${file.name}: can’t be read. Choose it again.` });
  }
  const result = reader.end();
  if (!result.ok) return say(result.problems[0]!);
  const { lit, litAtEnd, lengthS } = result.value;
  tell({ kind: 'read', look: { lit: lit.map((l) => [l.onS, l.offS]), litAtEnd, lengthS, origin: 'file', file: file.name.slice(0, 160) } });
}
