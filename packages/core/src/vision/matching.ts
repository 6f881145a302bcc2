import { bitsSet } from './hashes';
import { STEP, WORDS, type Keypoints } from './keypoints';

const { cos, hypot, sin } = Math;

/** A turn, a change of size and a shift: (x, y) → (a·x − b·y + dx, b·x + a·y + dy), in pixels. */
export interface Way {
  a: number;
  b: number;
  dx: number;
  dy: number;
}

/** What the keypoints of two pictures have in common. */
export interface Common {
  /** keypoints of the first that look like one of the second */
  matches: number;
  /** the way that most of them agree on; null: no two agree */
  way: Way | null;
  /** how many agree on it */
  inliers: number;
}

/** Bits that two keypoints may differ in and still be one; of unrelated ones 128 differ, give or take 8. */
const MOST_BITS = 72;
/** The next best differs by so much more: else the place is one of many alike (Lowe 2004). */
const RATIO = 0.85;
/** Pixels that a place may lie beside where the way leads, at about 480 pixels. */
const TOLERANCE = 6;
/** Pixels that are allowed while a way is only as sure as one keypoint's direction. */
const LOOSE = 16;
/** Changes of size beyond this are chance: what hands and zoom rings do between two frames stays within. */
const MOST_SCALE = 2.6;

/** Keypoints that look alike: each is the other's best, and no other is nearly as good. First, second, first, second … */
function matchesOf(first: Keypoints, second: Keypoints): Int32Array {
  const bestBack = new Int32Array(second.count).fill(-1);
  const distanceBack = new Int32Array(second.count).fill(1000);
  const best = new Int32Array(first.count).fill(-1);
  const a = first.bits;
  const b = second.bits;
  for (let i = 0; i < first.count; i++) {
    const at = i * WORDS;
    let nearest = 1000;
    let next = 1000;
    let which = -1;
    for (let j = 0; j < second.count; j++) {
      const to = j * WORDS;
      let distance = 0;
      for (let w = 0; w < WORDS; w++) distance += bitsSet(a[at + w]! ^ b[to + w]!);
      if (distance < nearest) {
        next = nearest;
        nearest = distance;
        which = j;
      } else if (distance < next) next = distance;
      if (distance < distanceBack[j]!) {
        distanceBack[j] = distance;
        bestBack[j] = i;
      }
    }
    if (which >= 0 && nearest <= MOST_BITS && nearest < RATIO * next) best[i] = which;
  }
  const pairs: number[] = [];
  best.forEach((j, i) => {
    if (j >= 0 && bestBack[j] === i) pairs.push(i, j);
  });
  return Int32Array.from(pairs);
}

/**
 * What two pictures have in common. Each matched pair of keypoints knows a whole way by itself, from its sizes and
 * directions: the ways that most others agree with are fitted to these (least squares) and counted anew. Chance plays no
 * part, unlike in RANSAC (Fischler and Bolles 1981), whose place this takes.
 */
export function commonOf(first: Keypoints, second: Keypoints): Common {
  const matches = matchesOf(first, second);
  const n = matches.length >> 1;
  // x, y in the first and x, y in the second, by turn.
  const places = new Float64Array(n * 4);
  for (let k = 0; k < n; k++) {
    const i = matches[2 * k]!;
    const j = matches[2 * k + 1]!;
    places.set([first.x[i]!, first.y[i]!, second.x[j]!, second.y[j]!], 4 * k);
  }
  const guesses: { way: Way; near: Int32Array }[] = [];
  for (let k = 0; k < n; k++) {
    const i = matches[2 * k]!;
    const j = matches[2 * k + 1]!;
    const scale = STEP ** (second.level[j]! - first.level[i]!);
    const angle = ((second.angle[j]! - first.angle[i]!) * Math.PI) / 128;
    const a = cos(angle) * scale;
    const b = sin(angle) * scale;
    const dx = second.x[j]! - a * first.x[i]! + b * first.y[i]!;
    const dy = second.y[j]! - b * first.x[i]! - a * first.y[i]!;
    const way = { a, b, dx, dy };
    guesses.push({ way, near: nearOf(places, way, LOOSE) });
  }
  guesses.sort((a, b) => b.near.length - a.near.length);
  let best: { way: Way | null; near: Int32Array } = { way: null, near: new Int32Array() };
  for (const guess of guesses.slice(0, TRIED)) {
    let { near }: { near: Int32Array } = guess;
    let way: Way | null = null;
    for (let round = 0; round < ROUNDS; round++) {
      const fitted = fit(places, near);
      if (fitted === null) break;
      near = nearOf(places, fitted, round === 0 ? (LOOSE + TOLERANCE) / 2 : TOLERANCE);
      way = fitted;
    }
    const scale = way ? hypot(way.a, way.b) : 0;
    const possible = scale < MOST_SCALE && scale > 1 / MOST_SCALE;
    if (way && possible && near.length > best.near.length) best = { way, near };
  }
  return { matches: n, way: best.way, inliers: best.near.length };
}

/** Ways that are followed up, and how often each is fitted anew. */
const TRIED = 8;
const ROUNDS = 4;

/** Numbers of the matches that lie where a way leads. */
function nearOf(places: Float64Array, { a, b, dx, dy }: Way, tolerance: number): Int32Array {
  const near = new Int32Array(places.length >> 2);
  const most = tolerance * tolerance;
  let count = 0;
  for (let k = 0, at = 0; at < places.length; k++, at += 4) {
    const x = places[at]!;
    const y = places[at + 1]!;
    const ex = a * x - b * y + dx - places[at + 2]!;
    const ey = b * x + a * y + dy - places[at + 3]!;
    if (ex * ex + ey * ey <= most) near[count++] = k;
  }
  return near.subarray(0, count);
}

/** The similarity that brings some matches closest together (Umeyama 1991, without mirroring); null: fewer than two places. */
function fit(places: Float64Array, which: Int32Array): Way | null {
  const n = which.length;
  if (n < 2) return null;
  let [mx, my, nx, ny] = [0, 0, 0, 0];
  for (let k = 0; k < n; k++) {
    const at = which[k]! * 4;
    mx += places[at]! / n;
    my += places[at + 1]! / n;
    nx += places[at + 2]! / n;
    ny += places[at + 3]! / n;
  }
  let [along, across, spread] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    const at = which[k]! * 4;
    const px = places[at]! - mx;
    const py = places[at + 1]! - my;
    const qx = places[at + 2]! - nx;
    const qy = places[at + 3]! - ny;
    along += px * qx + py * qy;
    across += px * qy - py * qx;
    spread += px * px + py * py;
  }
  if (spread < 1) return null;
  const a = along / spread;
  const b = across / spread;
  return { a, b, dx: nx - a * mx + b * my, dy: ny - b * mx - a * my };
}
