import { between } from './grey';
import { LOOK_SIDE, SMALL_SIDE, type Look, type Small } from './look';
import { commonOf, type Way } from './matching';
import { hashDistance } from './hashes';

const { abs, floor, hypot, max, min } = Math;

/** What two pictures have in common, and what not. */
export interface Likeness {
  /** bits of 64 that differ, of the hash that differs less */
  hash: number;
  /** keypoints that agree on one way from one to the other */
  inliers: number;
  /** share of the first that the second shows as well, once it lies over it */
  overlap: number;
  /** share of that where the two are not the same, the middle counting more */
  changed: number;
  /** 0 … 1: how far the colours of what changed are apart: 0, the same things elsewhere; 1, other things */
  other: number;
  /** 0 … 1: how far the colours of what both show are apart */
  colour: number;
  /** where the first's middle lies in the second, as shares of its width and height beside the middle; with the change of size */
  dx: number;
  dy: number;
  scale: number;
}

/** Keypoints that must agree before one picture is laid over the other by them: unrelated ones have at most three. */
export const FEW = 10;
/** Pixels that both must show, of some 2,700, before anything is said of them. */
const LEAST_COMMON = 60;
/** Steps of luma and colour, added up, from which a place is not the same: twice what grain and focus make of one. */
const CHANGED = 24;

/**
 * What two pictures have in common. Where enough keypoints agree, the second is laid over the first, so that the
 * background, which is the same for all speakers at one desk, tells nothing any more: what counts is whether the rest agrees.
 * What differs there may be the same subject that moved (its colours are found again, at another place) or another one.
 * Exposure is taken out by a straight line through the greys of both.
 */
export function likenessOf(a: Look, b: Look): Likeness {
  const { way: used, laid, inliers } = wayBetween(a, b);
  const hash = min(hashDistance(a.dct, b.dct), hashDistance(a.difference, b.difference));
  const { width, height } = a.small;
  const [mx, my] = [width / 2, height / 2];
  return {
    ...{ hash, inliers, scale: hypot(used.a, used.b) },
    dx: (used.a * mx - used.b * my + used.dx) / b.small.width - 0.5,
    dy: (used.b * mx + used.a * my + used.dy) / b.small.height - 0.5,
    ...leftOver(a.small, laidOver(a.small, b.small, used), laid ? null : liftOf(b.small) / liftOf(a.small)),
  };
}

/**
 * How far apart the pixels of two pictures are where both show the same, as the mean of luma and colours, 0 … 255 each, added up; nothing is
 * taken out for exposure, as {@link likenessOf} does. Of two frames of one scene the one that a copy was made from is nearer.
 */
export function pixelsApart(a: Look, b: Look): number {
  const over = laidOver(a.small, b.small, wayBetween(a, b).way);
  let [sum, common] = [0, 0];
  for (let i = 0; i < a.small.luma.length; i++) {
    if (over[i * 3]! < 0) continue;
    common += 1;
    sum +=
      abs(a.small.luma[i]! - over[i * 3]!) +
      abs(a.small.blue[i]! - over[i * 3 + 1]!) +
      abs(a.small.red[i]! - over[i * 3 + 2]!);
  }
  return common < LEAST_COMMON ? Infinity : sum / common;
}

/** The way by which the second is laid over the first, in pixels of the small pictures; where too few keypoints agree, as both lie (`laid` says so). */
function wayBetween(a: Look, b: Look): { way: Way; laid: boolean; inliers: number } {
  const { way, inliers } = commonOf(a.points, b.points);
  if (way === null || inliers < FEW) return { way: { a: 1, b: 0, dx: 0, dy: 0 }, laid: false, inliers };
  const far = SMALL_SIDE / LOOK_SIDE;
  return { way: { ...way, dx: way.dx * far, dy: way.dy * far }, laid: true, inliers };
}

/** The second's pixels where the first's are: three values a pixel; −1 where it shows nothing. */
function laidOver(a: Small, b: Small, way: Way): Float32Array {
  const over = new Float32Array(a.width * a.height * 3).fill(-1);
  for (let y = 0; y < a.height; y++)
    for (let x = 0; x < a.width; x++) {
      const bx = way.a * (x + 0.5) - way.b * (y + 0.5) + way.dx - 0.5;
      const by = way.b * (x + 0.5) + way.a * (y + 0.5) + way.dy - 0.5;
      if (bx < 0 || by < 0 || bx > b.width - 1 || by > b.height - 1) continue;
      const x0 = min(b.width - 2, floor(bx));
      const y0 = min(b.height - 2, floor(by));
      if (x0 < 0 || y0 < 0) continue;
      const rx = bx - x0;
      const ry = by - y0;
      const at = y0 * b.width + x0;
      const i = (y * a.width + x) * 3;
      over[i] = between(b.luma, at, b.width, rx, ry);
      over[i + 1] = between(b.blue, at, b.width, rx, ry);
      over[i + 2] = between(b.red, at, b.width, rx, ry);
    }
  return over;
}

function leftOver(
  a: Small,
  over: Float32Array,
  gain: number | null,
): Pick<Likeness, 'overlap' | 'changed' | 'other' | 'colour'> {
  const all = a.width * a.height;
  let common = 0;
  let told = 0;
  for (let i = 0; i < all; i++) {
    if (over[i * 3]! < 0) continue;
    common += 1;
    if (tells(a.luma[i]!) && tells(over[i * 3]!)) told += 1;
  }
  // What is blown or lost in the dark in one of them is passed over, where that leaves enough.
  if (told >= LEAST_COMMON)
    for (let i = 0; i < all; i++) if (!tells(a.luma[i]!) || !tells(over[i * 3]!)) over[i * 3] = -1;
  if (common < LEAST_COMMON) return { overlap: common / all, changed: 1, other: 1, colour: 1 };
  // Places that do not belong together tell nothing of exposure: then both are brought to one grey.
  const { slope, offset } = gain === null ? exposureBetween(a, over) : { slope: gain, offset: 0 };
  for (let i = 0; i < all * 3; i += 3) {
    if (over[i]! < 0) continue;
    over[i] = min(255, max(0, slope * over[i]! + offset));
    over[i + 1] = 128 + (over[i + 1]! - 128) * slope;
    over[i + 2] = 128 + (over[i + 2]! - 128) * slope;
  }
  const lift = liftOf(a);
  const [firstAll, secondAll] = [new Float32Array(BINS), new Float32Array(BINS)];
  const [firstChanged, secondChanged] = [new Float32Array(BINS), new Float32Array(BINS)];
  let changed = 0;
  let weight = 0;
  for (let y = 0; y < a.height; y++)
    for (let x = 0; x < a.width; x++) {
      const i = y * a.width + x;
      if (over[i * 3]! < 0) continue;
      put(firstAll, a.luma[i]!, a.blue[i]!, a.red[i]!, lift);
      put(secondAll, over[i * 3]!, over[i * 3 + 1]!, over[i * 3 + 2]!, lift);
      const central = 1 - 0.75 * min(1, hypot((2 * x) / a.width - 1, (2 * y) / a.height - 1));
      weight += central;
      if (leastDifference(a, over, x, y) * lift < CHANGED) continue;
      changed += central;
      put(firstChanged, a.luma[i]!, a.blue[i]!, a.red[i]!, lift);
      put(secondChanged, over[i * 3]!, over[i * 3 + 1]!, over[i * 3 + 2]!, lift);
    }
  return {
    ...{ overlap: common / all, changed: changed / weight },
    ...{ other: apart(firstChanged, secondChanged), colour: apart(firstAll, secondAll) },
  };
}

/** Greys inside of these ends tell what there was; beyond, exposure has taken it away. */
const tells = (grey: number): boolean => grey > 1 && grey < 249;

/** How much a pixel differs from the most similar one at or beside its place: a shift of one pixel changes nothing. */
function leastDifference(a: Small, over: Float32Array, x: number, y: number): number {
  const i = y * a.width + x;
  let least = Infinity;
  for (let py = max(0, y - 1); py <= min(a.height - 1, y + 1); py++)
    for (let px = max(0, x - 1); px <= min(a.width - 1, x + 1); px++) {
      const j = (py * a.width + px) * 3;
      if (over[j]! < 0) continue;
      const difference =
        abs(a.luma[i]! - over[j]!) + abs(a.blue[i]! - over[j + 1]!) + abs(a.red[i]! - over[j + 2]!);
      if (difference < least) least = difference;
    }
  return least;
}

/** The straight line that turns the second's greys into the first's, through most of them: outliers are the subject's. */
function exposureBetween(a: Small, over: Float32Array): { slope: number; offset: number } {
  let [slope, offset, limit] = [1, 0, Infinity];
  for (let round = 0; round < 3; round++) {
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
    for (let i = 0; i < a.luma.length; i++) {
      const x = over[i * 3]!;
      const y = a.luma[i]!;
      if (x < 0 || x > 250 || y > 250 || abs(y - slope * x - offset) > limit) continue;
      n += 1;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
    }
    if (n < LEAST_COMMON / 3) break;
    const spread = sxx - (sx * sx) / n;
    // A flat picture has no slope; four stops are the most that a bracket has between two.
    slope = spread < n * 4 ? 1 : min(4, max(0.25, (sxy - (sx * sy) / n) / spread));
    offset = (sy - slope * sx) / n;
    limit = 40 / (round + 1);
  }
  return { slope, offset };
}

/** What brings a dark or bright picture to a middle grey, within bounds: what differs in the dark differs as well. */
function liftOf({ luma }: Small): number {
  let sum = 0;
  for (const grey of luma) sum += grey;
  return min(5, max(0.7, 110 / max(1, sum / luma.length)));
}

/** Five steps of luma and of both colours; a value counts in the two nearest of each, so that no edge decides. */
const STEPS = 5;
const BINS = STEPS ** 3;
/** Colours further from grey than this are alike: few pictures have any. */
const COLOURFUL = 40;

function put(into: Float32Array, luma: number, blue: number, red: number, lift: number): void {
  const l = step(luma * lift, 0, 255);
  const b = step(128 + (blue - 128) * lift, 128 - COLOURFUL, 128 + COLOURFUL);
  const r = step(128 + (red - 128) * lift, 128 - COLOURFUL, 128 + COLOURFUL);
  const fl = floor(l);
  const fb = floor(b);
  const fr = floor(r);
  for (let i = 0; i < 8; i++) {
    const dl = i & 1;
    const db = (i >> 1) & 1;
    const dr = i >> 2;
    const share = (dl ? l - fl : 1 - l + fl) * (db ? b - fb : 1 - b + fb) * (dr ? r - fr : 1 - r + fr);
    into[((fl + dl) * STEPS + fb + db) * STEPS + fr + dr]! += share;
  }
}

const step = (value: number, low: number, high: number): number =>
  min(STEPS - 1.001, max(0, ((value - low) / (high - low)) * (STEPS - 1)));

/** 0 … 1: half of what two histograms differ by; empty ones not at all. */
function apart(a: Float32Array, b: Float32Array): number {
  let [sumA, sumB] = [0, 0];
  for (let i = 0; i < BINS; i++) {
    sumA += a[i]!;
    sumB += b[i]!;
  }
  if (sumA === 0 || sumB === 0) return 0;
  let sum = 0;
  for (let i = 0; i < BINS; i++) sum += abs(a[i]! / sumA - b[i]! / sumB);
  return sum / 2;
}
