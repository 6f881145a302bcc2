// What a picture is measured and compared by, out of its pixels: in the pictures' process.
import {
  blocksOf,
  byDetail,
  DETAILED_SIDE,
  greyOf,
  LOOK_SIDE,
  lookOf,
  MEASURED_SIDE,
  measuresOf,
  packLook,
  packMeasures,
  resized,
  unpackLook,
  type Detailed,
  type Grey,
  type Original,
  type Rgb,
} from '@arkiv/core';
import sharp, { type Sharp } from 'sharp';

/** Pixels of the longer side that a shot of a screen is taken apart at: a fifth of it still has as many as a picture is compared by. */
const BLOCKS_SIDE = 2400;

/** What is measured of a preview, as it is kept. */
export interface MadeFeatures {
  measures: Uint8Array;
  look: Uint8Array;
}

/** What a picture is compared by, of a file from elsewhere. */
export interface SeenPicture {
  /** as `packLook` gives it */
  look: Uint8Array;
  detail: Grey;
}

/** A picture that was looked at. */
export interface LookedPicture {
  look: Uint8Array;
  /** its preview's bytes */
  preview: Uint8Array;
}

/** What is measured of a preview and what it is compared by, from one decode of it. */
export async function featuresOf(picture: Sharp): Promise<MadeFeatures> {
  const { data, info } = await picture
    // Between two pixels in a straight line: at half the size as good, and quicker than the usual.
    .resize(MEASURED_SIDE, MEASURED_SIDE, { fit: 'inside', kernel: 'linear', withoutEnlargement: true })
    .toColourspace('srgb')
    // A preview has no alpha, and to lay it over nothing takes a third of the time.
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const small = await lookSize(sharp(data, { raw: { width, height, channels: 3 } }));
  return {
    measures: packMeasures(measuresOf(greyOf({ width, height, data }), small)),
    look: packLook(lookOf(small)),
  };
}

/** Pixels as looks are made of them. */
async function lookSize(picture: Sharp): Promise<Rgb> {
  const { data, info } = await picture
    .resize(LOOK_SIDE, LOOK_SIDE, { fit: 'inside' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** What a picture is compared by; with `within` also what could be a picture within it, as a shot of a screen shows one. The whole comes first. */
export async function looksOf(picture: Sharp, within: boolean): Promise<SeenPicture[]> {
  const { data, info } = await picture
    .resize(BLOCKS_SIDE, BLOCKS_SIDE, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb')
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const whole = { left: 0, top: 0, width: 1, height: 1 };
  const scale = Math.min(1, LOOK_SIDE / Math.max(width, height));
  const small = () =>
    resized(greyOf({ width, height, data }), Math.round(width * scale), Math.round(height * scale));
  const blocks = within ? blocksOf(small()) : [];
  const made: SeenPicture[] = [];
  for (const block of [whole, ...blocks]) {
    const left = Math.round(block.left * width);
    const top = Math.round(block.top * height);
    const cut = sharp(data, { raw: { width, height, channels: 3 } }).extract({
      ...{ left, top },
      width: Math.max(1, Math.min(width - left, Math.round(block.width * width))),
      height: Math.max(1, Math.min(height - top, Math.round(block.height * height))),
    });
    const detail = await detailSize(cut.clone());
    made.push({ look: packLook(lookOf(await lookSize(cut))), detail });
  }
  return made;
}

/** Greys as detail is told by. */
async function detailSize(picture: Sharp): Promise<Grey> {
  const { data, info } = await picture
    .resize(DETAILED_SIDE, DETAILED_SIDE, { fit: 'inside', withoutEnlargement: true })
    .greyscale()
    .raw({ depth: 'uchar' })
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, data };
}

/** In which of some pictures most of the detail of one is found: all of them, the nearest first, but what is no picture. */
export async function originalsOf(
  of: SeenPicture,
  among: readonly LookedPicture[],
  open: (preview: Uint8Array) => Promise<Sharp>,
): Promise<Original[]> {
  const read: Detailed[] = [];
  const which: number[] = [];
  for (const [i, { look, preview }] of among.entries()) {
    try {
      const grey = await detailSize(await open(preview));
      read.push({ look: unpackLook(look), grey });
      which.push(i);
    } catch {
      // The preview of this one is broken: what the others show stands.
    }
  }
  const told = byDetail({ look: unpackLook(of.look), grey: of.detail }, read);
  return told.map(({ nth, apart }) => ({ nth: which[nth]!, apart }));
}
