import { linearOf } from '../colour/srgb';
import { isBlown, isDrowned } from './tones';
import type { Grey } from './grey';

/** Pixels in red, green and blue, row by row. */
export interface Rgb {
  width: number;
  height: number;
  data: Uint8Array;
}

/** How much light a picture has, and of which colour. */
export interface Light {
  /** shares of all pixels: a channel at its end, no channel with anything left, and white without any drawing */
  blown: number;
  drowned: number;
  white: number;
  /** mean of the light, in stops below white (IEC 61966-2-1 undone): −2.5 of a usual picture, −12 at the least */
  level: number;
  /** the grey that one pixel in a hundred is above, 0 … 255 */
  brightest: number;
  /** how far it is from grey, as a share of its luma, in hundredths, of what is neither dark nor bright: more is bluer, or redder */
  blue: number;
  red: number;
}

/** From here on all channels count as white: paper and shirts that still have folds stay below. */
const WHITE = 250;
/** Greys between which colours are told: the rest is grain, or clipped. */
const [DARK, BRIGHT] = [40, 230];
/** Stops below white at which a picture is black. */
const BLACK = -12;

const LINEAR = Float32Array.from({ length: 256 }, (_, v) => linearOf(v / 255));

/** Rec. 601, as JPEG's own. */
export function greyOf({ width, height, data }: Rgb): Grey {
  const grey = new Uint8Array(width * height);
  // In parts of 65,536, as whole numbers: a million pixels in some five milliseconds.
  for (let i = 0, at = 0; i < grey.length; i++, at += 3)
    grey[i] = (19595 * data[at]! + 38470 * data[at + 1]! + 7471 * data[at + 2]! + 32768) >> 16;
  return { width, height, data: grey };
}

/** Of a small picture, some 480 pixels: glints that are smaller than one of these tell nothing of its exposure. */
export function lightOf(rgb: Rgb): Light {
  const { data } = rgb;
  const grey = greyOf(rgb);
  const greys = new Uint32Array(256);
  const all = Math.max(1, grey.data.length);
  let [blown, drowned, white] = [0, 0, 0];
  let [sumBlue, sumRed, sumLuma] = [0, 0, 0];
  for (let i = 0, at = 0; i < grey.data.length; i++, at += 3) {
    const luma = grey.data[i]!;
    greys[luma]! += 1;
    const r = data[at]!;
    const g = data[at + 1]!;
    const b = data[at + 2]!;
    if (isBlown(r, g, b)) {
      blown += 1;
      if (r >= WHITE && g >= WHITE && b >= WHITE) white += 1;
    } else if (isDrowned(r, g, b)) drowned += 1;
    if (luma < DARK || luma > BRIGHT) continue;
    sumLuma += luma;
    // Rec. 601: the colour differences, as JPEG has them.
    sumBlue += 0.564 * (b - luma);
    sumRed += 0.713 * (r - luma);
  }
  let mean = 0;
  greys.forEach((count, v) => (mean += LINEAR[v]! * count));
  let brightest = 255;
  for (let above = 0; brightest > 0; brightest--) {
    above += greys[brightest]!;
    if (above > all / 100) break;
  }
  return {
    ...{ blown: blown / all, drowned: drowned / all, white: white / all, brightest },
    level: Math.max(BLACK, Math.log2(mean / all)),
    blue: sumLuma > 0 ? (100 * sumBlue) / sumLuma : 0,
    red: sumLuma > 0 ? (100 * sumRed) / sumLuma : 0,
  };
}
