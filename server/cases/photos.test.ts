import sharp from 'sharp';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { attachPhoto, findPhoto } from './photos';
import { encodePhoto, maxPhotoBytes } from '../reading/picture';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const picture = (width: number, height: number) => sharp({ create: { width, height, channels: 3, background: '#2a7454' } });
const jpeg = (width = 40, height = 30) => picture(width, height).jpeg().toBuffer();

/** The header of a PNG that claims a size, with next to nothing behind it. */
async function hugePng(width: number, height: number): Promise<Uint8Array> {
  const png = Buffer.from(await picture(1, 1).png().toBuffer());
  png.writeUInt32BE(width, 16);
  png.writeUInt32BE(height, 20);
  // The checksum of the header block, so that only its size is wrong with it.
  const { crc32 } = (await import('node:zlib')) as unknown as { crc32?: (data: Buffer) => number };
  const sum = crc32 ? crc32(png.subarray(12, 29)) : plainCrc32(png.subarray(12, 29));
  png.writeUInt32BE(sum >>> 0, 29);
  return png;
}
/** CRC-32 as in the PNG specification (ISO 3309). */
function plainCrc32(data: Uint8Array): number {
  let crc = ~0;
  for (const byte of data) {
    crc ^= byte;
    for (let k = 0; k < 8; k += 1) crc = crc & 1 ? (crc >>> 1) ^ 0xedb88320 : crc >>> 1;
  }
  return ~crc >>> 0;
}

describe('a photo', () => {
  test('is encoded anew without metadata, upright, and no longer than 2400 pixels', async () => {
    const file = await picture(3000, 1500)
      .withExif({ IFD0: { Copyright: 'somebody’s name', Make: 'camera' }, IFD3: { GPSLatitudeRef: 'N' } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    expect((await sharp(file).metadata()).exif).toBeDefined();
    const encoded = await encodePhoto(file);
    expect([encoded.type, encoded.width, encoded.height]).toEqual(['image/jpeg', 1200, 2400]);
    const { exif, xmp, iptc, icc, orientation } = await sharp(encoded.data).metadata();
    expect([exif, xmp, iptc, icc, orientation]).toEqual([undefined, undefined, undefined, undefined, undefined]);
    expect(Buffer.from(encoded.data).includes('somebody')).toBe(false);
  });
  test('nothing that hangs behind the picture is kept', async () => {
    const encoded = await encodePhoto(Buffer.concat([await jpeg(), Buffer.from('<script>alert(1)</script>')]));
    expect(Buffer.from(encoded.data).includes('script')).toBe(false);
  });
  test('a PNG stays a PNG', async () => expect((await encodePhoto(await picture(9, 9).png().toBuffer())).type).toBe('image/png'));

  test.each<[string, () => Promise<Uint8Array>, number, string]>([
    ['nothing', async () => new Uint8Array(), 400, 'No picture was chosen. Choose a JPEG or PNG.'],
    ['a text', async () => Buffer.from('not a picture'), 400, 'This is not a readable JPEG or PNG. Choose a photo.'],
    [
      'a page that says it is a picture',
      async () => Buffer.concat([Buffer.from([0xff, 0xd8]), Buffer.from('<html>')]),
      400,
      'This is not a readable JPEG or PNG. Choose a photo.',
    ],
    ['half a picture', async () => (await jpeg(400, 300)).subarray(0, 300), 400, 'This is not a readable JPEG or PNG. Choose a photo.'],
    [
      'a drawing with scripts',
      async () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>'),
      400,
      'This is not a readable JPEG or PNG. Choose a photo.',
    ],
    ['a picture of 30,000 × 30,000 pixels', () => hugePng(30_000, 30_000), 413, 'The picture has more than 64 million pixels. Make it smaller.'],
    [
      'more than 8 MB',
      async () => Buffer.concat([await jpeg(), Buffer.alloc(maxPhotoBytes)]),
      413,
      'The picture has 8.0 MB; 8 MB at most. Make it smaller.',
    ],
  ])('%s is refused', async (_what, file, status, message) => expect(await refusal(encodePhoto(await file()))).toMatchObject({ status, message }));

  test('belongs to its case and key, and to no other', async () => {
    const [id, other] = [await harness.openCase(), await harness.openCase()];
    await attachPhoto(harness.with, harness.act(technician), id, await jpeg(), { caption: 'stamped ring', key: 'A' });
    const [line] = (await loadCase(harness.db, id))!.photos;
    expect(line).toMatchObject({ keyTag: 'A', caption: 'stamped ring', width: 40, height: 30, by: technician.name });
    expect((await findPhoto(harness.db, id, line!.id))!.type).toBe('image/jpeg');
    expect(await findPhoto(harness.db, other, line!.id)).toBeUndefined();
    expect(await findPhoto(harness.db, id, '../../etc/passwd')).toBeUndefined();
    expect(await refusal(attachPhoto(harness.with, harness.act(lead), id, await jpeg(), { caption: '', key: 'Q' }))).toMatchObject({
      status: 400,
      code: 'unknownKey',
    });
  });
});
