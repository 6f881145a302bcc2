import type { Grey } from './grey';

/** How sharp a picture is, part by part. */
export interface Sharpness {
  /** tiles side by side, and one above the other */
  across: number;
  down: number;
  /** by tile, row by row: what the Laplacian finds above the grain, 0 … about 10,000 */
  tiles: Float32Array;
  /** the standard deviation of the grain of the middle tile, in greys; fine structure counts as grain */
  grain: number;
  /** the sharpest parts: the mean of the best twentieth of the tiles */
  best: number;
}

/** Tiles along the longer side: a face that fills a sixth of the frame's height has several. */
const TILES = 24;
/** The share of tiles that make up `best`: a subject is rarely smaller, a single bright point never counts alone. */
const BEST = 0.05;

/**
 * By chance the two find grain differently: by this share of it, divided by the root of the pixels, at most in nineteen
 * of twenty tiles. Measured on blurred plates with grain of 12 and of 30 greys.
 */
const CHANCE = 3;

/**
 * Measures sharpness by the variance of the Laplacian in each tile (Pech-Pacheco et al. 2000), with the grain's share
 * taken off, as strong grain raises the plain measure of a blurred picture above that of a sharp one. The grain of a tile
 * is what a mask finds in it that is blind to edges and slopes (Immerkær 1996); in grain alone both find the same.
 */
export function sharpnessOf({ width, height, data }: Grey): Sharpness {
  const size = Math.max(8, Math.ceil(Math.max(width, height) / TILES));
  const [across, down] = [Math.max(1, Math.floor(width / size)), Math.max(1, Math.floor(height / size))];
  const tiles = new Float32Array(across * down);
  const grains = new Float32Array(across * down);
  for (let ty = 0; ty < down; ty++)
    for (let tx = 0; tx < across; tx++) {
      const [left, top] = [Math.max(1, tx * size), Math.max(1, ty * size)];
      const [right, bottom] = [Math.min(width - 1, (tx + 1) * size), Math.min(height - 1, (ty + 1) * size)];
      const n = Math.max(0, right - left) * Math.max(0, bottom - top);
      let sum = 0;
      let squares = 0;
      let blind = 0;
      for (let y = top; y < bottom; y++) {
        const from = y * width + left;
        const end = y * width + right;
        // Columns of three, from left to right: each pixel is read once a row.
        let leftUp = data[from - 1 - width]!;
        let leftOwn = data[from - 1]!;
        let leftLow = data[from - 1 + width]!;
        let up = data[from - width]!;
        let own = data[from]!;
        let low = data[from + width]!;
        for (let i = from; i < end; i++) {
          const rightUp = data[i + 1 - width]!;
          const rightOwn = data[i + 1]!;
          const rightLow = data[i + 1 + width]!;
          const beside = leftOwn + rightOwn + up + low;
          const laplace = beside - 4 * own;
          const mask = leftUp + rightUp + leftLow + rightLow - 2 * beside + 4 * own;
          sum += laplace;
          squares += laplace * laplace;
          blind += mask * mask;
          leftUp = up;
          leftOwn = own;
          leftLow = low;
          up = rightUp;
          own = rightOwn;
          low = rightLow;
        }
      }
      if (n === 0) continue;
      // Of grain of variance 1 the mask makes 36, the Laplacian 4² + 4 · 1² = 20: their numbers squared, added up.
      const grain = blind / n / 36;
      const sure = 1 + CHANCE / Math.sqrt(n);
      tiles[ty * across + tx] = Math.max(0, squares / n - (sum / n) ** 2 - 20 * grain * sure);
      grains[ty * across + tx] = grain;
    }
  const sorted = [...tiles].sort((a, b) => b - a).slice(0, Math.max(1, Math.round(tiles.length * BEST)));
  return {
    ...{ across, down, tiles },
    grain: Math.sqrt([...grains].sort((a, b) => a - b)[grains.length >> 1] ?? 0),
    best: sorted.reduce((a, b) => a + b, 0) / sorted.length,
  };
}

/**
 * The sharpest spot of a picture, as shares of its width and height: the middle of the tile that is the sharpest together
 * with those around it, since a single one may be a glint. A picture without any edge: its middle.
 */
export function sharpestSpot({ across, down, tiles }: Sharpness): { x: number; y: number } {
  let best = { sum: 0, x: (across - 1) / 2, y: (down - 1) / 2 };
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      // Its own part counts as much as all around it: at an edge of the picture fewer are around.
      let sum = 0;
      let around = 0;
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [tx, ty] = [x + dx, y + dy];
          if (tx < 0 || ty < 0 || tx >= across || ty >= down || (dx === 0 && dy === 0)) continue;
          sum += tiles[ty * across + tx]!;
          around += 1;
        }
      const all = tiles[y * across + x]! + sum / Math.max(1, around);
      if (all > best.sum) best = { sum: all, x, y };
    }
  return { x: (best.x + 0.5) / across, y: (best.y + 0.5) / down };
}
