import { Worker } from 'node:worker_threads';
import { log } from '../base/log';

/** One worker thread, started with the first question and started again if it dies. */
export class Thread {
  private thread: Worker | null = null;
  private count = 0;
  private readonly waiting = new Map<number, { resolve: (answer: never) => void; reject: (e: Error) => void }>();

  constructor(
    private readonly file: string,
    private readonly name: string,
  ) {}

  /** The worker answers each question by its id: `answer`, or `error` in words. */
  ask<T>(question: object): Promise<T> {
    this.thread ??= this.start();
    this.count += 1;
    const id = this.count;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.thread!.postMessage({ id, ...question });
    });
  }

  async close(): Promise<void> {
    await this.thread?.terminate();
  }

  private start(): Worker {
    const thread = new Worker(this.file);
    thread.unref();
    thread.on('message', ({ id, answer, error }: { id: number; answer?: unknown; error?: string }) => {
      const asked = this.waiting.get(id);
      this.waiting.delete(id);
      if (answer) asked?.resolve(answer as never);
      else asked?.reject(new Error(error));
    });
    const gone = (error: Error) => {
      if (this.thread !== thread) return;
      this.thread = null;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    thread.on('error', (error) => {
      log.error({ err: error }, `The worker of the ${this.name} died.`);
      gone(error);
    });
    thread.on('exit', () => gone(new Error(`The worker of the ${this.name} has ended.`)));
    return thread;
  }
}
