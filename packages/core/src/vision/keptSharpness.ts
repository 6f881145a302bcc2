import type { Sharpness } from './sharpness';

/**
 * A tile as one byte: 16 steps for each doubling, so that a step is four hundredths of the measure; 255 stands for
 * everything above 62,000, which no picture of 8 bits reaches.
 */
const STEPS = 16;
const HEAD = 14;

/** Sharpness as bytes, to be kept: across, down (16 bits each), grain, best (32 bits floating), tiles. Little-endian. */
export function packSharpness({ across, down, grain, best, tiles }: Sharpness): Uint8Array {
  const bytes = new Uint8Array(HEAD + tiles.length);
  const view = new DataView(bytes.buffer);
  view.setUint16(0, FORM, true);
  view.setUint16(2, across, true);
  view.setUint16(4, down, true);
  view.setFloat32(6, grain, true);
  view.setFloat32(10, best, true);
  tiles.forEach((tile, i) => (bytes[HEAD + i] = Math.min(255, Math.round(STEPS * Math.log2(1 + tile)))));
  return bytes;
}

/** The first number of all that is kept so: what begins otherwise is none of ours. */
const FORM = 1;

/** Sharpness from its bytes. Throws a RangeError for bytes that are no kept sharpness. */
export function unpackSharpness(bytes: Uint8Array): Sharpness {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEAD || view.getUint16(0, true) !== FORM)
    throw new RangeError('these bytes are no kept sharpness');
  const [across, down] = [view.getUint16(2, true), view.getUint16(4, true)];
  if (bytes.length !== HEAD + across * down)
    throw new RangeError(`a kept sharpness of ${across} × ${down} tiles has ${bytes.length} bytes`);
  const tiles = Float32Array.from(bytes.subarray(HEAD), (byte) => 2 ** (byte / STEPS) - 1);
  return { across, down, grain: view.getFloat32(6, true), best: view.getFloat32(10, true), tiles };
}
