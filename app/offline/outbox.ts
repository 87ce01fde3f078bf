import { type CommandBody, maxReason } from '../../core/procedure';
import type { Problem } from '../../core/units';

/** A command as it is sent. */
export type Pending = CommandBody & { id: string; expectedSeq: number; occurredAt: number };

/** A command of a run that the server has not answered. */
export interface Waiting {
  /** Its place in the queue, given by the store. */
  order: number;
  runId: number;
  /** Id of the person who gave it: it is sent in nobody else's name. */
  by: string;
  command: Pending;
  /** What was answered, for a note if somebody else was first: "10:42:07 AM Measure the battery, rested. 12.6 V". */
  say: string;
}

/** Why an answer has not arrived yet: none came back, nobody is signed in here any more, or somebody else is. */
export type Unsent = 'noAnswer' | 'signedOut' | 'someoneElse';

/** What a page of a run sees of the queue. */
export interface BoxOfRun {
  /** Not answered yet, the oldest first. */
  waiting: readonly Waiting[];
  /** Answered, and perhaps not yet among the events that the page shows. */
  accepted: readonly Waiting[];
  unsent: Unsent | null;
  problem: Problem | null;
  /** The page goes on by itself: an answer did not arrive. */
  alone: boolean;
}
export const emptyBox: BoxOfRun = { waiting: [], accepted: [], unsent: null, problem: null, alone: false };

/** What the server says to a command. */
export type Sent = { status: 'accepted' } | { status: 'refused'; problem: Problem } | { status: 'signedOut' };

export interface Post {
  /** Rejects when no answer comes. */
  send(runId: number, command: Pending): Promise<Sent>;
  all(): Promise<Waiting[]>;
  change(leave: readonly number[], come: readonly Omit<Waiting, 'order'>[]): Promise<Waiting[]>;
  newId(): string;
  /** Does the work while no other tab does; returns when it is done. */
  alone(work: () => Promise<void>): Promise<void>;
  /** Another tab's queue changed. */
  tell(): void;
}

/** A tap that was not answered within this is said to be on its way, milliseconds. */
export const slowMs = 1500;

/**
 * Answers of runs on their way to the server, one after the other in the order in which they were given. Each lies on this browser's disk until the server
 * has answered it, so that neither a lost connection nor a reload or a restart loses it; the server does it once, however often it comes. Where somebody
 * else was first, what was answered here becomes a note of the run.
 */
export class Outbox {
  #queue: Waiting[] = [];
  #accepted: Waiting[] = [];
  #unsent: Unsent | null = null;
  #problems = new Map<number, Problem>();
  /** Runs whose pages go on by themselves. */
  #alone = new Set<number>();
  /** Commands that did not get through at once. */
  #late = new Set<string>();
  #me: string | null = null;
  #sending: Promise<void> | null = null;
  #again = false;
  #boxes = new Map<number, BoxOfRun>();
  #listeners = new Set<() => void>();

  constructor(private readonly post: Post) {}

  /** Takes up what was left on the disk. @param me id of the person who is signed in */
  async start(me: string): Promise<void> {
    if (this.#me === me) return;
    this.#me = me;
    await this.reload();
    for (const one of this.#queue) this.#isLate(one);
    this.#changed();
    await this.deliver();
  }

  /** Reads the disk again: another tab may have sent or added something. */
  async reload(): Promise<void> {
    this.#took(await this.post.all());
    this.#changed();
  }

  async add(runId: number, command: Pending, say: string): Promise<void> {
    if (this.#me === null) return;
    this.#problems.delete(runId);
    // It is there for the page at once; its place on the disk follows.
    const one = { runId, by: this.#me, command, say };
    this.#queue = [...this.#queue, { ...one, order: Infinity }];
    this.#changed();
    this.#took(await this.post.change([], [one]));
    this.post.tell();
    await this.deliver();
  }

  /** What the page shows holds these now. */
  seen(runId: number, known: (id: string) => boolean): void {
    const left = this.#accepted.filter((a) => a.runId !== runId || !known(a.command.id));
    const isOver = ![...left, ...this.#queue].some((w) => w.runId === runId);
    if (left.length === this.#accepted.length && !(isOver && this.#alone.has(runId))) return;
    this.#accepted = left;
    if (isOver) this.#alone.delete(runId);
    this.#changed();
  }

  /** Sends what waits; what comes while that is under way is sent behind it. */
  deliver(): Promise<void> {
    if (this.#sending) {
      this.#again = true;
      return this.#sending;
    }
    this.#sending = this.post
      .alone(() => this.#sendAll())
      .catch(() => {})
      .then(async () => {
        this.#sending = null;
        this.#changed();
        if (!this.#again) return;
        this.#again = false;
        await this.deliver();
      });
    return this.#sending;
  }

  get isEmpty(): boolean {
    return this.#queue.length === 0;
  }

  subscribe = (listener: () => void) => {
    this.#listeners.add(listener);
    return () => void this.#listeners.delete(listener);
  };

  of(runId: number): BoxOfRun {
    const known = this.#boxes.get(runId);
    if (known) return known;
    const waiting = this.#queue.filter((w) => w.runId === runId);
    const box: BoxOfRun = {
      waiting,
      accepted: this.#accepted.filter((w) => w.runId === runId),
      unsent: waiting.length === 0 ? null : waiting[0]!.by !== this.#me ? 'someoneElse' : this.#unsent,
      problem: this.#problems.get(runId) ?? null,
      alone: this.#alone.has(runId),
    };
    this.#boxes.set(runId, box);
    return box;
  }

  async #sendAll(): Promise<void> {
    this.#took(await this.post.all());
    for (;;) {
      // What somebody else gave waits for that person, and holds up nobody's other runs.
      const one = this.#queue.find((w) => w.by === this.#me && w.order < Infinity);
      if (!one) {
        this.#unsent = null;
        return;
      }
      const slow = setTimeout(() => this.#stays('noAnswer'), slowMs);
      let sent: Sent;
      try {
        sent = await this.post.send(one.runId, one.command);
      } catch {
        return this.#stays('noAnswer');
      } finally {
        clearTimeout(slow);
      }
      if (sent.status === 'signedOut') return this.#stays('signedOut');
      this.#unsent = null;
      if (sent.status === 'accepted') {
        this.#late.delete(one.command.id);
        this.#accepted = [...this.#accepted, one];
        this.#took(await this.post.change([one.order], []));
      } else await this.#refused(one, sent.problem);
      this.post.tell();
      this.#changed();
    }
  }

  /** Refused: what followed it in the run was meant for a run that does not exist. What came too late is kept with the run as a note, with its times. */
  async #refused(one: Waiting, problem: Problem): Promise<void> {
    const { runId } = one;
    const isNote = one.command.type === 'note' && one.command.late === true;
    this.#problems.set(runId, isNote ? { ...problem, message: `${problem.message} Not saved: ${(one.command as { note: string }).note}` } : problem);
    const gone = isNote ? [one] : this.#queue.filter((w) => w.runId === runId && w.by === one.by && !(w.command.type === 'note' && w.command.late));
    const late = isNote || !this.#late.has(one.command.id) ? [] : gone;
    const notes = notesOf(late.map((w) => w.say)).map((note): Omit<Waiting, 'order'> => {
      const command: Pending = {
        type: 'note',
        note,
        late: true,
        id: this.post.newId(),
        expectedSeq: one.command.expectedSeq,
        occurredAt: one.command.occurredAt,
      };
      return { runId, by: one.by, command, say: note };
    });
    if (notes.length > 0)
      this.#problems.set(runId, {
        ...problem,
        message: `${problem.message} Your ${late.length === 1 ? 'answer is' : `${late.length} answers are`} kept with the run as a note.`,
      });
    this.#took(await this.post.change(gone.map((w) => w.order), notes)); // prettier-ignore
  }

  #stays(why: Unsent): void {
    this.#unsent = why;
    for (const one of this.#queue) this.#isLate(one);
    this.#changed();
  }

  #isLate(one: Waiting): void {
    this.#late.add(one.command.id);
    this.#alone.add(one.runId);
  }

  #took(all: readonly Waiting[]): void {
    // What is not on the disk yet stays behind what is.
    const onDisk = new Set(all.map((w) => w.command.id));
    this.#queue = [...all, ...this.#queue.filter((w) => w.order === Infinity && !onDisk.has(w.command.id))];
  }

  #changed(): void {
    this.#boxes.clear();
    for (const listener of this.#listeners) listener();
  }
}

/** What was answered too late, in as many notes as it takes. */
export function notesOf(said: readonly string[]): string[] {
  const notes: string[] = [];
  for (const one of said.map((s) => (s.length > maxReason ? `${s.slice(0, maxReason - 1)}…` : s))) {
    const last = notes.at(-1);
    if (last !== undefined && last.length + 2 + one.length <= maxReason) notes[notes.length - 1] = `${last}; ${one}`;
    else notes.push(one);
  }
  return notes;
}
