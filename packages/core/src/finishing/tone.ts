import { codedOf, linearOf } from '../colour/srgb';
import { finishOf, type Finish, type Mono } from './values';

/**
 * How finishing changes a pixel. The picture's values are taken for sRGB (IEC 61966-2-1), made linear, multiplied by one number for each
 * channel (exposure, white balance), mixed into one where it is black and white, and brought back through one curve that is the same
 * for all channels (shoulder, shadows, highlights, contrast). Browser and server call this on bytes, so equal bytes come out equal.
 */

/** Luminance of sRGB's primaries. */
export const LUMINANCE = [0.2126, 0.7152, 0.0722] as const;

/**
 * Natural logarithms by which red and blue change beside green for a mired of temperature. By Wien's approximation the logarithm of what
 * a narrow band gets from a glowing body is a straight line over the reciprocal of its temperature; these are the slopes of Planck's
 * law in sRGB's linear primaries (colour matching functions of CIE 1931) between 154 and 229 mired, 6,500 and 4,400 K. From 13,500
 * to 2,800 K they change by 10 %.
 */
export const BY_MIRED = { red: 0.0037, blue: -0.0062 } as const;
/** A hundred of tint are half a stop of green against red and blue. */
export const BY_TINT = (0.5 * Math.LN2) / 100;

/** Numbers by which linear red, green and blue are multiplied. White balance alone changes no grey's luminance. */
export function gainsOf({ exposure = 0, temperature = 0, tint = 0 }: Finish): [number, number, number] {
  const red = Math.exp(BY_MIRED.red * temperature + BY_TINT * tint);
  const blue = Math.exp(BY_MIRED.blue * temperature + BY_TINT * tint);
  const all = 2 ** exposure / (LUMINANCE[0] * red + LUMINANCE[1] + LUMINANCE[2] * blue);
  return [red * all, all, blue * all];
}

/** Shares of linear red, green and blue in black and white, as film sees through a filter; `plain`: luminance. */
const MIXED: Readonly<Record<Mono, readonly [number, number, number]>> = {
  plain: LUMINANCE,
  yellow: [0.45, 0.5, 0.05],
  red: [0.75, 0.2, 0.05],
  green: [0.15, 0.8, 0.05],
};

/** From here on what exposure would drive out of the picture is bent back into it: mid tones of faces lie below. */
const KNEE = 0.6;
/** Middle grey, about which contrast turns: 18 % of the light. */
const GREY = codedOf(0.18);
/** As strong as shadows and highlights may be without turning any two tones about. */
const STRENGTH = 0.9;

/** 0 at both ends, steep at the lower one. */
const bump = (v: number): number => v * (1 - v) ** 3;

/** From linear light, where `white` is the most that there can be, to a coded value 0…1. Never falls. */
function curveOf(
  { contrast = 0, highlights = 0, shadows = 0 }: Finish,
  white: number,
): (x: number) => number {
  const top = codedOf(Math.max(1, white));
  const slope = (top - KNEE) / (1 - KNEE);
  const gamma = 2 ** (contrast / 100);
  return (x) => {
    let v = codedOf(x);
    if (top > 1 && v > KNEE) {
      const t = Math.min(1, (v - KNEE) / (top - KNEE));
      v = KNEE + ((1 - KNEE) * slope * t) / (1 + (slope - 1) * t);
    }
    v = Math.min(1, v);
    v += (STRENGTH * shadows * bump(v) + STRENGTH * highlights * bump(1 - v)) / 100;
    return v < GREY ? GREY * (v / GREY) ** gamma : 1 - (1 - GREY) * ((1 - v) / (1 - GREY)) ** gamma;
  };
}

const byte = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 255);

/** Steps of the table that light mixed into one is looked up in: its square root, as the eye sees steps; each less than one of 255. */
const STEPS = 4096;

/**
 * How much of a pixel's colour is lost by its darkest channel: what is blown in all three has none that could be balanced, and stays
 * white; from here on, above what a sheet of paper is exposed to, it goes there gently.
 */
const WHITENS = 224;
const WHITENESS = Float64Array.from({ length: 256 }, (_, v) => {
  const by = Math.max(0, (v - WHITENS) / (255 - WHITENS));
  return by * by * (3 - 2 * by);
});

/** Whether it changes any pixel's value. */
export const changesTones = ({ exposure, temperature, tint, contrast, highlights, shadows, mono }: Finish) =>
  Boolean(exposure || temperature || tint || contrast || highlights || shadows || mono);

/**
 * What finishing makes of bytes: `pixels` (red, green, blue, and a fourth that stays) are changed where they lie. Made once for values,
 * as often as a picture is drawn.
 */
export function toner(finish: Finish): (pixels: Uint8Array | Uint8ClampedArray, channels: 3 | 4) => void {
  if (!changesTones(finish)) return () => undefined;
  const gains = gainsOf(finish);
  const linear = Float64Array.from({ length: 256 }, (_, v) => linearOf(v / 255));
  if (finish.mono) {
    const mix = MIXED[finish.mono];
    const weighed = gains.map((gain, c) => linear.map((x) => x * gain * mix[c]!));
    const [red, green, blue] = weighed as [Float64Array, Float64Array, Float64Array];
    const white = red[255]! + green[255]! + blue[255]!;
    const curve = curveOf(finish, white);
    const table = Uint8Array.from({ length: STEPS }, (_, i) => byte(curve((i / (STEPS - 1)) ** 2 * white)));
    return (pixels, channels) => {
      for (let i = 0; i < pixels.length; i += channels) {
        const light = red[pixels[i]!]! + green[pixels[i + 1]!]! + blue[pixels[i + 2]!]!;
        const grey = table[Math.round(Math.sqrt(light / white) * (STEPS - 1))]!;
        pixels[i] = pixels[i + 1] = pixels[i + 2] = grey;
      }
    };
  }
  const curve = curveOf(finish, 2 ** (finish.exposure ?? 0));
  const [red, green, blue] = gains.map((gain) =>
    Uint8Array.from({ length: 256 }, (_, v) => byte(curve(linear[v]! * gain))),
  ) as [Uint8Array, Uint8Array, Uint8Array];
  return (pixels, channels) => {
    for (let i = 0; i < pixels.length; i += channels) {
      const r = pixels[i]!;
      const g = pixels[i + 1]!;
      const b = pixels[i + 2]!;
      let x = red[r]!;
      let y = green[g]!;
      let z = blue[b]!;
      if (r >= WHITENS && g >= WHITENS && b >= WHITENS) {
        const whiteness = WHITENESS[Math.min(r, g, b)]!;
        const most = Math.max(x, y, z);
        x += Math.round((most - x) * whiteness);
        y += Math.round((most - y) * whiteness);
        z += Math.round((most - z) * whiteness);
      }
      pixels[i] = x;
      pixels[i + 1] = y;
      pixels[i + 2] = z;
    }
  };
}

/** As {@link toner}, of values as a frame keeps them. */
export const tonerOf = (text: string): ReturnType<typeof toner> => toner(finishOf(text));
