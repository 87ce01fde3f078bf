import type { LinkState } from '../chain';
import type { LinkStatus } from './assess';
import type { Belief } from './diagnose';

/** From this chance on, a link that evidence has touched is broken; up to the lower one it holds; between them it is doubtful. Our own choices. */
export const brokenFrom = 0.8;
export const holdsUpTo = 0.05;

/**
 * The state of each link from what was said of it and from the beliefs:
 * 1. nothing in the ledger speaks of it or of one that implies it: unproven;
 * 2. it was seen to fail, and the fault is more likely than not on it or above it: broken (an immobilizer that refuses does not work, whatever the reason);
 * 3. else by the chance that the fault is on the link itself: broken from 0.8, holds up to 0.05 where nothing standing doubts it, doubtful between.
 * A single key that was seen to be well is so, unless the fault is more likely than not in it or in what all keys share.
 * @param links of the statements of the ledger, upstream first
 */
export function believe(links: readonly LinkStatus[], beliefs: readonly Belief[]): LinkStatus[] {
  const on = (link: string, key?: string) =>
    beliefs.reduce((n, b) => (b.link === link && (key === undefined || b.key === undefined || b.key === key) ? n + b.p : n), 0);
  let above = 0;
  return links.map((link) => {
    const own = on(link.id);
    above += own;
    return {
      ...link,
      state: stateOf(link.state, own, above),
      keys: link.keys.map(({ tag, state }) => {
        const p = on(link.id, tag);
        return { tag, state: state === 'holds' && p < 0.5 ? state : stateOf(state, p, above) };
      }),
    };
  });
}

function stateOf(said: LinkState, own: number, upToHere: number): LinkState {
  if (said === 'unproven') return 'unproven';
  if (said === 'broken' && upToHere >= 0.5) return 'broken';
  if (own >= brokenFrom) return 'broken';
  return own <= holdsUpTo && said === 'holds' ? 'holds' : 'doubtful';
}
