import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/**
 * Eight characters that two people can compare in place of the value itself: the first 32 bits of SHA-256 over its characters, in two groups of four. Whoever
 * knows the length of a short value can find it from them by trying, so they are shown to those who see the value and never kept.
 * @param text an entry as `readEntry` gives it
 * @example shortDigest("3FA8") // two groups such as "6B1D 09E2"
 */
export function shortDigest(text: string): string {
  const hex = bytesToHex(sha256(utf8ToBytes(text))).toUpperCase();
  return `${hex.slice(0, 4)} ${hex.slice(4, 8)}`;
}
