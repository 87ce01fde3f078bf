import { type Compared, type Difference } from './compare';

/** One difference in a sentence. Characters are named only where they may be seen; places always are. */
export function differenceWords({ kind, at, a, b, confusable }: Difference, reveal: boolean): string {
  const group = `group ${Math.ceil(at / 4)}, character ${((at - 1) % 4) + 1}`;
  const how = confusable === 'look' ? ' They look alike.' : confusable === 'sound' ? ' They sound alike.' : '';
  switch (kind) {
    case 'substituted':
      return `In ${group}: ${reveal ? `${a} in the first, ${b} in the second.` : 'two different characters.'}${how}`;
    case 'missing':
      return `In ${group}: ${reveal ? `${a} is` : 'a character is'} missing in the second.`;
    case 'extra':
      return `Before ${group}: ${reveal ? `${b} is` : 'a character is'} one too many in the second.`;
    case 'swapped':
      return `In ${group}: ${reveal ? `${a} in the first, ${b} in the second: ` : ''}two neighbors are swapped.`;
  }
}

/** The verdict in few words and what to do. */
export function copyVerdict({ equal, aProblems, bProblems, differences }: Compared): { head: string; text: string } {
  if (equal) return { head: 'Equal.', text: 'Both entries are the same.' };
  if (aProblems.length + bProblems.length > 0 && differences.length === 0)
    return { head: 'Equal, but both wrong.', text: 'The two entries agree but can’t be right. Check the original.' };
  const n = differences.length;
  return {
    head: n === 1 ? 'One difference.' : `${n} differences.`,
    text: 'Check the original at these places and correct the wrong entry.',
  };
}
