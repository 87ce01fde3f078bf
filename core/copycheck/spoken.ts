/** The spelling alphabet of radio (ICAO Annex 10, volume II, 5.2.1.3), for reading back aloud. */
const words: Readonly<Record<string, string>> = {
  A: 'Alfa',
  B: 'Bravo',
  C: 'Charlie',
  D: 'Delta',
  E: 'Echo',
  F: 'Foxtrot',
  0: 'zero',
  1: 'one',
  2: 'two',
  3: 'three',
  4: 'four',
  5: 'five',
  6: 'six',
  7: 'seven',
  8: 'eight',
  9: 'niner',
};

/** A group as it is said: every character as a word of its own. @example spokenGroup("3FA8") // "three, Foxtrot, Alfa, eight" */
export const spokenGroup = (group: string): string => [...group].map((c) => words[c] ?? c).join(', ');
