import type { ClockReading } from '../../server/services/clock';

/** The clock, and who is at this browser. */
export type ClockAnswer = ClockReading & { session: 'open' | 'locked' | 'none' };

export interface Surroundings {
  /** Milliseconds that only grow; they may stand still while the machine sleeps. */
  monotonic(): number;
  /** Asks the server for its clock; rejects when it does not answer. */
  ask(): Promise<ClockAnswer>;
}

/** An answer that does not come within this is none, milliseconds. */
const answerMs = 5000;

const browser: Surroundings = {
  monotonic: () => performance.now(),
  async ask() {
    const response = await fetch('/clock', { cache: 'no-store', signal: AbortSignal.timeout(answerMs) });
    if (!response.ok) throw new Error(`The clock answered ${response.status}`);
    return (await response.json()) as ClockAnswer;
  },
};

/**
 * The page's copy of the shop's clock. Between readings it counts by the browser's monotonic clock, which stops while a lid is closed, so the
 * reading is taken anew whenever the page wakes, and with every message of the server.
 */
export class PageClock {
  #anchor: ClockReading;
  #at: number | null = null;
  #listeners = new Set<() => void>();
  /** Counts readings, so that an answer that was overtaken by a newer one is not taken. */
  #readings = 0;
  #shown: number;
  #signedOut = false;

  /** @param surroundings the browser's monotonic clock, and the question to the server; both come in, so that tests can hold them */
  constructor(
    reading: ClockReading,
    private readonly surroundings: Surroundings = browser,
  ) {
    this.#anchor = reading;
    this.#shown = reading.now;
  }

  /** @param at monotonic moment that the reading belongs to */
  set(reading: ClockReading, at = this.surroundings.monotonic()) {
    this.#readings += 1;
    this.#anchor = reading;
    this.#at = at;
    this.tick();
  }

  /** Nobody is signed in at this browser any more, as the server said last. */
  get signedOut(): boolean {
    return this.#signedOut;
  }

  now(): number {
    return this.#at === null ? this.#anchor.now : Math.round(this.#anchor.now + this.#anchor.rate * (this.surroundings.monotonic() - this.#at));
  }

  tick() {
    this.#shown = this.now();
    for (const listener of this.#listeners) listener();
  }

  subscribe = (listener: () => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  shown = () => this.#shown;

  /** Asks the server; half of the way there and back is taken as the answer's age. @returns whether the server answered */
  async measure(): Promise<boolean> {
    const before = this.surroundings.monotonic();
    const readings = this.#readings;
    try {
      const { session, ...reading } = await this.surroundings.ask();
      this.#signedOut = session === 'none';
      const after = this.surroundings.monotonic();
      if (readings === this.#readings) this.set(reading, (before + after) / 2);
      return true;
    } catch {
      // No connection: the page counts on by itself; the strip says that it is alone.
      return false;
    }
  }
}
