import { halved, type Grey } from './grey';

/** How sharp a picture is, and where. */
export interface Sharpness {
  /** tiles side by side, and one above the other */
  across: number;
  down: number;
  /** by tile, row by row: what the Laplacian finds above the grain, freed of exposure; 0 … about 10,000 */
  tiles: Float32Array;
  /** the standard deviation of the grain, in greys */
  grain: number;
  /**
   * How fine the finest edges are, times 100: about 100 where they are as fine as pixels are, 20 and less where nothing is in
   * focus. Free of exposure, contrast and grain. Null: nothing is there to tell by (a sky, a cap that was on).
   */
  sharp: number | null;
  /** edges that are softer one way than across it: a hand or a subject that moved */
  shake: Shake;
}

export interface Shake {
  /** in doublings: 0, equally soft both ways */
  strength: number;
  /** degrees, 0 … 180, counter-clockwise: the way that it moved; 0: to the side, 90: up or down */
  angle: number;
}

/** Tiles along the longer side: a face that fills a sixth of the frame's height has several. */
const TILES = 24;
/** Pixels of a tile's side: even, so that a tile is whole at half its size. */
export const tileSize = ({ width, height }: Pick<Grey, 'width' | 'height'>): number =>
  2 * Math.max(4, Math.ceil(Math.max(width, height) / TILES / 2));
/** The share of tiles that `sharp` is told from: a subject is rarely smaller, and a single bright point never counts alone. */
const BEST = 0.05;
/** Tiles count less the further out they are, in a corner half: what matters is rarely there. */
const CORNER = 0.5;
/** Grain is told from the third of the tiles that have the least: what else a mask finds there is structure. */
const CALM = 0.3;
/** Greys between which a tile's grain is all there: nearer to the ends it is cut off. */
const [DARK, BRIGHT] = [12, 243];
/** The grain's share that is taken off, and a tenth more, as it falls otherwise by chance from tile to tile. */
const SURELY = 1.1;
/** How often a tile's structure has to be above what grain alone would make of it, and its share of the picture's most. */
const ABOVE = 2;
const OF_MOST = 0.1;

/** Mean squares by tile: second differences across, down and along both diagonals, what the mask finds, and greys. */
interface Energies {
  across: Float64Array;
  down: Float64Array;
  /** of their product */
  both: Float64Array;
  falling: Float64Array;
  rising: Float64Array;
  mask: Float64Array;
  mean: Float64Array;
}

/**
 * Measures how fine the finest edges of a picture are: what second differences find in it (Pech-Pacheco et al. 2000, by tile),
 * divided by what they find at half its size. Blur takes from the first and leaves the second; exposure, contrast and how much
 * there is to see change both alike. Grain is taken off, as strong grain looks like structure: it is what a mask finds that
 * is blind to edges and slopes (Immerkær 1996), in the calmest tiles. Only the tiles with the finest edges count, so that a
 * blurred background does no harm. Each direction is told by itself, and the softer one counts: a shaken picture is
 * still sharp along the way that it moved. Limits were chosen on thirteen open scenes; see docs/grouping.md.
 */
export function sharpnessOf(grey: Grey): Sharpness {
  const { width, height } = grey;
  const size = tileSize(grey);
  const [across, down] = [Math.max(1, Math.floor(width / size)), Math.max(1, Math.floor(height / size))];
  const own = energiesOf(grey, across, down, size);
  const far = energiesOf(halved(grey), across, down, size / 2);
  const count = across * down;
  const noise = grainOf(own);
  const tiles = new Float32Array(count);
  const coarse = new Float64Array(count);
  for (let t = 0; t < count; t++) {
    const scale = 100 / (own.mean[t]! + DARK);
    tiles[t] = scale ** 2 * above(laplace(own, t), LAPLACE * noise);
    // Four pixels make one at half the size, and a quarter of the grain is left.
    coarse[t] = scale ** 2 * above(laplace(far, t), (LAPLACE * noise) / 4);
  }
  const limit = OF_MOST * ([...coarse].sort((a, b) => b - a)[count >> 5] ?? 0);
  const counts = (t: number) =>
    coarse[t]! > limit && laplace(far, t) > (LAPLACE * noise * SURELY) / 4 + ABOVE * LAPLACE * noise;
  const central = (t: number) => {
    const [x, y] = [(2 * (t % across) + 1) / across - 1, (2 * Math.floor(t / across) + 1) / down - 1];
    return 1 - CORNER * Math.min(1, (x * x + y * y) / 2);
  };
  const best = Array.from(tiles.keys())
    .filter(counts)
    .sort((a, b) => central(b) * tiles[b]! - central(a) * tiles[a]!)
    .slice(0, Math.max(1, Math.round(count * BEST)));
  const fineness = (kind: 'across' | 'down' | 'falling' | 'rising'): number => {
    let [fine, rough] = [0, 0];
    for (const t of best) {
      const scale = (own.mean[t]! + DARK) ** -2;
      fine += scale * above(own[kind][t]!, SECOND * noise);
      rough += scale * above(far[kind][t]!, (SECOND * noise) / 4);
    }
    return rough > 0 ? fine / rough : 0;
  };
  const [x, y] = [fineness('across'), fineness('down')];
  return {
    ...{ across, down, tiles, grain: Math.sqrt(noise) },
    sharp: best.length > 0 ? 100 * Math.min(x, y) : null,
    shake: shakeOf(doublings(y, x), doublings(fineness('rising'), fineness('falling'))),
  };
}

/** Of grain of variance 1 the Laplacian makes 4² + 4 · 1² = 20, a second difference 2² + 2 · 1² = 6, the mask 36. */
const [LAPLACE, SECOND, MASK] = [20, 6, 36];

const above = (energy: number, grain: number): number => Math.max(0, energy - SURELY * grain);
const laplace = ({ across, down, both }: Energies, t: number): number => across[t]! + down[t]! + 2 * both[t]!;

/** Fineness below this is none: two that are both none are alike. */
const NONE = 0.02;
const doublings = (a: number, b: number): number => Math.log2(Math.max(NONE, a) / Math.max(NONE, b));

/**
 * `level`: how much finer edges are down than across, in doublings; `slanted`: along the rising diagonal than along the falling
 * one. As with any axis, twice its angle is what the two span.
 */
function shakeOf(level: number, slanted: number): Shake {
  const angle = (Math.atan2(-slanted, level) * 90) / Math.PI;
  return { strength: Math.hypot(level, slanted), angle: (angle + 180) % 180 };
}

/** The variance of the grain. */
function grainOf({ mask, mean }: Energies): number {
  const exposed = [...mask].filter((_, t) => mean[t]! > DARK && mean[t]! < BRIGHT);
  const of = (exposed.length > 5 ? exposed : [...mask]).sort((a, b) => a - b);
  return of[Math.floor(CALM * of.length)]! / MASK;
}

function energiesOf({ width, height, data }: Grey, across: number, down: number, size: number): Energies {
  const count = across * down;
  const zeros = () => new Float64Array(count);
  const all: Energies = {
    ...{ across: zeros(), down: zeros(), both: zeros(), falling: zeros(), rising: zeros() },
    ...{ mask: zeros(), mean: zeros() },
  };
  for (let ty = 0; ty < down; ty++)
    for (let tx = 0; tx < across; tx++) {
      const [left, top] = [Math.max(1, tx * size), Math.max(1, ty * size)];
      const [right, bottom] = [Math.min(width - 1, (tx + 1) * size), Math.min(height - 1, (ty + 1) * size)];
      const n = Math.max(0, right - left) * Math.max(0, bottom - top);
      if (n === 0) continue;
      let [sideways, upright, product, fall, rise, blind, sum] = [0, 0, 0, 0, 0, 0, 0];
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
          const twice = 2 * own;
          const xx = leftOwn + rightOwn - twice;
          const yy = up + low - twice;
          const falling = leftUp + rightLow - twice;
          const rising = leftLow + rightUp - twice;
          const mask = falling + rising - 2 * (xx + yy);
          sideways += xx * xx;
          upright += yy * yy;
          product += xx * yy;
          fall += falling * falling;
          rise += rising * rising;
          blind += mask * mask;
          sum += own;
          leftUp = up;
          leftOwn = own;
          leftLow = low;
          up = rightUp;
          own = rightOwn;
          low = rightLow;
        }
      }
      const t = ty * across + tx;
      all.across[t] = sideways / n;
      all.down[t] = upright / n;
      all.both[t] = product / n;
      all.falling[t] = fall / n;
      all.rising[t] = rise / n;
      all.mask[t] = blind / n;
      all.mean[t] = sum / n;
    }
  return all;
}

/**
 * The sharpest spot of a picture, as shares of its width and height: the middle of the tile that is the sharpest together
 * with those around it, since a single one may be a glint. A picture without any edge: its middle.
 */
export function sharpestSpot({ across, down, tiles }: Pick<Sharpness, 'across' | 'down' | 'tiles'>): {
  x: number;
  y: number;
} {
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
