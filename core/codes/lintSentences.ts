/** What the checks of code lists say, by their code: read by whoever writes content. */
export const lintSentences = {
  codeForm: 'one of P, C, B, U, then a digit from 0 to 3 and three of 0 to 9 and A to F',
  isMakers: (code: string) => `${code} is a maker’s own code, and each maker means something else by it. Put it into a list that names the maker.`,
  isStandard: (code: string) => `${code} is a public code. Put it into a list without a maker.`,
  backwards: (from: string, to: string) => `From ${from} to ${to} runs backwards. Write the smaller one first.`,
  unknownTopic: (topic: string) => `Topic "${topic}" is not in any list of trouble codes. Add it to topics, or name another.`,
  unknownTest: (test: string) => `No system type has a test "${test}". Name one of the library.`,
  unknownProfile: (profile: string) => `Profile "${profile}" does not exist. Name one of the library.`,
  twice: (code: string, other: string) => `${code} is also in "${other}". Leave one of them out.`,
} as const;
