/** Every sentence of core/vin, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // checkVin.ts
  empty: 'Nothing is typed here. Type the 17 characters.',
  tooMany: 'too many',
  length: (count: string, direction: string) => `${count} ${direction}: it has 17. Read it again.`,
  neverUsed: (place: number, character: string, likely: string) => `Position ${place}: ${character} is never used. It is likely ${likely}.`,
  notAllowed: (place: number, character: string) => `Position ${place}: ${character} is not a letter from A to Z or a digit. Read it again.`,
  noSingleSlip: 'No single misread character explains it.',
  swapped: (place: number, next: number, likely: string, found: string) =>
    `Most likely slip: positions ${place} and ${next} swapped, ${likely} for ${found}.`,
  misread: (place: number, likely: string, found: string) => `Most likely slip: position ${place} is ${likely}, not ${found}.`,
  readItAgain: 'Read it again.',
  notEveryMarket: 'Not every market uses the check digit: read it again, then keep what is on the vehicle.',
  checkDigit: (found: undefined | string, expected: string, slip: string, market: string) =>
    `The check digit, position 9, is ${found}; ${expected} would fit. ${slip} ${market}`,
} as const;
