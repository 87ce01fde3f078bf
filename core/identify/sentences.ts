/** Every sentence of core/identify, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // identify.ts
  onlyOneAnswer: (title: string) => `Only one answer points to “${title}”. One more confirms it.`,
  narrowsDown: 'It narrows down what is left.',
  tellsApart: (title: string, title2: string) => `Tells “${title}” from “${title2}”.`,
} as const;
