/** Every sentence of core/learning, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // differences.ts
  cause: (title: string, n: number, cases: number, content: string) =>
    `“${title}” was the cause in ${n} of ${cases} cases here; the content says ${content}.`,
  slip: (title: string, off: number, n: number, content: string) =>
    `“${title}”: ${off} of ${n} answers were not what such a vehicle shows; the content says ${content}.`,
  minutes: (title: string, here: number, n: number, usual: number) =>
    `“${title}” takes ${here} min here, over ${n} times; the content says ${usual} min.`,

  // exchange.ts
  notJson: 'This is not JSON. Choose a file that another shop has exported under Shop, What we learned.',
  tooLarge: (most: number) => `The file is larger than ${most} kB. Choose the right file.`,
};
