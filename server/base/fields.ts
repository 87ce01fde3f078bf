import Joi from 'joi';
import { line, parseForm } from './parseForm';
import { Refused } from './expected';

/** Fields that forms of several rooms have. */

export const tag = Joi.string()
  .trim()
  .uppercase()
  .pattern(/^[A-Z][A-Z0-9]{0,2}$/, 'a short tag: a letter, then up to two letters or digits');
export const id = line(80);
export const oneOf = (allowed: Readonly<Record<string, unknown>>) => Joi.string().valid(...Object.keys(allowed));
export const many = (allowed: Record<string, string>) => Joi.array().items(oneOf(allowed)).single().unique().default([]);
export const date = Joi.string().pattern(/^(19|20)\d\d-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/, 'a date such as 2026-03-04');
/** Without the fields that were left open. */
export const given = <T extends object>(fields: T): T => Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined)) as T;
export const empty = (schema: Joi.Schema) => schema.empty(Joi.valid('', null));
/** An id that a browser made: long enough not to collide, nothing that could be anything else. */
export const madeId = Joi.string()
  .pattern(/^[A-Za-z0-9-]{8,64}$/, 'an id of 8 to 64 letters, digits and hyphens')
  .required();

/** Id of an act. */
export const parseCommandId = (data: unknown): string =>
  parseForm<{ commandId: string }>(Joi.object({ commandId: madeId }), { commandId: data }).commandId;

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
