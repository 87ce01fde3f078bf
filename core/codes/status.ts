/** Whether a code is there now, was there once, or isn't sure of itself yet. */
export type CodeStatus = 'present' | 'stored' | 'pending';

/** Words of scan reports; those that deny come first, since "not present" has "present" in it. */
const words: readonly [RegExp, CodeStatus][] = [
  [
    /\b(?:not (?:present|active|current)|inactive|no longer present|history|historic(?:al)?|past|stored|memory|saved|previous(?:ly)?|permanent|sporadic|intermittent)\b/i,
    'stored',
  ],
  [/\b(?:pending|maturing|not confirmed|unconfirmed)\b/i, 'pending'],
  [/\b(?:present|current(?:ly)?|active|confirmed|hard|static|failed now)\b/i, 'present'],
];

/** A status byte: `status 2F`, `status: 0x2F`, `[2F]`, `(0x2F)`. */
const byte = /\bstatus(?: byte)?\s*[:=]?\s*(?:0x)?([0-9A-F]{2})(?:h)?\b|[[(]\s*(?:0x)?([0-9A-F]{2})\s*[\])]|\b0x([0-9A-F]{2})\b/i;

/** The eight bits of the status byte (ISO 14229-1, D.2), the lowest first. */
export const statusBits = [
  'testFailed',
  'testFailedThisCycle',
  'pending',
  'confirmed',
  'notTestedSinceClear',
  'failedSinceClear',
  'notTestedThisCycle',
  'warningLight',
] as const;
export type StatusBit = (typeof statusBits)[number];

/** The bits that are set in a status byte, 0 to 255. @throws RangeError for anything else */
export function bitsOf(value: number): StatusBit[] {
  if (!Number.isInteger(value) || value < 0 || value > 255) throw new RangeError('a status byte is a whole number from 0 to 255');
  return statusBits.filter((_, bit) => (value >> bit) & 1);
}

/** The byte of some bits. */
export const byteOf = (bits: readonly StatusBit[]): number => bits.reduce((value, bit) => value | (1 << statusBits.indexOf(bit)), 0);

/** What a status byte says in one word: failed now is present, else confirmed is stored, else pending; undefined where none of the three is set. */
export function statusOf(value: number): CodeStatus | undefined {
  const bits = bitsOf(value);
  if (bits.includes('testFailed')) return 'present';
  if (bits.includes('confirmed')) return 'stored';
  return bits.includes('pending') ? 'pending' : undefined;
}

/** The status that some words of a report say, and the byte where one stands there; words count before the byte. */
export function statusIn(text: string): { status?: CodeStatus; statusByte?: string } | undefined {
  const said = words.find(([pattern]) => pattern.test(text))?.[1];
  const found = byte.exec(text);
  const hex = (found?.[1] ?? found?.[2] ?? found?.[3])?.toUpperCase();
  const status = said ?? (hex === undefined ? undefined : statusOf(parseInt(hex, 16)));
  if (status === undefined && hex === undefined) return undefined;
  return { ...(status === undefined ? {} : { status }), ...(hex === undefined ? {} : { statusByte: hex }) };
}
