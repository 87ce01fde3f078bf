import type { ClockReading } from '../../server/services/clock';

/** The clock, and who is at this browser. */
export type ClockAnswer = ClockReading & { session: 'open' | 'locked' | 'none' };

/** A reading with the browser's own time of then, for the next start without a connection. */
export interface KeptReading {
  reading: ClockReading;
  wall: number;
}

export interface Surroundings {
  /** Milliseconds that only grow; they may stand still while the machine sleeps. */
  monotonic(): number;
  /** The browser's own time, milliseconds. How far it is off does not matter, only how it goes on. */
  wall(): number;
  /** The last reading of any page in this browser. */
  kept(): KeptReading | null;
  keep(last: KeptReading): void;
  /** Asks the server for its clock; rejects when it does not answer. */
  ask(): Promise<ClockAnswer>;
}

/** An answer that does not come within this is none, milliseconds. */
const answerMs = 5000;

/** Beyond so much the browser's clock was stopped by sleep, milliseconds: less is the difference of two clocks. */
const sleptMs = 2000;

const box = 'bloodstone.clock';
const browser: Surroundings = {
  monotonic: () => performance.now(),
  wall: () => Date.now(),
  kept() {
    try {
      const kept = JSON.parse(localStorage.getItem(box) ?? 'null') as KeptReading | null;
      return typeof kept?.wall === 'number' && typeof kept.reading?.now === 'number' ? kept : null;
    } catch {
      return null;
    }
  },
  keep(last) {
    try {
      localStorage.setItem(box, JSON.stringify(last));
    } catch {
      // A browser that keeps nothing: a page opened again without a connection counts from its drawing.
    }
  },
  async ask() {
    const response = await fetch('/clock', { cache: 'no-store', signal: AbortSignal.timeout(answerMs) });
    if (!response.ok) throw new Error(`The clock answered ${response.status}`);
    return (await response.json()) as ClockAnswer;
  },
};

/**
 * The page's copy of the shop's clock. Between readings it counts by the browser's monotonic clock, which stops while a lid is closed, so the
 * reading is taken anew whenever the page wakes, and with every message of the server. Without a connection the browser's own time tells how long it slept, and
 * how long ago the last reading was when a page is opened again; only somebody who sets that time by hand meanwhile misleads it, until the server is back.
 */
export class PageClock {
  #anchor: ClockReading;
  #at: number | null = null;
  #wall = 0;
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
    const { surroundings } = this;
    this.#wall = surroundings.wall() - (surroundings.monotonic() - at);
    surroundings.keep({ reading, wall: this.#wall });
    this.tick();
  }

  /** Goes on by the browser's own time, where nobody answers. */
  #alone(): void {
    const { surroundings } = this;
    const { reading, wall } =
      this.#at === null ? (surroundings.kept() ?? { reading: this.#anchor, wall: surroundings.wall() }) : { reading: this.#anchor, wall: this.#wall };
    const passed = Math.max(0, surroundings.wall() - wall);
    if (this.#at !== null && passed - (surroundings.monotonic() - this.#at) < sleptMs) return;
    this.set({ ...reading, now: Math.round(reading.now + reading.rate * passed) });
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
      if (readings === this.#readings) this.#alone();
      return false;
    }
  }
}
