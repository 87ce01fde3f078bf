import { codesInFields } from './fields';
import { codesInText, type FoundCodes } from './inText';

/** More than any page of codes has: a megabyte. */
export const mostCharacters = 1_000_000;

/**
 * The trouble codes in any text: a report of a scan tool, a line that somebody typed, or a file with fields (CSV whose first line names a column for the
 * code, JSON), of which each field is read as what its name says. A code is taken as it is written; what only could be one is a guess. Every occurrence
 * counts, in its order.
 * @throws RangeError for more than a megabyte of text
 * @example findCodes('ECM: P0562 stored, PO633').codes // [{ code: 'P0562', module: 'engine', status: 'stored', at: 5, line: 1 }]
 */
export function findCodes(text: string): FoundCodes {
  if (text.length > mostCharacters) throw new RangeError(`findCodes takes at most ${mostCharacters} characters`);
  return codesInFields(text) ?? codesInText(text);
}
