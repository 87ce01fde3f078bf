/** Every sentence of core/copycheck, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // entry.ts
  hex: '0 to 9 and A to F',
  identification: '0 to 9 and A to Z without I, O and Q',
  foreignLetter: (c: string) => `“${c}”, a letter of another alphabet,`,
  characterAt: (at: number) => `character ${at}`,
  wasMeant: (meant: string) => ` Did you mean ${meant}?`,
  checkTheOriginal: ' Check the original.',
  wrongCharacter: (kind: string, alphabetWord: string, hint: string) => `You typed ${kind} where only ${alphabetWord} is allowed.${hint}`,
  manyWrong: (count: number) => `${count} more characters are not allowed here. Is it the right alphabet?`,
  empty: 'Nothing is typed yet. Type the characters.',
  tooLong: (count: number, longestEntry: number) => `${count} characters. Compare at most ${longestEntry}.`,
  length: (count: number, off: number, direction: string, length: number) => `${count} characters, ${off} too ${direction}. It must have ${length}.`,

  // verdict.ts
  group: (group: number, character: number) => `group ${group}, character ${character}`,
  lookAlike: ' They look alike.',
  soundAlike: ' They sound alike.',
  bothSides: (a: string, b: string) => `${a} in the first, ${b} in the second.`,
  hiddenDifference: 'two different characters.',
  substituted: (group: string, what: string, how: string) => `In ${group}: ${what}${how}`,
  aCharacterIs: 'a character is',
  missing: (group: string, what: string) => `In ${group}: ${what} missing in the second.`,
  extra: (group: string, what: string) => `Before ${group}: ${what} one too many in the second.`,
  bothSidesThen: (a: string, b: string) => `${a} in the first, ${b} in the second: `,
  swapped: (group: string, what: string) => `In ${group}: ${what}two neighbors are swapped.`,
  equal: 'Equal.',
  bothSame: 'Both entries are the same.',
  equalButBothWrong: 'Equal, but both wrong.',
  agreeButWrong: 'The two entries agree but can’t be right. Check the original.',
  oneDifference: 'One difference.',
  checkAtThese: 'Check the original at these places and correct the wrong entry.',
} as const;
