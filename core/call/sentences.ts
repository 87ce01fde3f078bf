/** Every sentence of core/call, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // system.ts
  fromVideo: (seen: string) => `From the video: ${seen}`,
  patternFromVideo: (title: string, p: string) => `${title} (${p}, from the video)`,
  forThisSystem: (tools: string) => `For this system: ${tools}.`,

  // told.ts
  refused: 'Sounds like the immobilizer',
  power: 'Sounds like no power',
  beyond: 'Sounds like starter, fuel or a switch',
  notClear: 'Not clear',
  partsExtra: (price: string) => `${price}, parts extra`,
} as const;
