import workerpool from 'workerpool';
import type { Result } from '../../core/units';
import { refused } from '../base/expected';
import { type Answer, answer, unfold } from './answer';
import type { Exchange } from '../../core/learning';
import type { Paper } from './paper';
import type { Encoded } from './picture';

/** What a shop's server reads of files that people give it, and the papers it makes: neither may hold up a page. */
export interface Files {
  yaml(text: string): Promise<Result<unknown>>;
  /**
   * A case of another shop, as the room that moves cases reads it.
   * @throws Refused with every problem
   */
  caseFile<CaseFile>(file: Uint8Array): Promise<CaseFile>;
  /** @throws Refused when it is no picture that can be read */
  photo(file: Uint8Array): Promise<Encoded>;
  /** What another shop has learned; text of its file. */
  learned(text: string): Promise<Result<Exchange>>;
  /** Makes a PDF. */
  paper(paper: Paper): Promise<Uint8Array>;
  close(): Promise<void>;
}

/** Longest reading of each kind, ms: many times what the largest file needs that is read at all, on a busy machine, with the start of the process. */
const limitsMs = { yaml: 20_000, caseFile: 120_000, photo: 30_000, learned: 20_000, paper: 60_000 } as const;
/** Files that wait for their turn. */
const mostWaiting = 40;
/** A process that has read nothing for so long ends, and its memory is given back, ms. */
const idleMs = 10_000;
/** Heap of the process, MB; a file that needs more is none of ours. */
const heapMb = 768;

/**
 * Reads one file after the other in a process of its own, so that no file, however it was made, holds up a page, takes the server's memory or
 * brings it down. In tests of single functions the same readings run here.
 * @param file the process's file, or the readings themselves
 */
export function openFiles(file: string | Readings): Files {
  if (typeof file !== 'string') return { ...direct(file), close: async () => {} };
  let pool: workerpool.Pool | undefined;
  let idle: NodeJS.Timeout | undefined;
  let under = 0;

  const start = () =>
    workerpool.pool(file, {
      workerType: 'process',
      maxWorkers: 1,
      maxQueueSize: mostWaiting,
      workerTerminateTimeout: 1000,
      forkOpts: { serialization: 'advanced', execArgv: [`--max-old-space-size=${heapMb}`, '--no-warnings'] },
    });
  const stop = async (force: boolean) => {
    clearTimeout(idle);
    const old = pool;
    pool = undefined;
    await old?.terminate(force);
  };
  const read = async <T>(kind: keyof typeof limitsMs, content: unknown): Promise<T> => {
    clearTimeout(idle);
    if (under >= mostWaiting)
      throw refused(429, 'manyFiles', 'Too many files are being read right now. Wait a minute, then send this one again.', 'file');
    under += 1;
    pool ??= start();
    try {
      return unfold((await pool.exec(kind, [content]).timeout(limitsMs[kind])) as Answer<T>);
    } catch (error) {
      if (error instanceof workerpool.Promise.TimeoutError)
        throw refused(400, 'takesTooLong', `The file could not be read within ${limitsMs[kind] / 1000} s. Choose the right file.`, 'file');
      if (error instanceof Error && /Worker terminated unexpectedly|Workerpool Worker/i.test(error.message))
        throw refused(400, 'tooMuch', 'The file is too large to read. Choose the right file.', 'file');
      throw error;
    } finally {
      under -= 1;
      if (under === 0) {
        idle = setTimeout(() => void stop(false), idleMs);
        idle.unref();
      }
    }
  };
  return {
    yaml: (text) => read('yaml', text),
    caseFile: (bytes) => read('caseFile', bytes),
    photo: (bytes) => read('photo', bytes),
    learned: (text) => read('learned', text),
    paper: async (paper) => new Uint8Array(await read<Uint8Array>('paper', paper)),
    close: () => stop(true),
  };
}

/** What the process does, by kind. */
export interface Readings {
  yaml(text: string): Result<unknown>;
  caseFile(file: Uint8Array): Promise<unknown>;
  photo(file: Uint8Array): Promise<Encoded>;
  learned(text: string): Result<Exchange>;
  paper(paper: Paper): Promise<Uint8Array>;
}

const direct = (readings: Readings): Omit<Files, 'close'> => ({
  yaml: async (text) => unfold(await answer(() => readings.yaml(text))),
  caseFile: async <CaseFile>(bytes: Uint8Array) => unfold(await answer(() => readings.caseFile(bytes))) as CaseFile,
  photo: async (bytes) => unfold(await answer(() => readings.photo(bytes))),
  learned: async (text) => unfold(await answer(() => readings.learned(text))),
  paper: async (paper) => unfold(await answer(() => readings.paper(paper))),
});
