/** Work that nobody waits for: one piece after the other, and only while nobody asks for something at once. */
export class IdleQueue {
  readonly #waiting = new Map<string, () => Promise<void>>();
  #running = false;

  /** @param isFree nobody waits for anything now; when that changes, `go` is called */
  constructor(private readonly isFree: () => boolean) {}

  /** @returns what comes of the work, whenever that is; null where work of this name waits already */
  ask<T>(name: string, work: () => Promise<T>): Promise<T> | null {
    if (this.#waiting.has(name)) return null;
    return new Promise<T>((resolve, reject) => {
      this.#waiting.set(name, () => work().then(resolve, reject));
      this.go();
    });
  }

  /** Begins the next piece, if this is a good moment. */
  go(): void {
    const next = this.#waiting.entries().next().value;
    if (this.#running || !next || !this.isFree()) return;
    const [name, start] = next;
    this.#running = true;
    void start().finally(() => {
      this.#waiting.delete(name);
      this.#running = false;
      this.go();
    });
  }
}
