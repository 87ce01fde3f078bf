import burstWasm from '../../wasm/built/burst.wasm?url';
import {
  burstCsvReader,
  burstWavReader,
  type Capture,
  type Kernel,
  type KernelExports,
  measure,
  type Measured,
  plainKernel,
  Pyramid,
  Samples,
  simulatedCapture,
  type SimulatedCondition,
  simulatedRateHz,
  type TimeNote,
  wasmKernel,
  wavOf,
} from '../../core/burst';

/** What is asked of the worker, which holds one capture: to read a file, to record from the simulated source, to show a stretch, to pack it. */
export type BurstsAsked =
  | { kind: 'read'; file: File; channel: number }
  | { kind: 'simulate'; condition: SimulatedCondition; seed: number; everyMs: number }
  | { kind: 'view'; fromS: number; toS: number; columns: number; ask: number }
  | { kind: 'pack' };

/** A capture that is held, without its samples. */
export interface HeldCapture extends Measured {
  name: string;
  startS: number;
  notes: TimeNote[];
  /** Whether WebAssembly did the work, or its twin where the browser has none. */
  webAssembly: boolean;
  low: number;
  high: number;
}

export type BurstsNews =
  | { kind: 'progress'; share: number | null }
  | { kind: 'held'; capture: HeldCapture }
  | { kind: 'view'; ask: number; fromS: number; toS: number; low: Float32Array; high: Float32Array }
  | { kind: 'packed'; bytes: Uint8Array }
  | { kind: 'problem'; message: string };

const tell = (news: BurstsNews) => postMessage(news);

/** The loops over every byte and every sample: fetched once, and done without where they can't be had. */
const kernel: Promise<{ own: Kernel; fast: boolean }> = WebAssembly.instantiateStreaming(fetch(burstWasm)).then(
  ({ instance }) => ({ own: wasmKernel(instance.exports as unknown as KernelExports), fast: true }),
  () => ({ own: plainKernel(), fast: false }),
);
let held: { capture: Capture; pyramid: Pyramid } | null = null;

addEventListener('message', ({ data }: MessageEvent<BurstsAsked>) => {
  switch (data.kind) {
    case 'read':
      return void read(data.file, data.channel);
    case 'simulate':
      return void simulate(data);
    case 'view': {
      if (!held) return;
      const { capture, pyramid } = held;
      const at = (s: number) => Math.max(0, Math.min(capture.samples.length, Math.round(s * capture.sampleRateHz)));
      const [from, to] = [at(data.fromS), at(data.toS)];
      const { low, high } = pyramid.view(Math.min(from, capture.samples.length - 1), Math.max(from + 1, to), data.columns);
      return tell({ kind: 'view', ask: data.ask, fromS: from / capture.sampleRateHz, toS: Math.max(from + 1, to) / capture.sampleRateHz, low, high });
    }
    case 'pack':
      return void pack();
  }
});

/** How often it is said how far a file is. */
const progressSteps = 100;

async function read(file: File, channel: number): Promise<void> {
  // Two of the longest would not fit beside each other.
  held = null;
  const reader = /\.wav$/i.test(file.name) ? burstWavReader(channel) : /\.csv$/i.test(file.name) ? burstCsvReader((await kernel).own) : undefined;
  if (!reader) return tell({ kind: 'problem', message: `${file.name}: unknown kind of file. Choose a .csv (seconds,volts) or a .wav file.` });
  const say = ({ path, message }: { path: string; message: string }) =>
    tell({ kind: 'problem', message: [file.name, path, message].filter(Boolean).join(': ') });
  try {
    const pieces = file.stream().getReader();
    for (let [done, told] = [0, 0]; ;) {
      const { value, done: over } = await pieces.read();
      if (over) break;
      const problem = reader.push(value);
      if (problem) return say(problem);
      done += value.byteLength;
      // A file of 400 MB comes in some nine hundred pieces.
      if (done - told < file.size / progressSteps) continue;
      told = done;
      tell({ kind: 'progress', share: done / file.size });
    }
  } catch {
    return tell({ kind: 'problem', message: `${file.name}: can’t be read. Choose it again.` });
  }
  const result = reader.end();
  if (!result.ok) return say(result.problems[0]!);
  await hold(result.value, file.name, say);
}

/** The simulated source gives its samples as a scope that streams: piece by piece, each after its time. */
async function simulate({ condition, seed, everyMs }: { condition: SimulatedCondition; seed: number; everyMs: number }): Promise<void> {
  const source = simulatedCapture(condition, seed);
  const samples = new Samples();
  const piece = Math.round((simulatedRateHz * 50) / 1000);
  for (let part = source.read(piece); part.length > 0; part = source.read(piece)) {
    samples.pushAll(part);
    tell({ kind: 'progress', share: samples.length / source.total });
    await new Promise((resolve) => setTimeout(resolve, everyMs));
  }
  await hold({ samples, sampleRateHz: simulatedRateHz, startS: 0, notes: [] }, 'simulated source', ({ message }) =>
    tell({ kind: 'problem', message }),
  );
}

async function hold(capture: Capture, name: string, say: (problem: { path: string; message: string }) => void): Promise<void> {
  tell({ kind: 'progress', share: null });
  const { own, fast } = await kernel;
  const measured = measure(capture, own);
  if (!measured.ok) return say(measured.problems[0]!);
  const pyramid = new Pyramid(capture.samples);
  held = { capture, pyramid };
  const { low, high } = pyramid.view(0, capture.samples.length, 1);
  tell({
    kind: 'held',
    capture: {
      ...measured.value,
      name: name.slice(0, 160),
      startS: capture.startS,
      notes: capture.notes,
      webAssembly: fast,
      low: low[0]!,
      high: high[0]!,
    },
  });
}

/** The whole capture as WAV with 32-bit samples, packed with gzip. */
async function pack(): Promise<void> {
  if (!held) return;
  const { samples, sampleRateHz } = held.capture;
  const packed = new Blob(wavOf(samples, sampleRateHz) as BlobPart[]).stream().pipeThrough(new CompressionStream('gzip'));
  tell({ kind: 'packed', bytes: new Uint8Array(await new Response(packed).arrayBuffer()) });
}
