/** Every sentence of core/quote, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // money.ts
  noAmount: (sample: string) => `Nothing is typed here. Type an amount, such as ${sample}.`,
  notAnAmount: (typed: string, sample: string) => `You typed "${typed}". Type an amount, such as ${sample}.`,
  tooManyPlaces: (typed: string, decimals: number) => `You typed "${typed}". This currency has ${decimals} decimal places. Type no more.`,
  tooMuch: (typed: string) => `You typed "${typed}". No price of a shop is that high. Is the decimal point missing?`,

  // book.ts
  quoteOpen: 'A quotation mark is never closed. Close it or remove it.',
  header: (header: string) => `Begin with the header ${header}.`,
  lineAt: (line: number) => `line ${line}`,
  cells: (found: number, expected: number, header: string) => `This line has ${found} cells, not ${expected}. Write ${header}.`,
  tooManyItems: (found: number, most: number) => `${found} items are too many. Give at most ${most}.`,
  kind: (typed: string, kinds: string) => `You typed "${typed}". Use one of: ${kinds}.`,
  code: (typed: string) => `You typed "${typed}". Use small letters, digits and hyphens, such as key-blank.`,
  codeTwice: (code: string, line: number) => `"${code}" is in line ${line} already. Give each its own.`,
  title: (most: number) => `Write what it is, in ${most} characters or fewer.`,
  minutesOfLabor: 'Only labor has minutes. Leave this empty.',
  minutes: (typed: string) => `You typed "${typed}". Type whole minutes, such as 30.`,
  minutesOrPrice: 'Labor needs minutes or a price. Type one of them.',
  priceMissing: 'The price is missing. Type it.',
  tax: (typed: string) => `You typed "${typed}". Type percent from 0 to 100, such as 8.25.`,

  // bill.ts
  callOut: 'Call-out',
  workOf: (titles: string) => `Work: ${titles}`,
  toLeastBill: 'Up to the minimum bill',
};
