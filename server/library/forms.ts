import { maxReason } from '../../core/procedure';
import { Refused } from '../base/expected';
import { choice, flag, line, needed, optionalLine, orElse, record, shape, verbatim, whole } from '../base/field';
import { contentName } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { shopKinds } from './shopDocuments';

/** `from` is `family:ID` or `profile:ID`: what it is copied from. */
export const parseNewProfile = (data: unknown) => parseForm({ title: needed(line(120)), from: needed(verbatim(80)) }, data);
export type NewProfile = ReturnType<typeof parseNewProfile>;

/** A profile as it is typed; numbers are read by the family's parameters (profiles.ts). */
export const parseProfileForm = (data: unknown) =>
  parseForm(
    {
      /** The version that was edited. */
      from: needed(whole(1, Number.MAX_SAFE_INTEGER)),
      title: needed(line(120)),
      source: needed(line(600)),
      /** As typed; an empty value stays typical. */
      values: orElse(record(contentName, shape({ value: optionalLine(60), source: optionalLine(maxReason) })).max(60), {}),
      /** What is seen on the vehicle, by question; empty: not known. */
      seen: orElse(record(contentName, optionalLine(60)).max(60), {}),
      /** The value chart of its resistor keys; empty: not known. */
      ladder: optionalLine(60),
      /** The person has checked every number against its source. */
      check: flag(),
    },
    data,
  );
export type ProfileForm = ReturnType<typeof parseProfileForm>;

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

export const parseTitle = (data: unknown): string => parseForm({ title: needed(line(120)) }, data).title;

/** A document of the shop that can't be read, by its name. */
export const parseUnreadable = (data: unknown) => parseForm({ kind: needed(choice(...shopKinds)), id: needed(line(60)) }, data);
