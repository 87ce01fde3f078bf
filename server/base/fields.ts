import { line, needed, pattern, shape, whole } from './field';
import { parseForm } from './parseForm';
import { Refused } from './expected';

/** Fields that forms of several rooms have. */

/** Name of something in a list: compared, never shown. */
export const name = line(80);
export const id = line(80);
export const tag = pattern(/^[A-Z][A-Z0-9]{0,2}$/, 'a short tag: a letter, then up to two letters or digits', (s) => s.trim().uppercase());
export const date = pattern(/^(19|20)\d\d-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a date such as 2026-03-04');
/** Number of a row of the database. */
export const rowId = whole(1, 999_999_999);
/** How a system is chosen: a family, or a profile. */
export const systemChoice = pattern(/^(family|profile):[A-Za-z0-9-]{1,60}$/, 'one of the system types in the list');
/** A name that content gives: of a number, a question. */
export const contentName = /^[a-z][A-Za-z0-9]{0,59}$/;
/** An id that a browser made: long enough not to collide, nothing that could be anything else. */
export const madeId = needed(pattern(/^[A-Za-z0-9-]{8,64}$/, 'an id of 8 to 64 letters, digits and hyphens'));

export const hash = pattern(/^[0-9a-f]{64}$/i, 'a hash of 64 hexadecimal digits');
/** One version of a document of the library. */
export const pin = shape({ id: needed(line(60)), version: needed(whole(1, Number.MAX_SAFE_INTEGER)), hash: needed(hash) });

/** Id of an act. */
export const parseCommandId = (data: unknown): string => parseForm({ commandId: madeId }, { commandId: data }).commandId;

/** The bytes of an uploaded file. */
export function parseFile(data: unknown): Uint8Array {
  if (!(data instanceof Uint8Array) || data.byteLength === 0)
    throw new Refused(400, [{ code: 'noFile', path: 'file', message: 'No file was chosen. Choose one.' }]);
  return data;
}
/** Records of the database have small whole numbers as ids; anything else names nothing. */
export function parseRecordId(text: string | undefined): number | undefined {
  return text !== undefined && /^[1-9][0-9]{0,8}$/.test(text) ? Number(text) : undefined;
}
