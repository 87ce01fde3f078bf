import type { Problem } from '../../core/units';
import type { ActsHere, KeptAct } from './acts';
import { type Disk, Queue, type Unsent } from './queue';

/** What the server says to an act. */
export type ActSent = { status: 'accepted'; at: string } | { status: 'refused'; problems: readonly Problem[] } | { status: 'signedOut' };

export interface ActPost extends Disk<KeptAct> {
  /** Rejects when no answer comes. */
  send(act: KeptAct): Promise<ActSent>;
}

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
