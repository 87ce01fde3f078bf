/** Every sentence of core/trials, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // verdict.ts
  missesPossible: (missUpper: string, confidence: string) => `A miss rate of up to ${missUpper} is still possible (${confidence}).`,
  ruledOut: (target: string) => `More than ${target} misses are ruled out.`,
  moreWouldRuleOut: (more: number, target: string) => `${more} more without a miss would rule out more than ${target}.`,
  keysDiffer: (one: string, other: string, byChance: string) =>
    `It differs between ${one} and ${other} more than chance explains (${byChance}), and the key should not matter here. Check what else was different.`,
  keysAlike: 'The keys don’t differ by more than chance.',
  noneHead: 'Nothing counted yet.',
  noneDo: 'Check once, and tap what you saw.',
  alwaysHead: (hit: string, hits: number, trials: number) => `${hit}, ${hits} of ${trials}.`,
  neverHead: (hit: string, trials: number) => `No ${hit}, 0 of ${trials}.`,
  neverPossible: (high: string, confidence: string) =>
    `A hit rate of up to ${high} is still possible (${confidence}). Check the instrument on something that works before you trust a “no”.`,
  sometimesHead: (hit: string, hits: number, trials: number) => `${hit} ${hits} of ${trials} times.`,
  sometimesRate: (low: string, high: string, confidence: string) =>
    `The true rate is between ${low} and ${high} (${confidence}): intermittent. Check for what moves, warms up or corrodes.`,

  // looks.ts
  noTag: 'no tag',
  tag: (key: string) => `tag ${key}`,
} as const;
