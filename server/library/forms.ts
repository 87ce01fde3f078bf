import Joi from 'joi';
import { maxReason } from '../../core/procedure';
import { Refused } from '../base/expected';
import { line, optionalLine, parseForm } from '../base/parseForm';
import type { NewProfile, ProfileForm } from './profiles';
import type { ShopKind } from './shopDocuments';

export const parseNewProfile = (data: unknown) =>
  parseForm<NewProfile>(Joi.object({ title: line(120).required(), from: Joi.string().max(80).required() }), data);

/** A profile as it is typed; numbers are read by the family's parameters (profiles.ts). */
export const parseProfileForm = (data: unknown) =>
  parseForm<ProfileForm>(
    Joi.object({
      from: Joi.number().integer().min(1).required(),
      title: line(120).required(),
      source: line(600).required(),
      values: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, Joi.object({ value: optionalLine(60), source: optionalLine(maxReason) }))
        .max(60)
        .default({}),
      seen: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, optionalLine(60))
        .max(60)
        .default({}),
      ladder: optionalLine(60),
      check: Joi.boolean().truthy('on').default(false),
    }),
    data,
  );

/** A file, or pasted text when none was chosen. */
export function parseYamlSent(data: unknown): string {
  const { file, text } = data as { file?: unknown; text?: unknown };
  if (file instanceof Uint8Array && file.byteLength > 0) {
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(file);
    } catch {
      throw new Refused(400, [{ code: 'encoding', path: 'file', message: 'This is not a text file in UTF-8. Choose the exported YAML file.' }]);
    }
  }
  if (typeof text === 'string' && text.trim() !== '') return text;
  throw new Refused(400, [{ code: 'noFile', path: 'file', message: 'No file was chosen and nothing was pasted. Do one or the other.' }]);
}

export const parseTitle = (data: unknown): string => parseForm<{ title: string }>(Joi.object({ title: line(120).required() }), data).title;

/** A document of the shop that can't be read, by its name. */
export const parseUnreadable = (data: unknown) =>
  parseForm<{ kind: ShopKind; id: string }>(Joi.object({ kind: Joi.string().valid('profile', 'ladder').required(), id: line(60).required() }), data);
