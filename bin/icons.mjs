// Part of the build: the app's icon as pictures of the sizes that devices ask for when it is installed.
import { mkdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';

const client = join(dirname(dirname(fileURLToPath(import.meta.url))), 'build/client');
const svg = readFileSync(join(client, 'favicon.svg'));
mkdirSync(join(client, 'icons'), { recursive: true });
const ground = { r: 0x14, g: 0x22, b: 0x1d, alpha: 1 };
for (const size of [192, 512]) {
  await sharp(svg, { density: 600 })
    .resize(size, size, { fit: 'contain', background: ground })
    .flatten({ background: ground })
    .png()
    .toFile(join(client, `icons/${size}.png`));
  // A device may cut a round or a square out of it: everything that counts stands within the middle four fifths.
  const inside = Math.round(size * 0.6);
  const margin = Math.floor((size - inside) / 2);
  await sharp(svg, { density: 600 })
    .resize(inside, inside, { fit: 'contain', background: ground })
    .flatten({ background: ground })
    .extend({ top: margin, left: margin, bottom: size - inside - margin, right: size - inside - margin, background: ground })
    .png()
    .toFile(join(client, `icons/${size}-cut.png`));
}
