// The pictures that the measurements are made on: 24 megapixels, real JPEGs with full Exif, made here.
import { createHash, randomFillSync } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { developShot } from '../demo/develop.mjs';
import { CARDS, cardShots } from '../demo/season.mjs';
import { wrapJpeg } from '../demo/tiff.mjs';
import { ROOT } from '../bootstrap.mjs';

const WIDTH = 6000;
const HEIGHT = 4000;
const plate = (name) => readFile(path.join(ROOT, 'tools/demo/plates', `${name}.jpg`));
const shots = () => cardShots(CARDS['press-night-a'], 1);

const stamped = (shot, i) => {
  const time = new Date(Date.parse('2026-11-01T09:00:00Z') + i * 700).toISOString();
  return { ...shot, local: time.slice(0, 19), millis: Number(time.slice(20, 23)), orientation: 1 };
};
const file = (card, i) => path.join(card, 'DCIM', '100OCKHM', `OCK_${String(i + 1).padStart(4, '0')}.JPG`);

/** Different pictures of 24 megapixels; `count` of them, from as many of the evening's frames. */
export async function pictures(card, count) {
  await mkdir(path.dirname(file(card, 0)), { recursive: true });
  const all = shots().filter((shot) => shot.orientation === 1 && !shot.defocus && !shot.shake);
  for (let i = 0; i < count; i++) {
    const shot = stamped(all[i % all.length], i);
    const { full, preview, thumb } = await developShot(await plate(shot.plate), shot, WIDTH, HEIGHT);
    await writeFile(file(card, i), wrapJpeg(full, preview, thumb, shot, WIDTH, HEIGHT));
  }
}

/**
 * A heavy card: `count` files of 12 to 30 MB, no two alike. Each is a whole picture; what follows its end is chance,
 * as it would be for a larger sensor's data, so that nothing on the way can pack it.
 */
export async function heavyCard(card, count) {
  await mkdir(path.dirname(file(card, 0)), { recursive: true });
  const [first] = shots();
  const { full, preview, thumb } = await developShot(await plate('leap-3'), first, WIDTH, HEIGHT);
  let bytes = 0;
  for (let i = 0; i < count; i++) {
    const jpeg = wrapJpeg(full, preview, thumb, stamped(first, i), WIDTH, HEIGHT);
    const size = Math.round(12e6 + (18e6 * ((i * 37) % count)) / Math.max(1, count - 1));
    const rest = Buffer.alloc(Math.max(0, size - jpeg.length));
    randomFillSync(rest);
    await writeFile(file(card, i), Buffer.concat([jpeg, rest]));
    bytes += Math.max(size, jpeg.length);
  }
  return bytes;
}

/** A card of many frames that differ in their facts, from a number on: the bodies of the pictures do not matter for listing. */
export async function manyPictures(card, count, from = 0) {
  await mkdir(path.dirname(file(card, 0)), { recursive: true });
  const [first] = shots();
  const [width, height] = [WIDTH / 2, HEIGHT / 2];
  const { full, preview, thumb } = await developShot(await plate('leap-3'), first, width, height);
  for (let i = from; i < from + count; i++)
    await writeFile(file(card, i), wrapJpeg(full, preview, thumb, stamped(first, i), width, height));
}

/** The colour by which picture `i` is known on the screen: steps that survive JPEG and a typeface's shadows. */
export function signalColour(i) {
  const level = (n) => 32 + 48 * n;
  return [level(i % 5), level(Math.floor(i / 5) % 5), level((i * 2 + 1) % 5)];
}

/** Pictures with a plain patch in their middle, each in a colour of its own. */
export async function signalPictures(card, count) {
  await mkdir(path.dirname(file(card, 0)), { recursive: true });
  const [first] = shots();
  const { data } = await developShot(await plate('duet-2'), first, WIDTH, HEIGHT);
  for (let i = 0; i < count; i++) {
    const [r, g, b] = signalColour(i);
    const patch = await sharp({ create: { width: 2400, height: 1600, channels: 3, background: { r, g, b } } })
      .png({ compressionLevel: 0 })
      .toBuffer();
    const jpeg = (side, quality) =>
      sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
        .composite([{ input: patch, left: 1800, top: 1200 }])
        .toBuffer({ resolveWithObject: true })
        .then(({ data: pixels, info }) =>
          sharp(pixels, { raw: { width: info.width, height: info.height, channels: info.channels } })
            .resize(side, side, { fit: 'inside' })
            .jpeg({ quality })
            .toBuffer(),
        );
    const shot = stamped(first, i);
    const [full, preview, thumb] = [await jpeg(WIDTH, 88), await jpeg(1620, 80), await jpeg(160, 70)];
    await writeFile(file(card, i), wrapJpeg(full, preview, thumb, shot, WIDTH, HEIGHT));
  }
}

export const sha256 = (bytes) => createHash('sha256').update(bytes).digest('hex');
