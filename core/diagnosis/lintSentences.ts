/** What the checks of content in core/diagnosis say, by its code: read by whoever writes content. */
export const lintSentences = {
  // figures.ts
  faultsFewerThan: (count: number, fewest: number) => `${count} faults, fewer than ${fewest}`,
  testsWithChancesFewerThan: (count: number, fewest: number) => `${count} tests with chances, fewer than ${fewest}`,
  ofRowsAtDefaultMore: (round: number, figure: number) => `${round} % of rows at default, more than ${figure} %`,
} as const;
