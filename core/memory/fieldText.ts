import { failed, ok, type Result } from '../units';
import { bytesOfNumber, numberOfBytes } from './checksum';
import { hex } from './image';
import type { Layout, LayoutField } from './layout';
import { hexBytes } from './lines';
import { sentences } from './sentences';

/** Most bytes of a value that is a number: it must be exact. */
export const mostNumberBytes = 6;
/** What stands for a secret, however long it is. */
export const masked = '••••';

export const hexText = (bytes: Uint8Array): string => Array.from(bytes, (b) => hex(b, 2)).join('');

/** A field's bytes as a person reads them: the name of the value, a number, or hexadecimal digits. A secret is masked. */
export function fieldText(field: LayoutField, bytes: Uint8Array, order: Layout['order']): string {
  if (field.kind === 'secret') return masked;
  if (field.values) return nameOf(field, numberOfBytes(bytes, order)) ?? hexText(bytes);
  return field.kind === 'counter' ? String(numberOfBytes(bytes, order)) : hexText(bytes);
}

export function nameOf({ values = {} }: LayoutField, value: number): string | undefined {
  return Object.entries(values).find(([, v]) => v === value)?.[0];
}

/** What a person wrote, as the field's bytes: the other way around of `fieldText`. Blanks between digits are no part of them. */
export function fieldBytes(field: LayoutField, written: string, order: Layout['order']): Result<Uint8Array> {
  const refuse = (expected: string) => failed({ code: 'field', path: field.id, message: sentences.fieldForm(field.title, expected) });
  const text = written.trim();
  if (field.values) {
    const value = Object.hasOwn(field.values, text) ? field.values[text] : undefined;
    return value === undefined ? refuse(Object.keys(field.values).join(', ')) : ok(bytesOfNumber(value, field.bytes, order));
  }
  if (field.kind === 'counter') {
    const value = /^\d{1,15}$/.test(text) ? Number(text) : Infinity;
    return value < 2 ** (8 * field.bytes) ? ok(bytesOfNumber(value, field.bytes, order)) : refuse(sentences.upTo(2 ** (8 * field.bytes) - 1));
  }
  const digits = text.replace(/\s+/g, '');
  const bytes = hexBytes(
    Uint8Array.from(digits, (c) => Math.min(255, c.charCodeAt(0))),
    0,
    digits.length,
  );
  return typeof bytes === 'number' || bytes.length !== field.bytes ? refuse(sentences.hexDigits(2 * field.bytes)) : ok(bytes);
}
