/** Every sentence of core/reserve, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // limits.ts
  ampHours: 'Ah',
  years: 'years',

  // verdict.ts
  go: 'The battery is enough.',
  goFor: (sure: string, needed: string) => `It holds for at least ${sure}; the work needs ${needed}.`,
  goWithSupply: (amps: number) => `Connect a battery maintainer of at least ${amps} A first.`,
  without: (sure: string, needed: string) => `Without it, count on ${sure} only; the work needs ${needed}.`,
  dont: 'Don’t start. The battery is nearly flat.',
  dontDo: (charge: string, amps: number) =>
    `At rest it shows ${charge} of its charge. Charge it, or replace it, then measure again. A maintainer would have to give ${amps} A all the time.`,
  surface: 'It was charged or driven a short time ago, so it looks fuller than it is. Let it rest, then measure again.',
  aDay: 'a day or more',
  minutes: (n: number) => (n === 1 ? '1 minute' : `${n} minutes`),
} as const;
