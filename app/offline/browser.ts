import type { Problem } from '../../core/units';
import { newCommandId } from '../ui/commandId';
import { Outbox, type Pending, type Sent, type Waiting } from './outbox';
import { boxStore } from './store';

/** An answer that does not come within this is not waited for any more, milliseconds; the same command is sent again. */
const answerMs = 8000;
/** Time between two tries while there is no connection, milliseconds. */
const retryMs = 3000;

async function send(runId: number, command: Pending): Promise<Sent> {
  const response = await fetch(`/runs/${runId}/commands`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
    body: JSON.stringify(command),
    signal: AbortSignal.timeout(answerMs),
  });
  if (response.status >= 500) throw new Error('The server could not answer');
  // Signed out meanwhile: it is kept and sent again as soon as somebody has signed in here.
  if (response.status === 401) return { status: 'signedOut' };
  if (response.ok) return { status: 'accepted' };
  const answer = (await response.json().catch(() => ({}))) as { problems?: Problem[] };
  const problem = answer.problems?.[0] ?? { code: 'refused', path: '', message: 'The server refused this. Reload the page and check.' };
  return { status: 'refused', problem };
}

/** What lies on the disk, or in memory only where the browser has no disk for it (a private window of some browsers): then a reload loses it. */
class Box {
  #memory: Waiting[] | null = null;
  async #on<T>(disk: () => Promise<T>, memory: (list: Waiting[]) => T): Promise<T> {
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
      () => boxStore.all(),
      (list) => [...list],
    );
  change = (leave: readonly number[], come: readonly Omit<Waiting, 'order'>[]) =>
    this.#on(
      () => boxStore.change(leave, come),
      (list) => {
        const last = list.at(-1)?.order ?? 0;
        return (this.#memory = [...list.filter((w) => !leave.includes(w.order)), ...come.map((w, i) => ({ ...w, order: last + 1 + i }))]);
      },
    );
}

function open(): Outbox {
  const box = new Box();
  const tabs = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('bloodstone.outbox');
  const made = new Outbox({
    send,
    all: box.all,
    change: box.change,
    newId: newCommandId,
    // Where the browser has no locks two tabs may send the same: the server does it once.
    alone: (work) => ('locks' in navigator ? navigator.locks.request('bloodstone.outbox', work) : work()),
    tell: () => tabs?.postMessage('changed'),
  });
  tabs?.addEventListener('message', () => void made.reload());
  const again = () => void (made.isEmpty || made.deliver());
  setInterval(again, retryMs);
  window.addEventListener('online', again);
  return made;
}

let opened: Outbox | undefined;
/** The one queue of this window; only in the browser. */
export const outbox = (): Outbox => (opened ??= open());
