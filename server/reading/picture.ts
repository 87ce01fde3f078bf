import sharp from 'sharp';
import { refused } from '../base/expected';

/** Largest file that is taken, bytes. */
export const maxPhotoBytes = 8 * 1024 * 1024;
/** Largest picture that is decoded: a small file can hold a huge one. */
const maxPixels = 64_000_000;
/** Longest side that is kept, pixels: marks on a key can be read, and a case stays small. */
const longestSide = 2400;

// Decoding takes memory: one picture at a time (files.ts), on one thread, and nothing of it is kept.
sharp.concurrency(1);
sharp.cache(false);

export interface Encoded {
  data: Uint8Array;
  type: 'image/jpeg' | 'image/png';
  width: number;
  height: number;
}

/**
 * Decodes a picture and encodes it anew, turned upright, without any of the file's metadata or other content.
 * @throws Refused 400 when it is no JPEG or PNG that can be read, 413 when it is too large
 */
export async function encodePhoto(file: Uint8Array): Promise<Encoded> {
  if (file.byteLength === 0) throw refused(400, 'noPhoto', 'No picture was chosen. Choose a JPEG or PNG.', 'file');
  if (file.byteLength > maxPhotoBytes)
    throw refused(413, 'photoTooLarge', `The picture has ${(file.byteLength / 1048576).toFixed(1)} MB; 8 MB at most. Make it smaller.`, 'file');
  const isJpeg = file[0] === 0xff && file[1] === 0xd8;
  const isPng = file[0] === 0x89 && file[1] === 0x50 && file[2] === 0x4e && file[3] === 0x47;
  const unreadable = () => refused(400, 'noPicture', 'This is not a readable JPEG or PNG. Choose a photo.', 'file');
  if (!isJpeg && !isPng) throw unreadable();
  try {
    const picture = sharp(file, { limitInputPixels: maxPixels, failOn: 'error' });
    const upright = picture.rotate().resize(longestSide, longestSide, { fit: 'inside', withoutEnlargement: true });
    const { data, info } = await (isPng ? upright.png() : upright.jpeg({ quality: 84, mozjpeg: true })).toBuffer({ resolveWithObject: true });
    return { data, type: isPng ? 'image/png' : 'image/jpeg', width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof Error && /pixel limit/.test(error.message))
      throw refused(413, 'photoTooLarge', `The picture has more than ${maxPixels / 1e6} million pixels. Make it smaller.`, 'file');
    if (error instanceof Error && error.constructor === Error) throw unreadable();
    throw error;
  }
}
