/** A title as it reads within a sentence: its first letter small, unless the first word is an abbreviation ("ECM replaced", "VIN and numbers"). */
export const midSentence = (title: string): string => title.replace(/^[A-Z](?![A-Z0-9])/, (first) => first.toLowerCase());
