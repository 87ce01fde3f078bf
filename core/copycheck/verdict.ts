import { type Compared, type Difference } from './compare';
import { sentences } from './sentences';

/** One difference in a sentence. Characters are named only where they may be seen; places always are. */
export function differenceWords({ kind, at, a, b, confusable }: Difference, reveal: boolean): string {
  const group = sentences.group(Math.ceil(at / 4), ((at - 1) % 4) + 1);
  const how = confusable === 'look' ? sentences.lookAlike : confusable === 'sound' ? sentences.soundAlike : '';
  switch (kind) {
    case 'substituted':
      return sentences.substituted(group, reveal ? sentences.bothSides(a, b) : sentences.hiddenDifference, how);
    case 'missing':
      return sentences.missing(group, reveal ? `${a} is` : sentences.aCharacterIs);
    case 'extra':
      return sentences.extra(group, reveal ? `${b} is` : sentences.aCharacterIs);
    case 'swapped':
      return sentences.swapped(group, reveal ? sentences.bothSidesThen(a, b) : '');
  }
}

/** The verdict in few words and what to do. */
export function copyVerdict({ equal, aProblems, bProblems, differences }: Compared): { head: string; text: string } {
  if (equal) return { head: sentences.equal, text: sentences.bothSame };
  if (aProblems.length + bProblems.length > 0 && differences.length === 0)
    return { head: sentences.equalButBothWrong, text: sentences.agreeButWrong };
  const n = differences.length;
  return {
    head: n === 1 ? sentences.oneDifference : `${n} differences.`,
    text: sentences.checkAtThese,
  };
}
