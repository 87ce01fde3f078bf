/** Why something has not arrived yet: no answer came back, nobody is signed in here any more, or somebody else is. */
export type Unsent = 'noAnswer' | 'signedOut' | 'someoneElse';

export interface Queued {
  /** Its place in the queue, given by the store. */
  order: number;
  /** Id of the person who gave it: it is sent in nobody else's name. */
  by: string;
}

/** Where a queue lies, and who else sees it. */
export interface Disk<T extends Queued> {
  all(): Promise<T[]>;
  /** In one go: those leave, the others come behind. */
  change(leave: readonly number[], come: readonly Omit<T, 'order'>[]): Promise<T[]>;
  /** Does the work while no other tab does; returns when it is done. */
  alone(work: () => Promise<void>): Promise<void>;
  /** Another tab's queue changed. */
  tell(): void;
}

/** What is not answered within this is said to be on its way, milliseconds. */
export const slowMs = 1500;

/**
 * What is on its way to the server, one after the other in the order in which it was given. Each lies on this browser's disk until the server has answered
 * it, so that neither a lost connection nor a reload or a restart loses it; the server does it once, however often it comes.
 */
export abstract class Queue<T extends Queued> {
  protected queue: T[] = [];
  protected unsent: Unsent | null = null;
  protected me: string | null = null;
  #sending: Promise<void> | null = null;
  #again = false;
  #listeners = new Set<() => void>();

  constructor(private readonly disk: Disk<T>) {}

  protected abstract idOf(one: Omit<T, 'order'>): string;
  /** Whether it waits to be sent; what does not lies there for its person. */
  protected abstract waits(one: T): boolean;
  /** Sends one and says what came of it to the rest of the class. @returns why it stays, where it does; rejects when no answer comes */
  protected abstract send(one: T): Promise<Unsent | null>;
  /** Nothing goes out for now. */
  protected abstract stays(why: Unsent): void;
  /** What lay on the disk at the start. */
  protected left(_lay: readonly T[]): void {}
  /** What pages see has changed. */
  protected abstract forget(): void;

  /** Takes up what was left on the disk. @param me id of the person who is signed in */
  async start(me: string): Promise<void> {
    if (this.me === me) return;
    // At once: what is given before the disk was read is kept too.
    this.me = me;
    const left = await this.disk.all();
    this.left(left);
    this.took(left);
    this.changed();
    await this.deliver();
  }

  /** Reads the disk again: another tab may have sent or added something. */
  async reload(): Promise<void> {
    this.took(await this.disk.all());
    this.changed();
  }

  /** It is there for the page at once; its place on the disk follows, then it is sent. */
  protected async put(one: Omit<T, 'order'>, instead: readonly number[] = []): Promise<void> {
    this.queue = [...this.queue.filter((w) => !instead.includes(w.order)), { ...one, order: Infinity } as T];
    this.changed();
    await this.change(instead, [one]);
    this.disk.tell();
    await this.deliver();
  }

  protected async change(leave: readonly number[], come: readonly Omit<T, 'order'>[]): Promise<void> {
    this.took(await this.disk.change(leave, come));
  }

  /** Sends what waits; what comes while that is under way is sent behind it. */
  deliver(): Promise<void> {
    if (this.#sending) {
      this.#again = true;
      return this.#sending;
    }
    this.#sending = this.disk
      .alone(() => this.#sendAll())
      .catch(() => {})
      .then(async () => {
        this.#sending = null;
        this.changed();
        if (!this.#again) return;
        this.#again = false;
        await this.deliver();
      });
    return this.#sending;
  }

  get isEmpty(): boolean {
    return this.queue.length === 0;
  }

  subscribe = (listener: () => void) => {
    this.#listeners.add(listener);
    return () => void this.#listeners.delete(listener);
  };

  async #sendAll(): Promise<void> {
    this.took(await this.disk.all());
    for (;;) {
      // What somebody else gave waits for that person, and holds up nobody's own.
      const one = this.queue.find((w) => w.by === this.me && w.order < Infinity && this.waits(w));
      if (!one) {
        this.unsent = null;
        return;
      }
      const slow = setTimeout(() => this.#stay('noAnswer'), slowMs);
      let why: Unsent | null;
      try {
        why = await this.send(one);
      } catch {
        why = 'noAnswer';
      } finally {
        clearTimeout(slow);
      }
      if (why) return this.#stay(why);
      this.unsent = null;
      this.disk.tell();
      this.changed();
    }
  }

  #stay(why: Unsent): void {
    this.unsent = why;
    this.stays(why);
    this.changed();
  }

  protected took(all: readonly T[]): void {
    // What is not on the disk yet stays behind what is.
    const onDisk = new Set(all.map((w) => this.idOf(w)));
    this.queue = [...all, ...this.queue.filter((w) => w.order === Infinity && !onDisk.has(this.idOf(w)))];
  }

  protected changed(): void {
    this.forget();
    for (const listener of this.#listeners) listener();
  }
}
