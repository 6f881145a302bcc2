import type { Grey } from './grey';

/**
 * Places of a picture that can be found again in another one, with what is around them as 256 bits. All in pixels of the
 * picture that was looked at.
 */
export interface Keypoints {
  /** of the picture */
  width: number;
  height: number;
  count: number;
  /** in quarters */
  x: Float32Array;
  y: Float32Array;
  /** how much larger than the smallest the place is, in steps of 1.25 */
  level: Uint8Array;
  /** in 256ths of a turn: the direction in which its brighter side lies */
  angle: Uint8Array;
  /** 8 words of 32 bits each */
  bits: Uint32Array;
}

/** Words of a descriptor. */
export const WORDS = 8;

/** The factor between two sizes at which the picture is looked at, and how many there are: zooms up to 2.4 are found. */
export const STEP = 1.25;
const SIZES = 5;
/** Pixels around a place that its direction and its bits are read from. */
const RADIUS = 15;
/** Places kept, a choice between what they tell and what they cost: 38 bytes each, and a comparison grows by their square. */
export const MOST_KEYPOINTS = 160;
/** Cells of a size of the picture among which the places are shared out, so that one bright crowd does not take all. */
const CELLS = 6;
/**
 * Greys that a ring of pixels is brighter or darker than its middle by, at the least. The first where it finds enough
 * (as ORB does), the second in flat and dark pictures; below that, grain makes corners.
 */
const CONTRASTS = [20, 7];
/** Corners for each place that is kept, so that there is something to choose from. */
const CHOICE = 4;

/**
 * The 16 pixels of a ring of radius 3 (FAST; Rosten and Drummond 2006).
 */
const RING: readonly (readonly [number, number])[] = [
  ...([
    [0, -3],
    [1, -3],
    [2, -2],
    [3, -1],
    [3, 0],
    [3, 1],
    [2, 2],
    [1, 3],
  ] as const),
  ...([
    [0, 3],
    [-1, 3],
    [-2, 2],
    [-3, 1],
    [-3, 0],
    [-3, -1],
    [-2, -2],
    [-1, -3],
  ] as const),
];
/** So many pixels of the ring, side by side, are all brighter or all darker than the middle. */
const ARC = 9;

/** Directions for which the pattern is turned beforehand: 12° apart, as ORB does (Rublee et al. 2011). */
const TURNS = 30;

/** Pairs of places around a keypoint, of which the first is darker than the second or not; x, y, x, y by turn. */
const PATTERN = turnedPattern();

/**
 * Finds keypoints: corners at five sizes (FAST), the strongest of each part of the picture (Harris and Stephens 1988),
 * with the direction of their centroid and 256 comparisons of smoothed greys around them, in places drawn from a normal
 * distribution (BRIEF, Calonder et al. 2010) and turned by the direction (ORB, Rublee et al. 2011). Meant for pictures of
 * about 480 pixels. A flat picture has none. The same pixels give the same keypoints.
 */
export function keypointsOf(grey: Grey, most = MOST_KEYPOINTS): Keypoints {
  const found: Corner[] = [];
  const levels = levelsOf(grey);
  const weights = levels.map(({ scale }) => 1 / scale ** 2);
  const all = weights.reduce((a, b) => a + b, 0);
  levels.forEach((level, i) => {
    const share = Math.round((most * weights[i]!) / all);
    let corners: number[] = [];
    for (const contrast of CONTRASTS)
      if (corners.length < share * CHOICE) corners = cornersOf(level.grey, contrast);
    for (const corner of strongest(corners, level.grey, share)) found.push({ ...corner, level: i });
  });
  const count = Math.min(most, found.length);
  const points: Keypoints = {
    ...{ width: grey.width, height: grey.height, count },
    ...{ x: new Float32Array(count), y: new Float32Array(count) },
    ...{ level: new Uint8Array(count), angle: new Uint8Array(count) },
    bits: new Uint32Array(count * WORDS),
  };
  const sums = levels.map((level) => ({ width: level.grey.width, sums: summed(level.grey) }));
  for (let i = 0; i < count; i++) {
    const { x, y, level } = found[i]!;
    const { scale, grey: at } = levels[level]!;
    const angle = directionAt(at, x, y);
    // As finely as they are kept, so that what is kept gives what is measured.
    points.x[i] = Math.round(((x + 0.5) * scale - 0.5) * 4) / 4;
    points.y[i] = Math.round(((y + 0.5) * scale - 0.5) * 4) / 4;
    points.level[i] = level;
    points.angle[i] = (Math.round((angle * 128) / Math.PI) + 256) & 255;
    describe(sums[level]!, x, y, angle, points.bits, i * WORDS);
  }
  return points;
}

/** Greys as whole numbers: the loops below are compiled for these alone. */
interface Plain {
  width: number;
  height: number;
  data: Uint8Array;
}

interface Level {
  grey: Plain;
  scale: number;
}

function levelsOf(grey: Grey): Level[] {
  const levels: Level[] = [];
  const first = new Uint8Array(grey.width * grey.height);
  for (let i = 0; i < first.length; i++) first[i] = grey.data[i]! + 0.5;
  let last: Plain = { width: grey.width, height: grey.height, data: first };
  for (let i = 0; i < SIZES; i++) {
    const scale = STEP ** i;
    const [width, height] = [Math.round(grey.width / scale), Math.round(grey.height / scale)];
    if (Math.min(width, height) < 4 * RADIUS) break;
    if (i > 0) last = between(last, width, height);
    levels.push({ scale, grey: last });
  }
  return levels;
}

/** The picture a little smaller, with the greys between pixels by distance (bilinear). */
function between({ width, height, data }: Plain, toWidth: number, toHeight: number): Plain {
  const out = new Uint8Array(toWidth * toHeight);
  const [stepX, stepY] = [width / toWidth, height / toHeight];
  for (let y = 0; y < toHeight; y++) {
    const fy = Math.max(0, Math.min(height - 1.001, (y + 0.5) * stepY - 0.5));
    const y0 = Math.floor(fy);
    const ry = fy - y0;
    for (let x = 0; x < toWidth; x++) {
      const fx = Math.max(0, Math.min(width - 1.001, (x + 0.5) * stepX - 0.5));
      const x0 = Math.floor(fx);
      const rx = fx - x0;
      const at = y0 * width + x0;
      const high = data[at]! + (data[at + 1]! - data[at]!) * rx;
      const low = data[at + width]! + (data[at + width + 1]! - data[at + width]!) * rx;
      out[y * toWidth + x] = high + (low - high) * ry + 0.5;
    }
  }
  return { width: toWidth, height: toHeight, data: out };
}

interface Corner {
  x: number;
  y: number;
  strength: number;
  level: number;
}

/** By 16 bits around a ring: whether `ARC` of them, side by side, are set. */
const HAS_ARC = Uint8Array.from({ length: 1 << 16 }, (_, ring) => {
  const twice = ring | (ring << 16);
  for (let i = 0; i < 16; i++) if (((twice >>> i) & ((1 << ARC) - 1)) === (1 << ARC) - 1) return 1;
  return 0;
});

/** Places of corners, each as `y * width + x`. */
function cornersOf({ width, height, data }: Plain, contrast: number): number[] {
  const corners: number[] = [];
  const ring = Int32Array.from(RING, ([x, y]) => y * width + x);
  const [north, east, south, west] = [ring[0]!, ring[4]!, ring[8]!, ring[12]!];
  const edge = RADIUS + 3;
  for (let y = edge; y < height - edge; y++)
    for (let at = y * width + edge; at < (y + 1) * width - edge; at++) {
      const high = data[at]! + contrast;
      const low = data[at]! - contrast;
      const n = data[at + north]!;
      const s = data[at + south]!;
      // Nine side by side hold one end of each diameter.
      const bright = n > high || s > high;
      const dark = n < low || s < low;
      if (!bright && !dark) continue;
      const e = data[at + east]!;
      const w = data[at + west]!;
      if (!(bright && (e > high || w > high)) && !(dark && (e < low || w < low))) continue;
      let up = 0;
      let down = 0;
      for (let i = 0; i < 16; i++) {
        const value = data[at + ring[i]!]!;
        if (value > high) up |= 1 << i;
        else if (value < low) down |= 1 << i;
      }
      if (HAS_ARC[up]! | HAS_ARC[down]!) corners.push(at);
    }
  return corners;
}

/** The strongest corners of each cell in turn, none beside a stronger one. */
function strongest(corners: readonly number[], grey: Plain, most: number): Corner[] {
  const { width, height } = grey;
  const strength = new Float32Array(width * height);
  for (const at of corners) strength[at] = Math.max(1e-6, harrisAt(grey, at));
  const cells = new Map<number, Corner[]>();
  for (const at of corners) {
    const y = Math.floor(at / width);
    const x = at - y * width;
    const own = strength[at]!;
    let isPeak = true;
    for (let dy = -2; dy <= 2 && isPeak; dy++)
      for (let dx = -2; dx <= 2 && isPeak; dx++) {
        const other = strength[(y + dy) * width + x + dx]!;
        // Of two that are equal the first in reading order stays.
        if (other > own || (other === own && (dy < 0 || (dy === 0 && dx < 0)))) isPeak = false;
      }
    if (!isPeak) continue;
    const cell = Math.floor((y * CELLS) / height) * CELLS + Math.floor((x * CELLS) / width);
    const ofCell = cells.get(cell) ?? [];
    ofCell.push({ x, y, strength: own, level: 0 });
    cells.set(cell, ofCell);
  }
  const ranked: { corner: Corner; rank: number }[] = [];
  for (const ofCell of cells.values())
    ofCell
      .sort((a, b) => b.strength - a.strength || a.y - b.y || a.x - b.x)
      .forEach((corner, rank) => ranked.push({ corner, rank }));
  const byRank = (a: { corner: Corner; rank: number }, b: { corner: Corner; rank: number }) =>
    a.rank - b.rank ||
    b.corner.strength - a.corner.strength ||
    a.corner.y - b.corner.y ||
    a.corner.x - b.corner.x;
  return ranked
    .sort(byRank)
    .slice(0, most)
    .map(({ corner }) => corner);
}

/** How much of a corner, rather than an edge: of 5 × 5 gradients. */
function harrisAt({ width, data }: Plain, middle: number): number {
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (let dy = -2; dy <= 2; dy++)
    for (let at = middle + dy * width - 2, end = at + 5; at < end; at++) {
      const gx = data[at + 1]! - data[at - 1]!;
      const gy = data[at + width]! - data[at - width]!;
      xx += gx * gx;
      yy += gy * gy;
      xy += gx * gy;
    }
  return xx * yy - xy * xy - 0.04 * (xx + yy) ** 2;
}

/** For each row of the disc, how far it goes to each side. */
const DISC = Array.from({ length: RADIUS + 1 }, (_, y) => Math.floor(Math.sqrt(RADIUS * RADIUS - y * y)));

/** The direction from a place to the centroid of the greys around it (Rosin 1999). */
function directionAt({ width, data }: Plain, x: number, y: number): number {
  let [mx, my] = [0, 0];
  for (let dy = -RADIUS; dy <= RADIUS; dy++) {
    const reach = DISC[Math.abs(dy)]!;
    const row = (y + dy) * width + x;
    for (let dx = -reach; dx <= reach; dx++) {
      const value = data[row + dx]!;
      mx += dx * value;
      my += dy * value;
    }
  }
  return Math.atan2(my, mx);
}

/** Sums of all greys above and to the left, one row and column more than the picture (Crow 1984). */
function summed({ width, height, data }: Plain): Int32Array {
  const sums = new Int32Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    const above = y * (width + 1) + 1;
    const own = above + width + 1;
    for (let x = 0; x < width; x++) {
      row += data[y * width + x]!;
      sums[own + x] = sums[above + x]! + row;
    }
  }
  return sums;
}

/** Pixels of a square that is compared: single pixels of grain decide nothing. */
const PATCH = 5;

function describe(
  { width, sums }: { width: number; sums: Int32Array },
  x: number,
  y: number,
  angle: number,
  into: Uint32Array,
  from: number,
): void {
  const turn = ((Math.round((angle * TURNS) / (2 * Math.PI)) % TURNS) + TURNS) % TURNS;
  const pattern = PATTERN[turn]!;
  const row = width + 1;
  const at = (y - (PATCH >> 1)) * row + x - (PATCH >> 1);
  for (let word = 0; word < WORDS; word++) {
    let bits = 0;
    for (let bit = 0; bit < 32; bit++) {
      const i = (word * 32 + bit) * 4;
      const a = at + pattern[i + 1]! * row + pattern[i]!;
      const b = at + pattern[i + 3]! * row + pattern[i + 2]!;
      const low = PATCH * row;
      const first = sums[a + low + PATCH]! - sums[a + low]! - sums[a + PATCH]! + sums[a]!;
      const second = sums[b + low + PATCH]! - sums[b + low]! - sums[b + PATCH]! + sums[b]!;
      if (first < second) bits |= 1 << bit;
    }
    into[from + word] = bits >>> 0;
  }
}

function turnedPattern(): Int8Array[] {
  // Numbers that look like chance and are the same each time (Park and Miller 1988), twelve added up: close to Gauss.
  let state = 20311;
  const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const gauss = () => Array.from({ length: 12 }, random).reduce((a, b) => a + b, -6);
  const inside = (): [number, number] => {
    for (;;) {
      // A fifth of the patch, as BRIEF found best.
      const [x, y] = [(gauss() * (2 * RADIUS)) / 5, (gauss() * (2 * RADIUS)) / 5];
      // The corner of a turned square and the smoothing's edge stay inside of what was read.
      if (Math.hypot(x, y) < RADIUS - 0.5) return [x, y];
    }
  };
  const pairs = Array.from({ length: 32 * WORDS }, () => [...inside(), ...inside()]);
  return Array.from({ length: TURNS }, (_, turn) => {
    const angle = (2 * Math.PI * turn) / TURNS;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    return Int8Array.from(
      pairs.flatMap(([ax, ay, bx, by]) =>
        [
          [ax!, ay!],
          [bx!, by!],
        ].flatMap(([x, y]) => [Math.round(c * x! - s * y!), Math.round(s * x! + c * y!)]),
      ),
    );
  });
}
