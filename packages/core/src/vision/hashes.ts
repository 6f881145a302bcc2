import { resized, type Grey } from './grey';

/** 64 bits as two whole numbers of 32, the first bit lowest. */
export type Hash = readonly [low: number, high: number];

/** Pixels of the square that the cosines are taken of, and of its corner that is kept. */
const SIDE = 32;
const CORNER = 8;

/** `cos(π (2x + 1) u / 2N)`, by u and x. */
const COSINES = Float64Array.from({ length: CORNER * SIDE }, (_, i) => {
  const [u, x] = [Math.floor(i / SIDE), i % SIDE];
  return Math.cos((Math.PI * (2 * x + 1) * u) / (2 * SIDE));
});

/**
 * The picture's coarse waves as 64 bits: which of the 8 × 8 lowest terms of a cosine transform of 32 × 32 greys lie above
 * their median (the method known as pHash; Zauner 2010). The mean's own term never counts as above. Bright, dark, sharp and
 * grainy make little difference; a cut of a tenth changes some ten bits.
 */
export function dctHash(grey: Grey): Hash {
  const small = resized(grey, SIDE, SIDE).data;
  const rows = new Float64Array(CORNER * SIDE);
  for (let u = 0; u < CORNER; u++)
    for (let y = 0; y < SIDE; y++) {
      let sum = 0;
      for (let x = 0; x < SIDE; x++) sum += small[y * SIDE + x]! * COSINES[u * SIDE + x]!;
      rows[u * SIDE + y] = sum;
    }
  const terms = new Float64Array(CORNER * CORNER);
  for (let v = 0; v < CORNER; v++)
    for (let u = 0; u < CORNER; u++) {
      let sum = 0;
      for (let y = 0; y < SIDE; y++) sum += rows[u * SIDE + y]! * COSINES[v * SIDE + y]!;
      terms[v * CORNER + u] = sum;
    }
  const sorted = terms.slice(1).sort();
  const median = sorted[sorted.length >> 1]!;
  return bits(64, (i) => i > 0 && terms[i]! > median);
}

/** Whether each of 8 × 8 places is brighter than the one at its left, of 9 × 8 greys (difference hash). */
export function differenceHash(grey: Grey): Hash {
  const small = resized(grey, 9, 8).data;
  return bits(64, (i) => {
    const at = (i >> 3) * 9 + (i & 7);
    return small[at + 1]! > small[at]!;
  });
}

function bits(count: number, isSet: (i: number) => boolean): Hash {
  let [low, high] = [0, 0];
  for (let i = 0; i < count; i++)
    if (isSet(i)) {
      if (i < 32) low |= 1 << i;
      else high |= 1 << (i - 32);
    }
  return [low >>> 0, high >>> 0];
}

/** How many of 32 bits are set. */
export function bitsSet(word: number): number {
  let v = word - ((word >>> 1) & 0x55555555);
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
  v = (v + (v >>> 4)) & 0x0f0f0f0f;
  v += v >>> 8;
  return (v + (v >>> 16)) & 0x3f;
}

/** A hash in four parts of 16 bits, the lowest first. */
export type Bands = readonly [number, number, number, number];
export const bandsOf = ([low, high]: Hash): Bands => [low & 0xffff, low >>> 16, high & 0xffff, high >>> 16];

/** The hash that is parted so. */
export const hashOfBands = ([a, b, c, d]: Bands): Hash => [(a | (b << 16)) >>> 0, (c | (d << 16)) >>> 0];

/** Bits by which hashes differ at most that are found by their bands: then one band differs by one bit, or none (4 × 1 + 3). */
export const FOUND_WITHIN = 7;

/** A band, and all that differ from it by one bit (Manku, Jain and Das Sarma 2007). */
export const bandsBeside = (band: number): number[] => [
  band,
  ...Array.from({ length: 16 }, (_, bit) => band ^ (1 << bit)),
];

/** Bits in which two differ, 0 … 64. */
export const hashDistance = (a: Hash, b: Hash): number => bitsSet(a[0] ^ b[0]) + bitsSet(a[1] ^ b[1]);
