/** What the checks of content in core/call say, by its code: read by whoever writes content. */
export const lintSentences = {
  // schema.ts
  sum: (name: string, sum: string) => `The shares of "${name}" add up to ${sum}, expected 1. Correct them.`,
  someWithoutChance: 'Some answers have p and some don’t. Give p to each, or to none.',
  notAnAnswer: (subject: string) => `A call knows answers only, and "${subject}" is none. Ask for an answer.`,
  unknownQuestion: (name: string, list: string) => `Question "${name}" does not exist here. Use one of: ${list}.`,
  unknownAnswer: (isText: string, allowed: string) => `Answer "${isText}" does not exist here. Use one of: ${allowed}.`,
  order: (minute: number, minute2: number) => `From ${minute} to ${minute2} runs backwards. Write the smaller one first.`,
  lastLineConditional: 'The last line has a condition. End with one that holds always, so that there is an answer each time.',
} as const;
