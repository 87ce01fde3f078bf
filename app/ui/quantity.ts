import { type Quantity, quantityWords, readQuantity } from '../../core/units';

/** What is said under a field while a number is typed. */
export interface Understood {
  /** What is typed, as it is understood, where that isn't plain from what stands there. */
  say?: string;
  /** It can be meant in two ways. */
  problem?: string;
  value?: number;
}

/** Reads what stands in a field as the server will; nothing is said of a plain number, nor of one that is still being typed. */
export function understand(text: string, to: Quantity): Understood {
  if (text.trim() === '') return {};
  const read = readQuantity(text, to);
  if (!read.ok) return read.problems[0]!.code === 'ambiguous' ? { problem: read.problems[0]!.message } : {};
  const plain = /^\d{1,3}(\.\d{1,2})?$/.test(text.trim()) && !(to.unit === 's' && read.value >= 60);
  return { value: read.value, ...(plain ? {} : { say: quantityWords(read.value, to.unit) }) };
}
