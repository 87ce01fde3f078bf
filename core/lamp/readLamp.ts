import { areAlike, type LaidLamp } from '../library';
import { expectedLit } from './expected';
import { type LampFeatures, lampFeatures } from './features';
import { strangeLogDensity, alignedLogDensity, tapping } from './likelihood';
import { firstSeconds, type Recording } from './recording';

const { exp, log, max } = Math;

/** Name of "none of these" among the patterns. */
export const noneOfThese = 'none';
/** Below this nothing is decided. */
export const decidedFrom = 0.8;
/** How often a lamp does something that its family's list does not have; ours. */
const noneBefore = 0.03;
/** No pattern needs longer to be read; what comes after it would only cost time. */
const readS = 60;
/** What is less likely than this is not waited for. */
const worthWaiting = 0.02;

const delays = [-2, -1.2, -0.6, 0, 0.6, 1.2, 2];
const tempos = [-1.6, -0.8, 0, 0.8, 1.6];

export interface LampReading {
  /** Every pattern of the moment and "none of these", the likeliest first; they add up to 1. */
  patterns: { id: string; p: number }[];
  features: LampFeatures;
  /**
   * decided: one pattern; pair: two that nobody can tell apart; more: not looked long enough; unclear: long enough, and still not clear.
   */
  state: 'decided' | 'pair' | 'more' | 'unclear';
  /** How much longer to look, seconds, when that would help. */
  moreS: number;
  /** How the likeliest pattern fits best: how late it was tapped, seconds, and how much slower than its numbers the lamp runs. Null: none of these. */
  fit: { lateS: number; tempo: number } | null;
}

/** Log density of a recording under a pattern, over the delays of people and the tempo of lamps, and the likeliest of these. */
function patternLogDensity(seen: Recording, pattern: LaidLamp): { logDensity: number; fit: { lateS: number; tempo: number } } {
  const terms: number[] = [];
  let weights = 0;
  let best = -Infinity;
  let fit = { lateS: 0, tempo: 1 };
  for (const t of tempos) {
    const tempo = 1 + t * tapping.tempoSpread;
    const lit = expectedLit(pattern, seen.lengthS, tempo);
    for (const d of delays) {
      const weight = exp(-0.5 * (t * t + d * d));
      weights += weight;
      const lateS = max(0, tapping.delayS + d * tapping.delaySpreadS);
      const term = log(weight) + alignedLogDensity(seen, lit, lateS);
      terms.push(term);
      if (term > best) [best, fit] = [term, { lateS, tempo }];
    }
  }
  const most = max(...terms);
  return { logDensity: most + log(terms.reduce((sum, x) => sum + exp(x - most), 0)) - log(weights), fit };
}

/**
 * Reads a lamp: how likely each pattern of one family and moment is, after what was seen from the beginning of that moment. The likelihood allows for
 * people who tap along: late, unevenly, sometimes not at all or twice.
 * @param patterns of one family and moment; texts of the cluster are read by eye and are left out here
 * @throws RangeError without a pattern that a lamp makes
 */
export function readLamp(patterns: readonly LaidLamp[], recording: Recording): LampReading {
  const seen = firstSeconds(recording, readS);
  const drawn = patterns.filter((p) => p.segments);
  if (drawn.length === 0) throw new RangeError('No light pattern is given.');
  const densities = drawn.map((p) => patternLogDensity(seen, p));
  const logs = densities.map((d) => log((1 - noneBefore) / drawn.length) + d.logDensity);
  logs.push(log(noneBefore) + strangeLogDensity(seen));
  const most = max(...logs);
  const sum = logs.reduce((s, l) => s + exp(l - most), 0);
  const ranked = [...drawn.map((d) => d.id), noneOfThese].map((id, i) => ({ id, p: exp(logs[i]! - most) / sum })).sort((a, b) => b.p - a.p);

  const byId = new Map(drawn.map((d) => [d.id, d]));
  const likely = ranked.filter((r) => r.p >= worthWaiting).flatMap((r) => byId.get(r.id) ?? []);
  const [first, second] = ranked as [(typeof ranked)[0], (typeof ranked)[0]];
  const [one, other] = [byId.get(first.id), byId.get(second.id)];
  // No pattern is ruled out before the shortest of their times is over.
  const ownS = one?.decisiveS ?? Math.min(...drawn.map((d) => d.decisiveS));
  const moreS = max(0, ...[ownS, ...likely.map((l) => l.decisiveS)].map((s) => s - recording.lengthS));
  const state = (): LampReading['state'] => {
    // What has not been looked at for its own time may still turn into another pattern.
    if (recording.lengthS < ownS) return 'more';
    if (first.p >= decidedFrom) return 'decided';
    if (one && other && first.p + second.p >= decidedFrom && areAlike(one, other)) return 'pair';
    return moreS > 0 ? 'more' : 'unclear';
  };
  const told = state();
  return {
    patterns: ranked,
    features: lampFeatures(recording),
    state: told,
    moreS: told === 'more' ? moreS : 0,
    fit: densities[drawn.findIndex((d) => d.id === first.id)]?.fit ?? null,
  };
}
