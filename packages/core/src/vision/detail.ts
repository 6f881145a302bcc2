import { between, resized, type Grey } from './grey';
import { FEW, pixelsApart } from './likeness';
import { LOOK_SIDE, type Look } from './look';
import { commonOf, type Way } from './matching';

const { abs, floor, hypot, max, min, round } = Math;

/** Pixels a side of the blocks whose detail is compared each by itself: what a tone curve does to one of them is close to a straight line. */
const BLOCK = 8;
/** Of greys, squared: detail that is weaker tells nothing, as coding makes as much of none. */
const NOISE = 4;
/**
 * Pixels of the longer side at which the way is looked for, and at which it is told how much detail is found by it; and how often it is made more
 * exact at most: the last times move nothing that is seen.
 */
const [ROUGHLY, EXACTLY] = [
  { side: 120, rounds: 12 },
  { side: 240, rounds: 6 },
];
/** Pixels: a way that moves by less is exact. */
const STILL = 0.01;
/** Greys: places that differ by more count less and less, as somebody who moved says nothing of the way (Cauchy's weight). */
const SCATTER = 10;

/** A picture as it is looked into closely. */
export interface Detailed {
  look: Look;
  /** upright, {@link DETAILED_SIDE} pixels on its longer side, or as many as it has */
  grey: Grey;
}

/** One of several pictures beside a part or copy of one of them. */
export interface Original {
  nth: number;
  /** 0 … 2: how little of its detail is found there; see {@link SURELY} */
  apart: number;
}

/**
 * What is less apart surely shows the same. Of 141 open pictures, made small, toned hard, sharpened, or cut to 0.6, half and 0.4 of their sides,
 * each is less than 0.5 from nearly all of its copies to which the way is found; pairs of unrelated ones are 0.7 apart and more.
 */
export const SURELY = 0.5;

/**
 * In which of some pictures most of the detail of a part or copy of one is found: all of them, the nearest first. Of frames of a burst that is the
 * one that the copy was made from: it has its grain, its light, and everybody stands where they stood. Measured on 16 of 95 frames of a dozen scenes,
 * made small, toned, grey, or cut to 0.6 and half of their sides: 78 of 80 were told, by the pixels of looks 54 (docs/grouping.md).
 */
export function byDetail(of: Detailed, among: readonly Detailed[]): Original[] {
  const a = fitted(of.grey, ROUGHLY.side);
  const tried = among.map(({ look, grey }) =>
    nearest(waysTo(of.look, look).map((way) => laid(a, grey, way, ROUGHLY.rounds))),
  );
  const best = tried[bestOf(tried)];
  if (!best) return [];
  // Frames from one tripod lie alike: what led to the best leads to those whose own way was not found, too.
  const roughly = tried.map((its, i) =>
    its.apart < best.apart + ASTRAY ? its : nearest([its, laid(a, among[i]!.grey, best.way, ROUGHLY.rounds)]),
  );
  const most = roughly[bestOf(roughly)]!.apart + ASTRAY;
  const detail = fitted(of.grey, EXACTLY.side);
  const exactly = roughly.map((its, i) =>
    its.apart > most ? its : laid(detail, among[i]!.grey, its.way, EXACTLY.rounds),
  );
  const lit = among.map(({ look }) => min(TONED, pixelsApart(of.look, look)) * ITS_LIGHT);
  return exactly
    .map(({ apart }, nth) => ({ nth, apart }))
    .sort((one, other) => one.apart + lit[one.nth]! - other.apart - lit[other.nth]!);
}

/**
 * Which of some pictures one surely is of, as its number; −1: that is for somebody to say. `told`: all that it may be of, as {@link byDetail} gives them.
 * The next one must lack twice as much, or clearly more: of frames in which nobody moved none is told so, nor where the one itself is not among them.
 */
export function surelyOf([first, second]: readonly Original[]): number {
  if (!first || first.apart > SURELY) return -1;
  return !second || second.apart >= min(2 * first.apart, first.apart + CLEARLY) ? first.nth : -1;
}

/** A choice: half of what stands between hard toned copies (0.3) and unrelated pictures (0.7). */
const CLEARLY = 0.2;

/**
 * What the light of a picture says beside its detail, of which hard coding leaves little: of several frames whose detail is as good as one, the copy
 * was made from the one that is as bright and as coloured. It says nothing beyond some greys, where somebody toned it.
 */
const [TONED, ITS_LIGHT] = [5, 0.01];

/** So much further apart than the nearest it is another picture, or its way was not found: frames of one burst are within 0.05, what lies beside 0.4 and more. */
const ASTRAY = 0.15;
/** Pixels of the longer side from which what is looked at {@link EXACTLY} can be had of a part: one of three eighths of its side. */
export const DETAILED_SIDE = 640;

/** How a picture lies in another, in shares of their longer sides, and what that leaves of its detail. */
interface Laid {
  way: Way;
  apart: number;
}

const bestOf = (all: readonly Laid[]): number =>
  all.reduce((best, { apart }, i) => (best >= 0 && all[best]!.apart <= apart ? best : i), -1);

const nearest = (all: readonly Laid[]): Laid => all[bestOf(all)]!;

/** Ways that may lead from one to the other, in shares of their longer sides: that of their keypoints, and, where these are few, as both lie. */
function waysTo(a: Look, b: Look): Way[] {
  const { way, inliers } = commonOf(a.points, b.points);
  const asTheyLie = { a: 1, b: 0, dx: 0, dy: 0 };
  if (way === null) return [asTheyLie];
  const its = { ...way, dx: way.dx / LOOK_SIDE, dy: way.dy / LOOK_SIDE };
  return inliers < FEW ? [its, asTheyLie] : [its];
}

/**
 * Lays the second over the first, at the first's size. The way between the two is made exact, to fractions of a pixel (Lucas and Kanade 1981,
 * over a turn, a change of size, a shift, and a straight line through the greys); then each block's greys are correlated. `apart`: 0, all of
 * the first's detail is found in the second; 1, none.
 */
function laid(a: Grey, whole: Grey, from: Way, rounds: number): Laid {
  const b = fitted(whole, longer(a) / hypot(from.a, from.b));
  const second = longer(b);
  const by = second / longer(a);
  const start = { a: from.a * by, b: from.b * by, dx: from.dx * second, dy: from.dy * second };
  const { way, its } = exact(a, b, start, rounds);
  return {
    way: { a: way.a / by, b: way.b / by, dx: way.dx / second, dy: way.dy / second },
    apart: blocksApart(a, its),
  };
}

const longer = ({ width, height }: Grey): number => max(width, height);

/** The picture with a longer side of so many pixels at most. */
function fitted(grey: Grey, side: number): Grey {
  const by = side / longer(grey);
  const size = (pixels: number) => max(1, round(pixels * by));
  return by < 1 ? resized(grey, size(grey.width), size(grey.height)) : grey;
}

/** The second's greys where the first's are; NaN where it shows nothing. */
function over(a: Grey, b: Grey, way: Way): Float32Array {
  const out = new Float32Array(a.width * a.height).fill(NaN);
  const { width, height, data } = b;
  for (let y = 0, i = 0; y < a.height; y++)
    for (let x = 0; x < a.width; x++, i++) {
      const bx = way.a * (x + 0.5) - way.b * (y + 0.5) + way.dx - 0.5;
      const by = way.b * (x + 0.5) + way.a * (y + 0.5) + way.dy - 0.5;
      // Half a pixel beyond the middle of the outermost ones is still theirs.
      if (bx < -0.5 || by < -0.5 || bx > width - 0.5 || by > height - 0.5) continue;
      const x0 = min(width - 2, max(0, floor(bx)));
      const y0 = min(height - 2, max(0, floor(by)));
      const rx = min(1, max(0, bx - x0));
      const ry = min(1, max(0, by - y0));
      out[i] = between(data, y0 * width + x0, width, rx, ry);
    }
  return out;
}

/** Numbers that a round finds: how much larger, turned, further across and down, brighter by a factor and by a sum. */
const UNKNOWN = 6;

/** The way by which the second's greys lie closest over the first's, from one that is nearly right, and what lies there; that one where there is too little to tell. */
function exact(a: Grey, b: Grey, from: Way, rounds: number): { way: Way; its: Float32Array } {
  let its = over(a, b, from);
  const same = { way: from, its };
  if (min(a.width, a.height, b.width, b.height) < 2 * BLOCK) return same;
  let way = from;
  let [slope, offset] = [1, 0];
  const [cx, cy, reach] = [a.width / 2, a.height / 2, max(a.width, a.height) / 2];
  for (let round = 0; round < rounds; round++) {
    const normal = new Float64Array(UNKNOWN * UNKNOWN);
    const right = new Float64Array(UNKNOWN);
    const by = new Float64Array(UNKNOWN);
    for (let y = 1; y < a.height - 1; y++)
      for (let x = 1; x < a.width - 1; x++) {
        const i = y * a.width + x;
        const gx = ((its[i + 1]! - its[i - 1]!) / 2) * slope;
        const gy = ((its[i + a.width]! - its[i - a.width]!) / 2) * slope;
        // Beside what the second does not show there is no gradient.
        if (gx !== gx || gy !== gy || its[i]! !== its[i]!) continue;
        const [px, py] = [(x + 0.5 - cx) / reach, (y + 0.5 - cy) / reach];
        const off = a.data[i]! - slope * its[i]! - offset;
        const weight = 1 / (1 + (off / SCATTER) ** 2);
        by[0] = gx * px + gy * py;
        by[1] = gy * px - gx * py;
        by[2] = gx;
        by[3] = gy;
        by[4] = its[i]!;
        by[5] = 1;
        for (let m = 0; m < UNKNOWN; m++) {
          right[m]! += weight * by[m]! * off;
          for (let n = 0; n <= m; n++) normal[m * UNKNOWN + n]! += weight * by[m]! * by[n]!;
        }
      }
    const found = solved(normal, right);
    if (found === null) return same;
    const [larger, turned, across, down] = [found[0]! / reach, found[1]! / reach, found[2]!, found[3]!];
    slope += found[4]!;
    offset += found[5]!;
    // What was found moves the first's pixels about its middle; the way leads on from there.
    const dx = across - larger * cx + turned * cy;
    const dy = down - turned * cx - larger * cy;
    way = {
      a: way.a * (1 + larger) - way.b * turned,
      b: way.b * (1 + larger) + way.a * turned,
      dx: way.a * dx - way.b * dy + way.dx,
      dy: way.b * dx + way.a * dy + way.dy,
    };
    its = over(a, b, way);
    if (hypot(across, down) + hypot(larger, turned) * reach < STILL) break;
  }
  return { way, its };
}

/** Solves a symmetric system of equations by its lower half (Cholesky); null: it has no one solution. */
function solved(normal: Float64Array, right: Float64Array): Float64Array | null {
  const n = right.length;
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = normal[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= normal[i * n + k]! * normal[j * n + k]!;
      if (i > j) normal[i * n + j] = sum / normal[j * n + j]!;
      else if (sum <= 1e-9 * abs(normal[i * n + i]!)) return null;
      else normal[i * n + i] = sum ** 0.5;
    }
  const out = Float64Array.from(right);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) out[i]! -= normal[i * n + k]! * out[k]!;
    out[i]! /= normal[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) out[i]! -= normal[k * n + i]! * out[k]!;
    out[i]! /= normal[i * n + i]!;
  }
  return out;
}

/**
 * What the blocks of the first lack on average in what lies over it: 0 … 2; by their contrast and structure (Wang, Bovik, Sheikh and Simoncelli
 * 2004). Exposure and tones take little away, what is not shown all that there is. Blocks count by the detail that either has: a white ground
 * that two pictures have says nothing of what stands before it. 1 where there is none.
 */
function blocksApart(a: Grey, its: Float32Array): number {
  const pixels = BLOCK * BLOCK;
  const noise = NOISE * pixels;
  let [weights, lacking] = [0, 0];
  for (let top = 0; top + BLOCK <= a.height; top += BLOCK)
    for (let left = 0; left + BLOCK <= a.width; left += BLOCK) {
      let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
      for (let y = top; y < top + BLOCK; y++)
        for (let i = y * a.width + left; i < y * a.width + left + BLOCK; i++) {
          const [one, other] = [a.data[i]!, its[i]!];
          sa += one;
          sb += other;
          saa += one * one;
          sbb += other * other;
          sab += one * other;
        }
      const own = saa - (sa * sa) / pixels;
      const spread = own + sbb - (sb * sb) / pixels;
      // A block with a pixel that the second does not show: not a number.
      const seen = spread === spread;
      const weight = seen ? spread / (spread + noise) : own / (own + noise);
      weights += weight;
      lacking += weight * (seen ? 1 - (2 * (sab - (sa * sb) / pixels) + noise) / (spread + noise) : 1);
    }
  return weights < LEAST ? 1 : lacking / weights;
}

/** Blocks with detail, a choice: what has fewer is a sky, and no picture in particular. */
const LEAST = 4;
