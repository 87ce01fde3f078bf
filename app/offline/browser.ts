import type { Problem } from '../../core/units';
import { newCommandId } from '../ui/commandId';
import { ActBox, type ActSent } from './actBox';
import type { KeptAct } from './acts';
import { Outbox, type Pending, type Sent } from './outbox';
import type { Disk, Queue, Queued } from './queue';
import { actStore, runStore } from './store';

/** An answer that does not come within this is not waited for any more, milliseconds; the same is sent again. */
const answerMs = 8000;
/** Time between two tries while there is no connection, milliseconds. */
const retryMs = 3000;

/** Sends something as JSON. @throws Error where no answer comes, or none that says anything */
async function post(address: string, body: unknown): Promise<Response> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(answerMs),
  });
  if (response.status >= 500) throw new Error('The server could not answer');
  return response;
}

const unreadable: Problem = { code: 'refused', path: '', message: 'The server refused this. Reload the page and check.' };
const problemsOf = async (response: Response): Promise<Problem[]> => {
  const answer = (await response.json().catch(() => ({}))) as { problems?: Problem[] } | null;
  return answer?.problems?.length ? answer.problems : [unreadable];
};

async function sendAnswer(runId: number, command: Pending): Promise<Sent> {
  const response = await post(`/runs/${runId}/commands`, command);
  // Signed out meanwhile: it is kept and sent again as soon as somebody has signed in here.
  if (response.status === 401) return { status: 'signedOut' };
  return response.ok ? { status: 'accepted' } : { status: 'refused', problem: (await problemsOf(response))[0]! };
}

async function sendAct({ address, id, at, fields, page }: KeptAct): Promise<ActSent> {
  const response = await post(address, { ...fields, commandId: id, occurredAt: at });
  if (response.status === 401) return { status: 'signedOut' };
  if (!response.ok) return { status: 'refused', problems: await problemsOf(response) };
  // Where it led to, as an act that opens a case does; else where it was done.
  const { pathname, search } = new URL(response.url);
  return { status: 'accepted', at: response.redirected ? pathname + search : page };
}

/** What lies on the disk, or in memory only where the browser has no disk for it (a private window of some browsers): then a reload loses it. */
class Box<T extends Queued> {
  #memory: T[] | null = null;
  constructor(private readonly store: Pick<Disk<T>, 'all' | 'change'>) {}

  async #on(disk: () => Promise<T[]>, memory: (list: T[]) => T[]): Promise<T[]> {
    if (!this.#memory)
      try {
        return await disk();
      } catch {
        this.#memory = [];
      }
    return memory(this.#memory);
  }
  all = () =>
    this.#on(
      () => this.store.all(),
      (list) => [...list],
    );
  change = (leave: readonly number[], come: readonly Omit<T, 'order'>[]) =>
    this.#on(
      () => this.store.change(leave, come),
      (list) => {
        const last = list.at(-1)?.order ?? 0;
        return (this.#memory = [...list.filter((w) => !leave.includes(w.order)), ...come.map((w, i) => ({ ...w, order: last + 1 + i }) as T)]);
      },
    );
}

/** A queue of this window: on the disk, one tab at a time, tried again until it is through. @param name of its channel and its lock */
function open<T extends Queued, Q extends Queue<T>>(name: string, store: Pick<Disk<T>, 'all' | 'change'>, make: (disk: Disk<T>) => Q): Q {
  const box = new Box<T>(store);
  const tabs = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(name);
  const made = make({
    all: box.all,
    change: box.change,
    // Where the browser has no locks two tabs may send the same: the server does it once.
    alone: (work) => ('locks' in navigator ? navigator.locks.request(name, work) : work()),
    tell: () => tabs?.postMessage('changed'),
  });
  tabs?.addEventListener('message', () => void made.reload());
  const again = () => void (made.isEmpty || made.deliver());
  setInterval(again, retryMs);
  window.addEventListener('online', again);
  return made;
}

let runs: Outbox | undefined;
/** Answers of runs; only in the browser. */
export const outbox = (): Outbox =>
  (runs ??= open('bloodstone.outbox', runStore, (disk) => new Outbox({ ...disk, send: sendAnswer, newId: newCommandId })));

let acts: ActBox | undefined;
/** Acts of other pages; only in the browser. */
export const actBox = (): ActBox => (acts ??= open('bloodstone.acts', actStore, (disk) => new ActBox({ ...disk, send: sendAct })));
