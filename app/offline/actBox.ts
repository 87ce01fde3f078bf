import type { Problem } from '../../core/units';
import { type Disk, Queue, type Queued, type Unsent } from './queue';

/** An act of a page that the server has not answered, or has refused. */
export interface KeptAct extends Queued {
  /** Id of the act: the server does it once. */
  id: string;
  /** When it was done, by the shop's clock, ms. */
  at: number;
  /** Address that takes it. */
  address: string;
  fields: Readonly<Record<string, unknown>>;
  /** What it is about: one that comes later takes its place as long as it waits. */
  subject: string;
  /** What was done, in words: "Case 0417: Battery at rest, 12.5 V or more". */
  say: string;
  /** Address of the page on which it can be done again, where it was refused. */
  page: string;
  /** Why the server did not take it. It lies here until somebody has read it. */
  problems?: readonly Problem[];
}

/** What the server says to an act. */
export type ActSent = { status: 'accepted'; at: string } | { status: 'refused'; problems: readonly Problem[] } | { status: 'signedOut' };

export interface ActPost extends Disk<KeptAct> {
  /** Rejects when no answer comes. */
  send(act: KeptAct): Promise<ActSent>;
}

/** What pages see of it. */
export interface ActsHere {
  waiting: readonly KeptAct[];
  refused: readonly KeptAct[];
  /** Arrived since the page was loaded, with the address at which it is found. */
  arrived: readonly { id: string; say: string; at: string }[];
  unsent: Unsent | null;
}
export const noActs: ActsHere = { waiting: [], refused: [], arrived: [], unsent: null };

/** Acts that were done without a connection, on their way to the server. What it refuses is told, and stays with its content until it is discarded. */
export class ActBox extends Queue<KeptAct> {
  #arrived: ActsHere['arrived'] = [];
  #here: ActsHere | null = null;

  constructor(private readonly post: ActPost) {
    super(post);
  }

  async add(act: Omit<KeptAct, 'order' | 'by'>): Promise<void> {
    if (this.me === null) return;
    const before = this.queue.filter((w) => w.by === this.me && w.address === act.address && w.subject === act.subject && w.order < Infinity);
    await this.put(
      { ...act, by: this.me },
      before.map((w) => w.order),
    );
  }

  /** Somebody has read why it was refused, or does not want it sent. */
  async discard(id: string): Promise<void> {
    await this.change(
      this.queue.filter((w) => w.id === id).map((w) => w.order),
      [],
    );
    this.changed();
  }

  /** What arrived was read. */
  read(): void {
    this.#arrived = [];
    this.changed();
  }

  here = (): ActsHere => {
    if (this.#here) return this.#here;
    const waiting = this.queue.filter((w) => !w.problems);
    return (this.#here = {
      waiting,
      refused: this.queue.filter((w) => w.problems),
      arrived: this.#arrived,
      unsent: waiting.length === 0 ? null : waiting.every((w) => w.by !== this.me) ? 'someoneElse' : this.unsent,
    });
  };

  protected override idOf = (one: Omit<KeptAct, 'order'>) => one.id;
  protected override waits = (one: KeptAct) => !one.problems;
  protected override stays(): void {}
  protected override forget = () => void (this.#here = null);

  protected override async send(one: KeptAct): Promise<Unsent | null> {
    const sent = await this.post.send(one);
    if (sent.status === 'signedOut') return 'signedOut';
    const { order, ...same } = one;
    if (sent.status === 'accepted') {
      this.#arrived = [...this.#arrived, { id: one.id, say: one.say, at: sent.at }];
      await this.change([order], []);
    } else await this.change([order], [{ ...same, problems: sent.problems }]);
    return null;
  }
}
