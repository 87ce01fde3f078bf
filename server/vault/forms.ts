import { type Alphabet, alphabetWords } from '../../core/copycheck';
import { refused } from '../base/expected';
import { choice, line, needed, optionalLine, orElse, orEmpty, pattern, text } from '../base/field';
import { parseForm } from '../base/parseForm';
import { sealedKinds } from '../db/schema';
import type { Sealing } from './items';

/** A written reason; a word alone says nothing. */
const reason = needed(line(300).min(6));
const item = needed(pattern(/^[0-9a-f-]{36}$/, 'an item of this case'));

export const parseSealing = (data: unknown): Sealing =>
  parseForm(
    {
      name: needed(line(80).min(1)),
      kind: needed(choice(...sealedKinds)),
      reason,
      text: orEmpty(text(2000)),
      again: orEmpty(text(2000)),
      alphabet: orElse(choice(...(Object.keys(alphabetWords) as Alphabet[])), 'hex'),
      fileName: optionalLine(160),
    },
    data,
  );

export const parseOpening = (data: unknown) => parseForm({ reason }, data);
export const parseItemAndReason = (data: unknown) => parseForm({ item, reason }, data);
/** @throws Refused, never with what was typed */
export const parseTyped = (data: unknown) => parseForm({ item, text: needed(text(2000).min(1)) }, data);
export const parseGrant = (data: unknown) => parseForm({ release: item }, data);

/** What becomes of an item; a day is kept to its end, in the time zone of this machine. */
export function parseDisposition(data: unknown): { item: string; disposition: 'kept' | 'given'; keepUntil: number | null } {
  const form = parseForm(
    { item, disposition: needed(choice('kept', 'given')), keepUntil: orEmpty(pattern(/^(\d{4}-\d{2}-\d{2})?$/, 'a day such as 2027-03-31')) },
    data,
  );
  if (form.keepUntil === '') return { ...form, keepUntil: null };
  const end = new Date(`${form.keepUntil}T23:59:59.999`);
  if (Number.isNaN(end.getTime())) throw refused(400, 'day', 'This day does not exist. Choose a day.', 'keepUntil');
  return { ...form, keepUntil: end.getTime() };
}

export const parseTwo = (data: unknown) => parseForm({ two: needed(choice('on', 'off')) }, data);
