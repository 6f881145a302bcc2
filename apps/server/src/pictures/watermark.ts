// What lies over finished pictures; runs where they are made.
import type { Watermark } from '@arkiv/core';
import sharp from 'sharp';

const WATERMARK_FONT = require.resolve('dejavu-fonts-ttf/ttf/DejaVuSans-Bold.ttf');
/** Shares of the picture's shorter side: what stays free beside a mark at an edge; and of its height: how far what lies around it goes. */
const [EDGE, AROUND] = [0.03, 0.12];
/** The mean of a mark from which it is light: half of what is between black and white to the eye. */
const LIGHT = 128;

/** A mark as large as it will be: its colours, and how much of each pixel it covers. */
interface Mark {
  /** red, green, blue and cover, row by row */
  data: Buffer;
  width: number;
  height: number;
  /** on it, dark is seen around it, and light around a dark one */
  isLight: boolean;
}

/** Words in white, or a picture, above what sets them off, so that they are read on light and on dark. */
export async function watermarkOver(
  watermark: Watermark,
  picture: string | null,
  { width, height }: { width: number; height: number },
): Promise<sharp.OverlayOptions[]> {
  const { place, size: share, strength } = watermark;
  const wide = Math.min(width, Math.max(16, Math.round((width * share) / 100)));
  const high = Math.max(8, Math.round(height / 3));
  const mark =
    picture === null ? await wordsOf(watermark.text, wide, high) : await pictureOf(picture, wide, high);
  // Room for what lies around it, as far as there is any.
  const margin = Math.max(
    0,
    Math.min(Math.ceil(mark.height * AROUND * 3), (width - mark.width) >> 1, (height - mark.height) >> 1),
  );
  const [w, h] = [mark.width + 2 * margin, mark.height + 2 * margin];
  const raw = { width: mark.width, height: mark.height, channels: 4 as const };
  const clear = { r: 0, g: 0, b: 0, alpha: 0 };
  const whole = await sharp(mark.data, { raw })
    .extend({ top: margin, bottom: margin, left: margin, right: margin, background: clear })
    .raw()
    .toBuffer();
  const cover = await sharp(whole, { raw: { width: w, height: h, channels: 4 } })
    .extractChannel(3)
    .blur(Math.max(0.5, mark.height * AROUND))
    .toColourspace('b-w')
    .raw()
    .toBuffer();
  const layer = (pixels: Buffer): Promise<Buffer> =>
    sharp(pixels, { raw: { width: w, height: h, channels: 4 } })
      .png()
      .toBuffer();
  // It is spread out: at twice its strength it is about as dark as the words are light.
  const around = Buffer.alloc(w * h * 4, mark.isLight ? 0 : 255);
  const over = Buffer.from(whole);
  for (let i = 0; i < w * h; i++) {
    around[i * 4 + 3] = Math.min(255, Math.round((cover[i]! * 2 * strength) / 100));
    over[i * 4 + 3] = Math.round((whole[i * 4 + 3]! * strength) / 100);
  }
  const edge = Math.round(Math.min(width, height) * EDGE);
  const left = place.includes('left')
    ? edge - margin
    : place.includes('right')
      ? width - w - edge + margin
      : (width - w) / 2;
  const top = place.includes('top')
    ? edge - margin
    : place.includes('bottom')
      ? height - h - edge + margin
      : (height - h) / 2;
  const at = {
    left: Math.round(Math.max(0, Math.min(width - w, left))),
    top: Math.round(Math.max(0, Math.min(height - h, top))),
  };
  return [
    { input: await layer(around), ...at },
    { input: await layer(over), ...at },
  ];
}

async function wordsOf(text: string, width: number, height: number): Promise<Mark> {
  const escaped = text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
  const { data, info } = await sharp({
    text: { text: escaped, font: 'DejaVu Sans Bold', fontfile: WATERMARK_FONT, wrap: 'none', width, height },
  })
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  const pixels = Buffer.alloc(info.width * info.height * 4, 255);
  for (let i = 0; i < data.length; i++) pixels[i * 4 + 3] = data[i]!;
  return { data: pixels, width: info.width, height: info.height, isLight: true };
}

async function pictureOf(file: string, width: number, height: number): Promise<Mark> {
  const { data, info } = await sharp(file, { limitInputPixels: MOST_PIXELS })
    .resize(width, height, { fit: 'inside' })
    .toColourspace('srgb')
    .ensureAlpha()
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  let [sum, covered] = [0, 0];
  for (let i = 0; i < data.length; i += 4) {
    const cover = data[i + 3]!;
    sum += cover * (0.299 * data[i]! + 0.587 * data[i + 1]! + 0.114 * data[i + 2]!);
    covered += cover;
  }
  return { data, width: info.width, height: info.height, isLight: covered === 0 || sum / covered >= LIGHT };
}

/** Of a mark's picture: more than a screen of the largest has, and less than what fills the memory. */
const MOST_PIXELS = 40e6;
