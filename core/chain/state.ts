/** The four states of a link (product.md). */
export const linkStates = ['unproven', 'holds', 'doubtful', 'broken'] as const;
export type LinkState = (typeof linkStates)[number];

/**
 * The state of one link from what evidence says of it, in order of time. A simple and stated rule, until beliefs take its place:
 * 1. the latest *direct* statement counts;
 * 2. without one, a hint of doubt outlives a hint that it holds;
 * 3. with neither, the link is unproven.
 */
export function combineStatements(statements: readonly { state: Exclude<LinkState, 'unproven'>; weight: 'direct' | 'hint' }[]): LinkState {
  const direct = statements.findLast((s) => s.weight === 'direct');
  if (direct) return direct.state;
  if (statements.some((s) => s.state === 'broken')) return 'broken';
  if (statements.some((s) => s.state === 'doubtful')) return 'doubtful';
  return statements.length > 0 ? 'holds' : 'unproven';
}

/**
 * The vehicle's state of a link that is judged key by key. Keys that disagree leave it doubtful: one key that works does not clear the
 * reader, and one that is refused does not condemn it (craft.md §1).
 */
export function combineKeys(states: readonly LinkState[]): LinkState {
  const known = states.filter((s) => s !== 'unproven');
  const first = known[0];
  if (first === undefined) return 'unproven';
  return known.every((s) => s === first) ? first : 'doubtful';
}
