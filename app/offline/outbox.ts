import { type CommandBody, maxReason } from '../../core/procedure';
import type { Problem } from '../../core/units';
import { type Disk, Queue, type Queued, type Unsent } from './queue';

/** A command as it is sent. */
export type Pending = CommandBody & { id: string; expectedSeq: number; occurredAt: number };

/** A command of a run that the server has not answered. */
export interface Waiting extends Queued {
  runId: number;
  command: Pending;
  /** What was answered, for a note if somebody else was first: "10:42:07 AM Measure the battery, rested. 12.6 V". */
  say: string;
}

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

export interface Post extends Disk<Waiting> {
  /** Rejects when no answer comes. */
  send(runId: number, command: Pending): Promise<Sent>;
  newId(): string;
}

/** Answers of runs on their way to the server. Where somebody else was first, what was answered here becomes a note of the run. */
export class Outbox extends Queue<Waiting> {
  #accepted: Waiting[] = [];
  #problems = new Map<number, Problem>();
  /** Runs whose pages go on by themselves. */
  #alone = new Set<number>();
  /** Commands that did not get through at once. */
  #late = new Set<string>();
  #boxes = new Map<number, BoxOfRun>();

  constructor(private readonly post: Post) {
    super(post);
  }

  async add(runId: number, command: Pending, say: string): Promise<void> {
    if (this.me === null) return;
    this.#problems.delete(runId);
    await this.put({ runId, by: this.me, command, say });
  }

  /** What the page shows holds these now. */
  seen(runId: number, known: (id: string) => boolean): void {
    const left = this.#accepted.filter((a) => a.runId !== runId || !known(a.command.id));
    const isOver = ![...left, ...this.queue].some((w) => w.runId === runId);
    if (left.length === this.#accepted.length && !(isOver && this.#alone.has(runId))) return;
    this.#accepted = left;
    if (isOver) this.#alone.delete(runId);
    this.changed();
  }

  of(runId: number): BoxOfRun {
    const known = this.#boxes.get(runId);
    if (known) return known;
    const waiting = this.queue.filter((w) => w.runId === runId);
    const box: BoxOfRun = {
      waiting,
      accepted: this.#accepted.filter((w) => w.runId === runId),
      unsent: waiting.length === 0 ? null : waiting[0]!.by !== this.me ? 'someoneElse' : this.unsent,
      problem: this.#problems.get(runId) ?? null,
      alone: this.#alone.has(runId),
    };
    this.#boxes.set(runId, box);
    return box;
  }

  protected override idOf = (one: Omit<Waiting, 'order'>) => one.command.id;
  protected override waits = () => true;
  /** It did not get through before. */
  protected override left(lay: readonly Waiting[]): void {
    for (const one of lay) this.#isLate(one);
  }
  protected override forget = () => this.#boxes.clear();

  protected override async send(one: Waiting): Promise<Unsent | null> {
    const sent = await this.post.send(one.runId, one.command);
    if (sent.status === 'signedOut') return 'signedOut';
    if (sent.status === 'refused') await this.#refused(one, sent.problem);
    else {
      this.#late.delete(one.command.id);
      this.#accepted = [...this.#accepted, one];
      await this.change([one.order], []);
    }
    return null;
  }

  /** Refused: what followed it in the run was meant for a run that does not exist. What came too late is kept with the run as a note, with its times. */
  async #refused(one: Waiting, problem: Problem): Promise<void> {
    const { runId } = one;
    const isNote = one.command.type === 'note' && one.command.late === true;
    this.#problems.set(runId, isNote ? { ...problem, message: `${problem.message} Not saved: ${(one.command as { note: string }).note}` } : problem);
    const gone = isNote ? [one] : this.queue.filter((w) => w.runId === runId && w.by === one.by && !(w.command.type === 'note' && w.command.late));
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
    await this.change(
      gone.map((w) => w.order),
      notes,
    );
  }

  protected override stays(): void {
    for (const one of this.queue) this.#isLate(one);
  }

  #isLate(one: Waiting): void {
    this.#late.add(one.command.id);
    this.#alone.add(one.runId);
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
