import type { Act, Shop } from './instance';

/**
 * What an order of acts leaves open, as longest paths between moments: `d[i * size + j]` is the least time from moment i to moment j. The moments are now,
 * each case's last end at the earliest and at the latest, and when each technician and each thing is free. Limits are paths backward, so an act may still be
 * moved later by what follows; an order that can't keep its limits has a positive cycle. After Bartusch, Möhring, Radermacher, "Scheduling project networks
 * with resource constraints and time windows", Annals of Operations Research 16 (1988) 201.
 */
export class Windows {
  private constructor(
    private readonly shop: Shop,
    /** How far an act may be from its expected minutes, as a share: 0.2 is a fifth less or more. */
    private readonly spread: number,
    readonly size: number,
    readonly d: Float64Array,
  ) {}

  static of(shop: Shop, spread: number): Windows {
    const size = 1 + (spread > 0 ? 2 : 1) * shop.jobs.length + shop.technicians.length + shop.things.length;
    const w = new Windows(shop, spread, size, new Float64Array(size * size));
    // Nothing has happened yet: every moment is now, but for technicians who are busy.
    const at = new Float64Array(size);
    shop.technicians.forEach((t, i) => (at[w.technician(i)] = t.busy));
    for (let i = 0; i < size; i += 1) for (let k = 0; k < size; k += 1) w.d[i * size + k] = at[k]! - at[i]!;
    return w;
  }

  private early(job: number): number {
    return 1 + job;
  }
  private last(job: number): number {
    return this.spread > 0 ? 1 + this.shop.jobs.length + job : 1 + job;
  }
  private technician(i: number): number {
    return this.size - this.shop.things.length - this.shop.technicians.length + i;
  }
  private thing(i: number): number {
    return this.size - this.shop.things.length + i;
  }

  /** The earliest that a case's last act can be over, when acts take their longest; minutes from now. */
  end(job: number, from: Float64Array = this.d): number {
    return from[this.last(job)]!;
  }
  free(technician: number, from: Float64Array = this.d): number {
    return from[this.technician(technician)]!;
  }

  /** The least time from moment i to the begin of the act: its technician is free, the act before is over for its lag, and what it takes is free. */
  private begin(i: number, job: number, act: Act, technician: number): number {
    const { d } = this;
    const row = i * this.size;
    let least = Math.max(d[row + this.technician(technician)]!, d[row + this.early(job)]! + act.lag);
    for (const t of act.takes) least = Math.max(least, d[row + this.thing(t)]!);
    return least;
  }

  /**
   * When the act would begin at the earliest, minutes from now, and the least times from now after it; undefined when its limit can't be kept.
   * @param kept whether its limit is to be kept
   */
  asked(job: number, act: Act, technician: number, kept = true): Asked | undefined {
    const { size: n, d } = this;
    const [e, f, m] = [this.early(job), this.last(job), this.technician(technician)];
    const start = this.begin(0, job, act, technician);
    const limited = kept && act.late < Infinity;
    const back = -(act.lag + act.late);
    // To begin in time, the act before would have to end later than this one begins.
    if (limited && this.begin(e, job, act, technician) + back > 1e-9) return undefined;
    const { row } = scratchOf(n);
    for (let k = 0; k < n; k += 1) row[k] = d[k]!;
    if (limited) for (let k = 0; k < n; k += 1) row[k] = Math.max(row[k]!, start + back + d[e * n + k]!);
    const latest = this.spread > 0 ? Math.max(start, row[f]! + act.lag) : start;
    const end = latest + act.minutes * (1 + this.spread);
    if (this.spread > 0) row[e] = start + act.minutes * (1 - this.spread);
    row[f] = end;
    row[m] = end;
    for (const { thing, after } of act.gives) row[this.thing(thing)] = end + after;
    return { job, act, technician, start, row, limited };
  }

  /** Whether the second act could still keep its limit if the first went before it, with the same hands. */
  fits(job: number, act: Act, later: number, limited: Act, technician: number): boolean {
    const { size: n, d } = this;
    const from = this.early(later) * n;
    const begins = Math.max(d[from + this.technician(technician)]!, d[from + this.early(job)]! + act.lag, d[from + this.last(job)]! + act.lag);
    return begins + act.minutes * (1 + this.spread) <= limited.lag + limited.late + 1e-9;
  }

  /** The state after an act that was asked about. */
  after({ job, act, technician, limited }: Asked): Windows {
    const { size: n, d } = this;
    const [e, f, m] = [this.early(job), this.last(job), this.technician(technician)];
    const { begins, latest: later } = scratchOf(n);
    const { into, out } = begins;
    for (let i = 0; i < n; i += 1) into[i] = this.begin(i, job, act, technician);
    const next = new Windows(this.shop, this.spread, n, d.slice());
    const { d: x } = next;
    out.fill(-Infinity, 0, n);
    if (limited) {
      const back = -(act.lag + act.late);
      for (let k = 0; k < n; k += 1) out[k] = back + d[e * n + k]!;
      for (let i = 0; i < n; i += 1) {
        const at = into[i]!;
        for (let k = 0; k < n; k += 1) if (at + out[k]! > x[i * n + k]!) x[i * n + k] = at + out[k]!;
      }
    }
    // The act begins between two moments: when its technician is kept free for it, and when it may at the latest, whatever the acts before took.
    const shortest = act.minutes * (1 - this.spread);
    const longest = act.minutes * (1 + this.spread);
    let latest = begins;
    if (this.spread > 0) {
      for (let i = 0; i < n; i += 1) later.into[i] = Math.max(into[i]!, x[i * n + f]! + act.lag);
      later.out.fill(-Infinity, 0, n);
      latest = later;
    }
    const places: Place[] = [
      { slot: f, moment: latest, offset: longest },
      { slot: m, moment: latest, offset: longest },
    ];
    if (this.spread > 0) places.push({ slot: e, moment: begins, offset: shortest });
    for (const { thing, after } of act.gives) places.push({ slot: this.thing(thing), moment: latest, offset: longest + after });
    next.replace(places, begins, Math.max(0, out[f]! + act.lag));
    return next;
  }

  /**
   * Puts moments of the new act in the place of older ones.
   * @param toLatest the least time from its first moment, `begins`, to its latest one
   */
  private replace(places: readonly Place[], begins: Moment, toLatest: number): void {
    const { size: n, d } = this;
    for (const { slot, moment, offset } of places)
      for (let k = 0; k < n; k += 1) {
        d[slot * n + k] = moment.out[k]! - offset;
        d[k * n + slot] = moment.into[k]! + offset;
      }
    for (const a of places)
      for (const b of places) {
        const between = a.moment === b.moment ? 0 : a.moment === begins ? toLatest : -Infinity;
        d[a.slot * n + b.slot] = between - a.offset + b.offset;
      }
  }

  /**
   * Whether everything that can still follow on the other can follow on this one, and no later. What follows is moved by now and by the last ends of cases that go
   * on; no other moment moves anything any more, so only their rows count.
   * @param next by case: its next act; the same for both
   */
  covers(other: Windows, next: readonly number[]): boolean {
    const { jobs } = this.shop;
    if (!this.rowCovers(other, 0)) return false;
    for (let j = 0; j < jobs.length; j += 1) if (next[j]! < jobs[j]!.acts.length && !this.rowCovers(other, this.early(j))) return false;
    return true;
  }

  private rowCovers(other: Windows, moment: number): boolean {
    const { size: n, d } = this;
    for (let i = moment * n; i < (moment + 1) * n; i += 1) if (d[i]! > other.d[i]! + 1e-9) return false;
    return true;
  }
}

/** An act that may follow: when it would begin, and the least time from now to each moment after it. */
export interface Asked {
  job: number;
  act: Act;
  technician: number;
  start: number;
  /** Good until the next act is asked about. */
  row: Float64Array;
  limited: boolean;
}

/** A moment of the new act: the least time to it from each moment, and from it. */
interface Moment {
  into: Float64Array;
  out: Float64Array;
}
/** Where a moment stands from now on, and how long after it. */
interface Place {
  slot: number;
  moment: Moment;
  offset: number;
}

const momentOf = (size: number): Moment => ({ into: new Float64Array(size), out: new Float64Array(size) });
let scratch = { size: 0, row: new Float64Array(0), begins: momentOf(0), latest: momentOf(0) };
/** Room for what is worked out of one act, used anew for each: acts are asked about and put in their places hundreds of thousands of times. */
function scratchOf(size: number): { row: Float64Array; begins: Moment; latest: Moment } {
  if (scratch.size < size) scratch = { size, row: new Float64Array(size), begins: momentOf(size), latest: momentOf(size) };
  return scratch;
}
