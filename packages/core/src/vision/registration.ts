import { transform } from './fourier';
import { cut, halved, type Grey } from './grey';

/** How one picture lies over another. */
export interface Shift {
  /** pixels of the given pictures: what stands at (x, y) in the first stands at (x + dx, y + dy) in the second */
  dx: number;
  dy: number;
  /**
   * 0 … 1: how much of the correlation stands in one place; see {@link SURE}.
   */
  sureness: number;
}

/** Pixels of the square that is compared: a shift of a quarter of it is still found. */
export const SIDE = 256;

/**
 * The sureness from which a shift is one. Measured on the 64 plates of the demo: a plate over itself, brighter and with
 * grain, 0.36 and more up to a shift of a seventh, 0.14 and more at a quarter; different plates at most 0.2, which share a
 * stage or a table. What lies between is for another method to decide.
 */
export const SURE = 0.2;

/**
 * The shift between two pictures of one size, by phase correlation (Kuglin and Hines 1975) with the peak between pixels
 * fitted to its neighbours (Foroosh, Zerubia and Berthod 2002). Finds shifts only, no turns and no change of size; bright
 * or dark makes no difference. Throws a RangeError where the sizes differ.
 */
export function shiftBetween(first: Grey, second: Grey): Shift {
  if (first.width !== second.width || first.height !== second.height)
    throw new RangeError(
      `pictures of ${first.width} × ${first.height} and ${second.width} × ${second.height} are not compared`,
    );
  let [a, b, scale] = [first, second, 1];
  while (Math.max(a.width, a.height) > SIDE * 1.5) [a, b, scale] = [halved(a), halved(b), scale * 2];
  const { x, y, height } = peakOf(...spectrumOf(a), ...spectrumOf(b)).within(SIDE / 2, SIDE / 2);
  return { dx: x * scale, dy: y * scale, sureness: Math.max(0, Math.min(1, height)) };
}

/**
 * The phase correlation of two spectra, with the first's arrays as its room: where its peak stands within so many pixels
 * on each side of nothing, between pixels, and how much of the correlation stands there.
 */
export function peakOf(
  aRe: Float64Array,
  aIm: Float64Array,
  bRe: Float64Array,
  bIm: Float64Array,
): { within: (mostX: number, mostY: number) => { x: number; y: number; height: number } } {
  for (let i = 0; i < aRe.length; i++) {
    const re = bRe[i]! * aRe[i]! + bIm[i]! * aIm[i]!;
    const im = bIm[i]! * aRe[i]! - bRe[i]! * aIm[i]!;
    const size = (re * re + im * im) ** 0.5 || 1;
    aRe[i] = re / size;
    aIm[i] = im / size;
  }
  transform(aRe, aIm, SIDE, true);
  const at = (px: number, py: number) => aRe[((py + SIDE) % SIDE) * SIDE + ((px + SIDE) % SIDE)]!;
  return {
    within: (mostX, mostY) => {
      let [x, y, peak] = [0, 0, -Infinity];
      for (let py = -mostY + 1; py <= mostY; py++)
        for (let px = -mostX + 1; px <= mostX; px++)
          if (at(px, py) > peak) [x, y, peak] = [px, py, at(px, py)];
      const [dx, ex] = between(at(x - 1, y), peak, at(x + 1, y));
      const [dy, ey] = between(at(x, y - 1), peak, at(x, y + 1));
      return { x: x + dx, y: y + dy, height: peak + ex + ey };
    },
  };
}

/** Where between two pixels a peak stands, and what of it is in the neighbour. */
function between(before: number, peak: number, after: number): [shift: number, rest: number] {
  const [beside, sign] = after > before ? [after, 1] : [before, -1];
  return beside <= 0 ? [0, 0] : [(sign * beside) / (beside + peak), beside];
}

/** The spectrum of the picture's middle, faded out to its edges (von Hann), as these are edges of nothing. */
export function spectrumOf(grey: Grey): [Float64Array, Float64Array] {
  const { width, height } = grey;
  const middle = cut(grey, Math.round((width - SIDE) / 2), Math.round((height - SIDE) / 2), SIDE, SIDE);
  let sum = 0;
  for (const value of middle.data) sum += value;
  const mean = sum / (SIDE * SIDE);
  const re = new Float64Array(SIDE * SIDE);
  const [fadeX, fadeY] = [fade(width), fade(height)];
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++)
      re[y * SIDE + x] = (middle.data[y * SIDE + x]! - mean) * fadeX[x]! * fadeY[y]!;
  const im = new Float64Array(SIDE * SIDE);
  transform(re, im, SIDE);
  return [re, im];
}

/** A window over as many pixels as the picture has of the square. */
function fade(length: number): Float64Array {
  const used = Math.min(SIDE, length);
  const from = (SIDE - used) / 2;
  return Float64Array.from({ length: SIDE }, (_, i) => {
    const at = (i - from + 0.5) / used;
    return at < 0 || at > 1 ? 0 : 0.5 - 0.5 * Math.cos(2 * Math.PI * at);
  });
}
