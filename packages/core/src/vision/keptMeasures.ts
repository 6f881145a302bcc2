import { measuresIn, measuresText, type Measures } from './measures';
import type { Sharpness } from './sharpness';

/**
 * A tile as one byte: 16 steps for each doubling, so that a step is four hundredths of the measure; 255 stands for
 * everything above 62,000, which no picture of 8 bits reaches.
 */
const STEPS = 16;
const HEAD = 8;

/** Which tiles of a picture are how sharp. */
export type Tiles = Pick<Sharpness, 'across' | 'down' | 'tiles'>;

export interface KeptMeasures {
  measures: Measures;
  sharpness: Tiles;
}

/**
 * Measures as bytes, to be kept: form, across, down, length of the text (16 bits each, little-endian), what `measuresText` gives
 * in ASCII, tiles.
 */
export function packMeasures({ measures, sharpness: { across, down, tiles } }: KeptMeasures): Uint8Array {
  const text = measuresText(measures);
  const bytes = new Uint8Array(HEAD + text.length + tiles.length);
  const view = new DataView(bytes.buffer);
  [FORM, across, down, text.length].forEach((value, i) => view.setUint16(2 * i, value, true));
  for (let i = 0; i < text.length; i++) bytes[HEAD + i] = text.charCodeAt(i);
  const from = HEAD + text.length;
  tiles.forEach((tile, i) => (bytes[from + i] = Math.min(255, Math.round(STEPS * Math.log2(1 + tile)))));
  return bytes;
}

/** The first number of all that is kept so: what begins otherwise is none of ours. */
const FORM = 2;

/** Measures from their bytes. Throws a RangeError for bytes that are no kept measures. */
export function unpackMeasures(bytes: Uint8Array): KeptMeasures {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEAD || view.getUint16(0, true) !== FORM)
    throw new RangeError('these bytes are no kept measures');
  const [across, down, length] = [2, 4, 6].map((at) => view.getUint16(at, true)) as [number, number, number];
  if (bytes.length !== HEAD + length + across * down)
    throw new RangeError(`kept measures of ${across} × ${down} tiles have ${bytes.length} bytes`);
  const measures = measuresIn(String.fromCharCode(...bytes.subarray(HEAD, HEAD + length)));
  if (measures === null) throw new RangeError('these bytes are no kept measures');
  const tiles = Float32Array.from(bytes.subarray(HEAD + length), (byte) => 2 ** (byte / STEPS) - 1);
  return { measures, sharpness: { across, down, tiles } };
}
