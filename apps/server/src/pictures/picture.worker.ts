// Runs in a process of its own, which may die on a bad picture without taking the server along.
import {
  finishedSize,
  finishOf,
  meansOptionalColour,
  outputSize,
  withMeantProfile,
  type OutputFormat,
  type OutputSpace,
  type Sharpening,
  type SizeRule,
  type Watermark,
} from '@arkiv/core';
import sharp from 'sharp';
import { NodeDisk } from '../disk/nodeDisk';
import { answer } from '../system/inTime';
import { finishedPixels } from './finishing';
import { asTiff, decodeHeic, isHeic } from './heic';
import { candidates, clock, compare, same } from './keptLooks';
import { featuresOf, looksOf, originalsOf, type LookedPicture, type SeenPicture } from './seenPicture';
import { watermarkOver } from './watermark';
import { developRaw, sizeOfRaw } from './rawPicture';

// The server may be killed at any moment: then there is nobody left to report to.
process.on('error', () => process.exit());
process.on('disconnect', () => process.exit());

sharp.cache(false);
// One thread a process and one process a core was fastest on the machines measured.
sharp.concurrency(1);
// A file's name says nothing of what is in it: only pictures are opened, never drawings, documents or scripts.
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
  operation: ['Jpeg', 'Png', 'Webp', 'Tiff', 'Heif', 'Nsgif'].map((format) => `VipsForeignLoad${format}`),
});

/** Pixels: twice the largest sensors in use (about 150 million), so that a bomb is turned away at once. */
const PIXEL_LIMIT = 300e6;
const disk = new NodeDisk();
/** Bytes: a HEIC of 200 megapixels is some 40 MB. */
const MAX_HEIC = 200 * 1024 * 1024;

/** Strict at first; where that fails, as much as decodes. */
type Care = 'error' | 'none';

/** A picture itself, or one that a camera put into a file. */
export interface MadePicture {
  /** a path on this machine, or the bytes of an embedded picture */
  input: string | Uint8Array;
  /** Exif orientation to put on an embedded picture that lacks its own; null: as the picture says */
  orientation: number | null;
}

/** A raw file whose samples are to be developed, as it holds no picture of a useful size. */
export interface RawSource {
  /** its path on this machine */
  raw: string;
  /** of its frame, 1…8 */
  orientation: number;
  /** the small picture that stands in where it cannot be developed; null: there is none */
  instead: Uint8Array | null;
}

export type PictureSource = MadePicture | RawSource;

export interface MadePreviews {
  thumb: Uint8Array;
  screen: Uint8Array;
  /** pixels, upright */
  width: number;
  height: number;
  /** only a part of the file could be decoded */
  incomplete: boolean;
  /** made from the sensor's samples */
  developed: boolean;
}

/** One of the files that are made of a picture. */
export interface RenderOrder {
  size: SizeRule;
  format: Exclude<OutputFormat, 'asis'>;
  quality: number;
  /** bytes at most; null: any */
  mostBytes: number | null;
  space: OutputSpace;
  sharpen: Sharpening;
  watermark: Watermark | null;
  /** path of the watermark's picture on this machine; null: it is words */
  mark: string | null;
  /** Exif IFD0 texts and a packet, for formats whose metadata are written while they are coded */
  exif: Record<string, string>;
  xmp: string | null;
}

export interface Rendered {
  bytes: Uint8Array;
  width: number;
  height: number;
  /** false: no quality makes it small enough */
  fits: boolean;
}

/** Bytes: the samples of 150 megapixels, 16 bits each, with a picture beside them. */
const MAX_RAW = 400 * 1024 * 1024;

/** `side`: pixels of the longer side that are wanted; Infinity: all. */
async function open(
  source: PictureSource,
  side: number,
  care: Care = 'error',
): Promise<{ image: sharp.Sharp; developed: boolean }> {
  if (!('raw' in source)) return { image: await openMade(source, care), developed: false };
  const { raw, orientation, instead } = source;
  try {
    const bytes = await disk.readAll(raw, MAX_RAW);
    const { data, width, height } = await developRaw(bytes, { side, pixelLimit: PIXEL_LIMIT });
    const pixels = { raw: { width, height, channels: 3 as const }, limitInputPixels: PIXEL_LIMIT };
    // Turned by itself: what follows may count on upright pixels.
    const image = sharp(await upright(sharp(data, pixels), orientation).raw().toBuffer(), {
      ...pixels,
      raw: { ...pixels.raw, ...(orientation >= 5 ? { width: height, height: width } : {}) },
    });
    return { image, developed: true };
  } catch (error) {
    if (instead === null) throw error;
    return { image: await openMade({ input: instead, orientation }, care), developed: false };
  }
}

async function openMade(source: MadePicture, care: Care = 'error'): Promise<sharp.Sharp> {
  const input = typeof source.input === 'string' ? source.input : Buffer.from(source.input);
  const options = { limitInputPixels: PIXEL_LIMIT, failOn: care } as const;
  // The container's own turns are applied by then.
  if (isHeic(await headOf(input))) {
    const bytes = typeof input === 'string' ? await disk.readAll(input, MAX_HEIC) : input;
    return sharp(asTiff(await decodeHeic(bytes, PIXEL_LIMIT)), options);
  }
  const image = sharp(await asMeant(input), options);
  const own = (await image.metadata()).orientation;
  return own || source.orientation === null ? image.autoOrient() : upright(image, source.orientation);
}

/** The colours of a JPEG stand in its first segments, before the picture; with thumbnails and notes up to some 200 kB. */
const COLOUR_BYTES = 256 * 1024;
/** Bytes: a JPEG of 150 megapixels at the highest quality is some 120 MB. */
const MAX_JPEG = 256 * 1024 * 1024;

/** A JPEG together with the profile that its camera means and did not put in: the decoder converts by it. */
async function asMeant(input: string | Buffer): Promise<string | Uint8Array> {
  if (typeof input !== 'string') return withMeantProfile(input) ?? input;
  if (!meansOptionalColour(await disk.readPart(input, 0, COLOUR_BYTES))) return input;
  const bytes = await disk.readAll(input, MAX_JPEG);
  return withMeantProfile(bytes) ?? bytes;
}

/** The brands of a container stand in its first bytes; sixteen of them are more than any file names. */
const HEAD_BYTES = 16 + 16 * 4;

async function headOf(input: string | Buffer): Promise<Buffer> {
  return typeof input === 'string' ? disk.readPart(input, 0, HEAD_BYTES) : input.subarray(0, HEAD_BYTES);
}

/** What Exif's orientations 1…8 ask for (CIPA DC-008, 4.6.4). */
function upright(image: sharp.Sharp, orientation: number): sharp.Sharp {
  const turn = ({ 3: 180, 4: 180, 5: 90, 6: 90, 7: 270, 8: 270 } as Record<number, number>)[orientation] ?? 0;
  const turned = turn ? image.rotate(turn) : image;
  return [2, 4, 5, 7].includes(orientation) ? turned.flop() : turned;
}

/** Pixels of a picture that fit a size, in sRGB; of a file that breaks off, what there is. */
async function decoded(source: PictureSource, side: number) {
  const pixels = async (care: Care) => {
    const { image, developed } = await open(source, side, care);
    const made = await image
      .resize(side, side, { fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .flatten({ background: '#000' })
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    return { ...made, developed };
  };
  try {
    return { ...(await pixels('error')), incomplete: false };
  } catch (error) {
    const partly = await pixels('none').catch(() => null);
    if (partly === null) throw error;
    return { ...partly, incomplete: true };
  }
}

/** Thumbnail and screen preview from one decode. */
async function previews(source: PictureSource, thumbSide: number, screenSide: number): Promise<MadePreviews> {
  const { data, info, incomplete, developed } = await decoded(source, screenSide);
  const raw = { width: info.width, height: info.height, channels: info.channels };
  const [screen, thumb] = await Promise.all([
    sharp(data, { raw }).jpeg({ quality: 80 }).toBuffer(),
    sharp(data, { raw }).resize(thumbSide, thumbSide, { fit: 'inside' }).webp({ quality: 78 }).toBuffer(),
  ]);
  return { thumb, screen, width: info.width, height: info.height, incomplete, developed };
}

/** A JPEG that fits a size, to be looked at once. */
async function fitted(source: PictureSource, side: number): Promise<Uint8Array> {
  const { data, info } = await decoded(source, side);
  const raw = { width: info.width, height: info.height, channels: info.channels };
  return sharp(data, { raw }).jpeg({ quality: 80 }).toBuffer();
}

/** A picture in all its pixels as a JPEG, turned upright where its file says so and it does not. */
async function whole(source: PictureSource): Promise<Uint8Array> {
  const { image } = await open(source, Infinity);
  return image.jpeg({ quality: 85 }).toBuffer();
}

/** A picture with values that fits a size, as a JPEG, or small as WebP. */
async function finished(
  source: PictureSource,
  values: string,
  side: number,
  small: boolean,
): Promise<Uint8Array> {
  const finish = finishOf(values);
  const natural = await measure(source);
  const size = finishedSize(finish, natural);
  const by = Math.min(1, side / Math.max(size.width, size.height));
  const fit = (length: number) => Math.max(1, Math.round(length * by));
  const wanted = { width: fit(size.width), height: fit(size.height) };
  const { image } = await open(source, Math.max(natural.width, natural.height) * by, 'none');
  const { data, width, height } = await finishedPixels(image, natural, finish, wanted);
  const made = sharp(data, { raw: { width, height, channels: 3 }, limitInputPixels: PIXEL_LIMIT });
  return (small ? made.webp({ quality: 78 }) : made.jpeg({ quality: FINISHED_QUALITY })).toBuffer();
}

/** What is finished was coded before: finer than that, nothing of it is lost to the eye. */
const FINISHED_QUALITY = 88;

/**
 * Finished files for delivery: fitted, sharpened for their size, in their colours, with the metadata that was asked for; of the picture
 * with `values`, where it is finished.
 */
async function render(
  source: PictureSource,
  orders: readonly RenderOrder[],
  values: string,
): Promise<Rendered[]> {
  const natural = await measure(source);
  const finish = finishOf(values);
  const left = finishedSize(finish, natural);
  const sizes = orders.map((order) => outputSize(left.width, left.height, order.size));
  const [width, height] = [
    Math.max(...sizes.map((its) => its.width)),
    Math.max(...sizes.map((its) => its.height)),
  ];
  if (values !== '') {
    const by = Math.max(width, height) / Math.max(left.width, left.height);
    const { image } = await open(source, Math.max(natural.width, natural.height) * by);
    const pixels = await finishedPixels(image, natural, finish, { width, height });
    const raw = { width: pixels.width, height: pixels.height, channels: 3 as const };
    const base = () => sharp(pixels.data, { raw, limitInputPixels: PIXEL_LIMIT });
    const made: Rendered[] = [];
    for (const [i, order] of orders.entries()) made.push(await rendered(base, sizes[i]!, order));
    return made;
  }
  const { image } = await open(source, Math.max(width, height));
  const largest = image.resize(width, height, { fit: 'inside', withoutEnlargement: true });
  // Decoded once, into the widest colours that any of them asks for. Through plain pixels: nothing of the original's metadata can
  // come along, its embedded thumbnail least of all.
  const wide = orders.some(({ space }) => space === 'p3');
  const base = wide ? await inWideColours(largest) : await inPlainColours(largest);
  const made: Rendered[] = [];
  for (const [i, order] of orders.entries()) made.push(await rendered(base, sizes[i]!, order));
  return made;
}

/** Makes the picture of one reading again, as often as it is needed. */
type Base = () => sharp.Sharp;

async function inPlainColours(image: sharp.Sharp): Promise<Base> {
  const { data, info } = await image
    .toColourspace('srgb')
    .flatten({ background: '#fff' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raw = { width: info.width, height: info.height, channels: info.channels };
  return () => sharp(data, { raw });
}

async function inWideColours(image: sharp.Sharp): Promise<Base> {
  const data = await image
    .flatten({ background: '#fff' })
    .withIccProfile('p3')
    .tiff({ compression: 'none' })
    .toBuffer();
  return () => sharp(data);
}

/** Radius and strength: for screens the usual; on paper ink spreads, by about a pixel at 200 to 300 to the inch. */
const SHARPENED: Readonly<Record<Exclude<Sharpening, 'none'>, sharp.SharpenOptions | undefined>> = {
  screen: undefined,
  paper: { sigma: 1.2, m1: 1, m2: 3 },
};

async function rendered(
  base: Base,
  size: { width: number; height: number },
  order: RenderOrder,
): Promise<Rendered> {
  let image = base().resize(size.width, size.height, { fit: 'inside', withoutEnlargement: true });
  if (order.sharpen !== 'none') image = image.sharpen(SHARPENED[order.sharpen]);
  if (order.watermark) image = image.composite(await watermarkOver(order.watermark, order.mark, size));
  if (order.space === 'grey') image = image.greyscale().toColourspace('b-w');
  else image = image.withIccProfile(order.space);
  if (Object.keys(order.exif).length > 0) image = image.withExif({ IFD0: order.exif });
  if (order.xmp) image = image.withXmp(order.xmp);
  // What comes before coding is done once, however often it is coded.
  const coded = (quality: number): Promise<Buffer> =>
    encoded(image.clone(), order.format, quality).toBuffer();
  const { mostBytes } = order;
  let bytes = await coded(order.quality);
  if (mostBytes === null || bytes.length <= mostBytes) return { bytes, ...size, fits: true };
  // The best quality that fits, by halves: seven tries at most.
  let [low, high] = [LEAST_QUALITY, order.quality - 1];
  let best: Buffer | null = null;
  while (low <= high) {
    const quality = (low + high) >> 1;
    bytes = await coded(quality);
    if (bytes.length <= mostBytes) [best, low] = [bytes, quality + 1];
    else high = quality - 1;
  }
  return { bytes: best ?? bytes, ...size, fits: best !== null };
}

/** Below, blocks of eight pixels are what one sees first. */
const LEAST_QUALITY = 20;
/** From here on colours are as fine as tones: what is printed large is looked at closely. */
const FINE_QUALITY = 90;

function encoded(image: sharp.Sharp, format: RenderOrder['format'], quality: number): sharp.Sharp {
  switch (format) {
    case 'jpeg':
      return image.jpeg({
        quality,
        mozjpeg: false,
        chromaSubsampling: quality >= FINE_QUALITY ? '4:4:4' : '4:2:0',
      });
    case 'png':
      return image.png();
    case 'webp':
      return image.webp({ quality });
    case 'avif':
      return image.avif({ quality });
    case 'tiff':
      return image.tiff({ compression: 'lzw' });
  }
}

/** Upright size in pixels. */
async function measure(source: PictureSource): Promise<{ width: number; height: number }> {
  if ('raw' in source) {
    const { raw, orientation, instead } = source;
    try {
      const size = await sizeOfRaw(await disk.readAll(raw, MAX_RAW));
      return orientation >= 5 ? { width: size.height, height: size.width } : size;
    } catch (error) {
      if (instead === null) throw error;
      return measure({ input: instead, orientation });
    }
  }
  const { autoOrient, width, height, orientation } = await (await openMade(source)).metadata();
  if (orientation || source.orientation === null || source.orientation < 5)
    return { width: autoOrient.width, height: autoOrient.height };
  return { width: height, height: width };
}

answer({
  previews,
  whole,
  fitted,
  finished,
  render,
  measure,
  features: async (source: MadePicture) => featuresOf(await openMade(source)),
  looks: async (source: MadePicture, within: boolean) => looksOf(await openMade(source), within),
  compare,
  same,
  candidates,
  detailed: (of: SeenPicture, among: readonly LookedPicture[]) =>
    originalsOf(of, among, (preview) => openMade({ input: preview, orientation: 1 })),
  clock,
});
