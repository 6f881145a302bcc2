import { resized, type Grey } from './grey';
import type { Rgb } from './light';
import { dctHash, differenceHash, type Hash } from './hashes';
import { keypointsOf, WORDS, type Keypoints } from './keypoints';

const { max, round } = Math;

/** A picture of some dozen pixels, in luma and colour (Rec. 601, as JPEG's own): what is seen of it from afar. */
export interface Small {
  width: number;
  height: number;
  /** 0 … 255 each; 128 is no colour. Of colour 2 × 2 pixels have one value. */
  luma: Uint8Array;
  blue: Uint8Array;
  red: Uint8Array;
}

/** What pictures are compared by. */
export interface Look {
  dct: Hash;
  difference: Hash;
  small: Small;
  points: Keypoints;
}

/** Pixels of the longer side that keypoints are looked for in, and of the picture from afar. */
export const LOOK_SIDE = 480;
export const SMALL_SIDE = 64;

/** What a picture is compared by, of its upright pixels at {@link LOOK_SIDE}. */
export function lookOf({ width, height, data }: Rgb): Look {
  const all = width * height;
  const [luma, blue, red] = [new Float32Array(all), new Float32Array(all), new Float32Array(all)];
  for (let i = 0, at = 0; i < all; i++, at += 3) {
    const r = data[at]!;
    const g = data[at + 1]!;
    const b = data[at + 2]!;
    luma[i] = 0.299 * r + 0.587 * g + 0.114 * b;
    blue[i] = 128 - 0.168736 * r - 0.331264 * g + 0.5 * b;
    red[i] = 128 + 0.5 * r - 0.418688 * g - 0.081312 * b;
  }
  const scale = SMALL_SIDE / max(width, height);
  const [w, h] = [max(1, round(width * scale)), max(1, round(height * scale))];
  const grey: Grey = { width, height, data: luma };
  const small = resized(grey, w, h);
  return {
    dct: dctHash(small),
    difference: differenceHash(small),
    small: {
      ...{ width: w, height: h, luma: whole(small) },
      blue: spread(whole(resized({ width, height, data: blue }, half(w), half(h))), w, h),
      red: spread(whole(resized({ width, height, data: red }, half(w), half(h))), w, h),
    },
    points: keypointsOf(grey),
  };
}

function whole({ data }: Grey): Uint8Array {
  const out = new Uint8Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = data[i]! + 0.5;
  return out;
}

const half = (side: number): number => (side + 1) >> 1;

/** Each value for 2 × 2 pixels. */
function spread(values: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out[y * width + x] = values[(y >> 1) * half(width) + (x >> 1)]!;
  return out;
}

function gathered(values: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(half(width) * half(height));
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2) out[(y >> 1) * half(width) + (x >> 1)] = values[y * width + x]!;
  return out;
}

/** The first number of all looks that are kept so; it goes up whenever a look would come out differently. */
export const LOOK_VERSION = 2;

/**
 * A look as bytes, little-endian: version, size of the small picture, size of the picture that keypoints stand in, their
 * number (16 bits each), two hashes (64 bits each), luma, blue, red, then of the keypoints x and y (quarters of a pixel, 16 bits
 * each), level, angle (8 bits each) and 256 bits. Some 10 kB.
 */
export function packLook({ dct, difference, small, points }: Look): Uint8Array {
  const { width, height, luma } = small;
  const parts = [luma, gathered(small.blue, width, height), gathered(small.red, width, height)];
  const pixels = parts.reduce((sum, part) => sum + part.length, 0);
  const bytes = new Uint8Array(HEAD + pixels + points.count * POINT);
  const view = new DataView(bytes.buffer);
  [LOOK_VERSION, width, height, points.width, points.height, points.count].forEach((value, i) =>
    view.setUint16(2 * i, value, true),
  );
  [...dct, ...difference].forEach((word, i) => view.setUint32(12 + 4 * i, word, true));
  let at = HEAD;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  for (let i = 0; i < points.count; i++, at += POINT) {
    view.setUint16(at, points.x[i]! * 4, true);
    view.setUint16(at + 2, points.y[i]! * 4, true);
    bytes[at + 4] = points.level[i]!;
    bytes[at + 5] = points.angle[i]!;
    for (let w = 0; w < WORDS; w++) view.setUint32(at + 6 + 4 * w, points.bits[i * WORDS + w]!, true);
  }
  return bytes;
}

const HEAD = 28;
const POINT = 6 + 4 * WORDS;

/** A look from its bytes. Throws a RangeError for bytes that are no kept look of this version. */
export function unpackLook(bytes: Uint8Array): Look {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEAD || view.getUint16(0, true) !== LOOK_VERSION)
    throw new RangeError(`these bytes are no kept look of version ${LOOK_VERSION}`);
  const [width, height, pointsWidth, pointsHeight, count] = [1, 2, 3, 4, 5].map((i) =>
    view.getUint16(2 * i, true),
  ) as [number, number, number, number, number];
  const [all, quarter] = [width * height, half(width) * half(height)];
  if (bytes.length !== HEAD + all + 2 * quarter + count * POINT)
    throw new RangeError(
      `a kept look of ${width} × ${height} and ${count} keypoints has ${bytes.length} bytes`,
    );
  const word = (i: number) => view.getUint32(12 + 4 * i, true);
  const part = (from: number, length: number) => bytes.slice(HEAD + from, HEAD + from + length);
  const points: Keypoints = {
    ...{ width: pointsWidth, height: pointsHeight, count },
    ...{ x: new Float32Array(count), y: new Float32Array(count) },
    ...{ level: new Uint8Array(count), angle: new Uint8Array(count) },
    bits: new Uint32Array(count * WORDS),
  };
  for (let i = 0, at = HEAD + all + 2 * quarter; i < count; i++, at += POINT) {
    points.x[i] = view.getUint16(at, true) / 4;
    points.y[i] = view.getUint16(at + 2, true) / 4;
    points.level[i] = bytes[at + 4]!;
    points.angle[i] = bytes[at + 5]!;
    for (let w = 0; w < WORDS; w++) points.bits[i * WORDS + w] = view.getUint32(at + 6 + 4 * w, true);
  }
  return {
    ...{ dct: [word(0), word(1)], difference: [word(2), word(3)], points },
    small: {
      ...{ width, height, luma: part(0, all) },
      blue: spread(part(all, quarter), width, height),
      red: spread(part(all + quarter, quarter), width, height),
    },
  };
}
