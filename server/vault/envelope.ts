import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';

/** Length of every key, bytes: AES-256. */
export const keyBytes = 32;
/** Of the nonce and of the tag of GCM, bytes (NIST SP 800-38D). */
const [nonceBytes, tagBytes] = [12, 16];

/** The envelope can't be opened: another key, another place, or a changed byte. */
export class NotOpened extends Error {}

export const newKey = (): Uint8Array => new Uint8Array(randomBytes(keyBytes));

/**
 * Seals bytes with AES-256-GCM: nonce, text, tag in one. Each key seals few texts, so a random nonce does.
 * @param place where the envelope belongs; it opens nowhere else
 */
export function sealBytes(key: Uint8Array, plain: Uint8Array, place: string): Uint8Array {
  const nonce = randomBytes(nonceBytes);
  const cipher = createCipheriv('aes-256-gcm', key, nonce, { authTagLength: tagBytes });
  cipher.setAAD(Buffer.from(place));
  return new Uint8Array(Buffer.concat([nonce, cipher.update(plain), cipher.final(), cipher.getAuthTag()]));
}

/** @throws NotOpened */
export function openBytes(key: Uint8Array, sealed: Uint8Array, place: string): Uint8Array {
  if (sealed.length < nonceBytes + tagBytes) throw new NotOpened();
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, nonceBytes), { authTagLength: tagBytes });
  decipher.setAAD(Buffer.from(place));
  decipher.setAuthTag(sealed.subarray(sealed.length - tagBytes));
  try {
    return new Uint8Array(Buffer.concat([decipher.update(sealed.subarray(nonceBytes, sealed.length - tagBytes)), decipher.final()]));
  } catch {
    throw new NotOpened();
  }
}
