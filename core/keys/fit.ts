import { type ChipMemory, chipMemories, type KeyKind, keyKinds, type NewKeySpec } from '../library';
import { sentences } from './sentences';

/** A key that is to be fitted, as far as the check asks. Empty text: not known. */
export interface KeyToFit {
  kind: KeyKind;
  chip: string;
  band: string;
  memory: ChipMemory;
}

export interface FitRemark {
  what: 'kind' | 'chip' | 'band' | 'memory';
  verdict: 'fits' | 'doesNotFit' | 'notKnown';
  say: string;
}

const same = (a: string, b: string) => a.trim().toLowerCase().replace(/\s+/g, ' ') === b.trim().toLowerCase().replace(/\s+/g, ' ');
const list = (options: readonly string[]) => options.join(' or ');

/**
 * Compares a new key with what the vehicle needs, before anything is written into it (craft.md §4, "A new key"). Each of kind, chip, band and
 * memory fits, does not fit, or is not known, and says what to do. The model's own list counts before its family's.
 */
export function checkFit(key: KeyToFit, family: NewKeySpec | null, profile?: NewKeySpec): FitRemark[] {
  const spec = { ...family, ...profile };
  const remark = (
    what: FitRemark['what'],
    title: string,
    found: string,
    said: string,
    needed: readonly string[] | undefined,
    words: (option: string) => string,
    instead: string,
  ): FitRemark => {
    if (!needed)
      return {
        what,
        verdict: 'notKnown',
        say: sentences.needUnknown(title),
      };
    const wanted = list(needed.map(words));
    if (found === '' || found === 'unknown')
      return {
        what,
        verdict: 'notKnown',
        say: sentences.keyUnknown(title, wanted),
      };
    return needed.some((n) => same(n, found))
      ? { what, verdict: 'fits', say: `${title}: ${said} fits.` }
      : { what, verdict: 'doesNotFit', say: sentences.doesNotFit(title, said, wanted, instead) };
  };
  return [
    remark('kind', sentences.kind, key.kind, keyKinds[key.kind], spec.kinds, (k) => keyKinds[k as KeyKind], sentences.kindInstead),
    remark('chip', sentences.chip, key.chip, key.chip, spec.chips, (c) => c, sentences.chipInstead),
    remark('band', sentences.band, key.band, key.band, spec.bands, (b) => b, sentences.bandInstead),
    remark(
      'memory',
      sentences.memory,
      key.memory,
      chipMemories[key.memory],
      spec.memories,
      (m) => chipMemories[m as ChipMemory],
      sentences.memoryInstead,
    ),
  ];
}
