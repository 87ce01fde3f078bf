import { sentences } from './sentences';
/** What was done since the trouble was taken to be found, in order of its moment, ms. */
export type ProofEntry = { at: number } & (
  | /** Something was changed on the vehicle: a repair, a part, a setting. */ { kind: 'change'; what: string }
  | /** A key was tried; `works`: it started and kept running. Without a tag where keys have none. */ { kind: 'tried'; key?: string; works: boolean }
  | /** The suspected cause was brought back once. */ { kind: 'broughtBack'; fails: boolean }
  | /** And taken away again. */ { kind: 'takenAway'; works: boolean }
);

/** Kept apart, since a customer pays for the one and is told of the other. */
export type Standing = 'proven' | 'likely' | 'unknown' | 'failed';

export interface Proof {
  standing: Standing;
  /** What is still to be done, the next one first, in words. */
  open: string[];
  /** Keys that were not tried since; a key without a tag is an empty name. */
  untried: string[];
  /** What needs to be done with the suspected cause, if it is that kind of cause. */
  next: 'broughtBack' | 'takenAway' | null;
  /** When a start counts as the proof that a rest asks for, ms; null: no rest is asked for, or it started after it. */
  waitUntil: number | null;
  /** Tries without a miss since the last change, and how many confirm the fix; null: one start of each key is enough. */
  starts: { done: number; of: number } | null;
  /** Two changes were made with no trial between: whichever helped can't be told. Their names. */
  changedTogether: [string, string] | null;
}

export interface Asked {
  putBack: boolean;
  waitMin?: number | undefined;
  starts?: number | undefined;
  /** The key that was mended, where the cause sits in one: a try with another key says nothing of it, and isn't counted. */
  key?: string | undefined;
}

/**
 * How well a cure is proven (craft.md §7.10): every key works after the last change; and where a cause can come back by itself or be taken away, it was
 * brought back once, the vehicle failed, and it was cured again.
 * Where a fix is confirmed after a rest, at least one start must lie that long after the change; where it is confirmed by a number of tries, so many
 * must follow each other without a miss: with the key that was mended, or with whatever key where the cause sits in none.
 * @param keys tags of the keys that are here; empty where keys have no identity
 * @param asked how this fix is confirmed: whether the suspected cause is brought back once, and how many minutes must pass first,
 *   how many tries in a row are counted
 */
export function proofOf(entries: readonly ProofEntry[], keys: readonly string[], asked: Asked): Proof {
  const { putBack, waitMin = 0, starts = 1, key: mended } = asked;
  const lastChange = entries.findLastIndex((e) => e.kind === 'change');
  const since = entries.slice(lastChange + 1);
  const last = (key: string | undefined) =>
    since.findLast((e): e is ProofEntry & { kind: 'tried' } => e.kind === 'tried' && (key === undefined || e.key === key))?.works;
  const wanted: (string | undefined)[] = keys.length > 0 ? [...keys] : [undefined];
  const untried = wanted.filter((key) => last(key) === undefined);
  const back = since.findLastIndex((e) => e.kind === 'broughtBack');
  const away = back < 0 ? undefined : since.slice(back).findLast((e): e is ProofEntry & { kind: 'takenAway' } => e.kind === 'takenAway')?.works;
  const failedAgain = back < 0 ? undefined : (since[back] as ProofEntry & { kind: 'broughtBack' }).fails;
  const rested = lastChange < 0 ? null : entries[lastChange]!.at + waitMin * msPerMinute;
  const tries = since.filter((e) => e.kind === 'tried');
  const speaking = tries.filter((e) => mended === undefined || e.key === undefined || e.key === mended);
  const restless = waitMin > 0 && rested !== null && !speaking.some((e) => e.works && e.at >= rested);

  // Where a rest is asked for, only tries after it count.
  const counting = speaking.filter((e) => waitMin === 0 || (rested !== null && e.at >= rested));
  const done = counting.length - 1 - counting.findLastIndex((e) => !e.works);
  const counted = starts > 1 ? { done: Math.min(done, starts), of: starts } : null;
  const short = counted !== null && counted.done < counted.of;

  const next = putBack && failedAgain === undefined ? 'broughtBack' : failedAgain === true && away === undefined ? 'takenAway' : null;
  const open = [
    ...untried.map((key) => (key === undefined ? sentences.proveStart : sentences.proveStartWithKey(key))),
    ...(restless ? [sentences.proveAfterRest(waitMin)] : []),
    ...(next === 'broughtBack' ? [sentences.provePutBack] : []),
    ...(next === 'takenAway' ? [sentences.proveRemoved] : []),
    ...(short ? [sentences.proveTries(counted.done, counted.of, mended)] : []),
  ];
  return {
    standing: standingOf(),
    open,
    untried: untried.map((key) => key ?? ''),
    next,
    waitUntil: restless ? rested : null,
    starts: counted,
    changedTogether: together(entries),
  };

  function standingOf(): Standing {
    // A try that is counted may name no key: its miss is a miss of the car.
    if (wanted.some((key) => last(key) === false) || tries.at(-1)?.works === false || away === false) return 'failed';
    // It works with the cause in place: so that was not the cause, whatever else has helped.
    if (failedAgain === false) return 'unknown';
    if (untried.length === wanted.length) return 'unknown';
    return untried.length === 0 && !restless && !short && (!putBack || away === true) ? 'proven' : 'likely';
  }
}

const msPerMinute = 60_000;

/** The last two changes, if nothing was tried between them. */
function together(entries: readonly ProofEntry[]): [string, string] | null {
  const changes = entries.flatMap((e, at) => (e.kind === 'change' ? [{ what: e.what, at }] : []));
  const [first, second] = changes.slice(-2);
  if (!first || !second) return null;
  return entries.slice(first.at, second.at).some((e) => e.kind !== 'change') ? null : [first.what, second.what];
}
