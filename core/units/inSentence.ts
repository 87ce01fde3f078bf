/** A sentence's text for the middle of another one: without its capital, where it begins with no abbreviation. */
export const inSentence = (text: string): string => (/^(\p{Lu}\p{Ll}|A )/u.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text);
