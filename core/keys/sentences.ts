/** Every sentence of core/keys, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // fit.ts
  needUnknown: (title: string) =>
    `${title}: the library doesn’t say what this vehicle needs. Look it up in the service information before you order.`,
  keyUnknown: (title: string, wanted: string) =>
    `${title}: not known for this key. The vehicle needs ${wanted}. Find out before anything is written.`,
  doesNotFit: (title: string, said: string, wanted: string, instead: string) =>
    `${title}: ${said} is wrong for this vehicle. It needs ${wanted}. ${instead}`,
  kind: 'Kind',
  kindInstead: 'Order the other kind.',
  chip: 'Chip',
  chipInstead: 'Don’t learn or write it: it will not be accepted.',
  band: 'Band',
  bandInstead: 'It may start the vehicle, but its remote will not work.',
  memory: 'Memory',
  memoryInstead: 'A chip that belongs to another vehicle can’t be learned here.',
} as const;
