import { createHash } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { type Diagnosis, Diagnostician, firstBudget, type Situation } from '../core/diagnosis';
import { log } from './log';

/** A situation with the name under which its answers are kept; equal situations have equal names. */
export interface Named {
  name: string;
  situation: Situation;
}

/** @param familyHash stands for the whole family in the name */
export function named(situation: Situation, familyHash: string): Named {
  const { family: _, ...rest } = situation;
  return {
    name: createHash('sha256')
      .update(JSON.stringify([familyHash, rest]))
      .digest('base64url')
      .slice(0, 22),
    situation,
  };
}

/** Answers of the diagnosis, kept in memory: an answer at once, and the one that looks far ahead when it is there. */
export interface Weigher {
  /** The best answer that is there now; `final` when no better one will come. */
  now(situation: Named): { diagnosis: Diagnosis; final: boolean };
  /** The answer that looks far ahead; the same each time. */
  later(situation: Named): Promise<Diagnosis>;
  close(): Promise<void>;
}

/** Answers kept; older ones are reckoned again when somebody asks. */
const kept = 400;

/** @param worker file of the built worker; without one everything is reckoned here, which is what tests do */
export function openWeigher(worker?: string): Weigher {
  const first = new Kept();
  const final = new Kept();
  const under = new Map<string, Promise<Diagnosis>>();
  const bench = worker === undefined ? null : new Bench(worker);
  return {
    now({ name, situation }) {
      const known = final.get(name);
      if (known) return { diagnosis: known, final: true };
      const quick = first.get(name) ?? new Diagnostician(situation).diagnose(firstBudget);
      first.set(name, quick);
      return { diagnosis: quick, final: false };
    },
    later({ name, situation }) {
      const known = final.get(name);
      if (known) return Promise.resolve(known);
      const asked = under.get(name);
      if (asked) return asked;
      const work = (bench ? bench.diagnose(situation) : Promise.resolve(new Diagnostician(situation).diagnose()))
        .then((diagnosis) => {
          final.set(name, diagnosis);
          return diagnosis;
        })
        .finally(() => under.delete(name));
      under.set(name, work);
      return work;
    },
    close: async () => bench?.close(),
  };
}

/** The latest answers by name. */
class Kept {
  private readonly answers = new Map<string, Diagnosis>();
  get(name: string): Diagnosis | undefined {
    return this.answers.get(name);
  }
  set(name: string, diagnosis: Diagnosis): void {
    this.answers.delete(name);
    this.answers.set(name, diagnosis);
    if (this.answers.size > kept) this.answers.delete(this.answers.keys().next().value!);
  }
}

/** One worker thread, started with the first question and started again if it dies. */
class Bench {
  private thread: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<number, { resolve: (d: Diagnosis) => void; reject: (e: Error) => void }>();

  constructor(private readonly file: string) {}

  diagnose(situation: Situation): Promise<Diagnosis> {
    this.thread ??= this.start();
    this.count += 1;
    const id = this.count;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.thread!.postMessage({ id, situation });
    });
  }

  async close(): Promise<void> {
    await this.thread?.terminate();
  }

  private start(): Worker {
    const thread = new Worker(this.file);
    thread.unref();
    thread.on('message', ({ id, diagnosis, error }: { id: number; diagnosis?: Diagnosis; error?: string }) => {
      const asked = this.waiting.get(id);
      this.waiting.delete(id);
      if (diagnosis) asked?.resolve(diagnosis);
      else asked?.reject(new Error(error));
    });
    const gone = (error: Error) => {
      if (this.thread !== thread) return;
      this.thread = null;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    thread.on('error', (error) => {
      log.error(error, 'The worker of the diagnosis died.');
      gone(error);
    });
    thread.on('exit', () => gone(new Error('The worker of the diagnosis has ended.')));
    return thread;
  }
}
