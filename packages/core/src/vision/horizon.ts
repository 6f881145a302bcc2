import type { Grey } from './grey';

/** Degrees: who holds a camera more than this off level means it. */
const MOST = 10;
/** Degrees between the slopes that are tried; the best is refined by its neighbours. */
const STEP = 0.5;
/** Degrees that a pixel's own slope may be off its line's: that of an edge is known no better at this size. */
const LOOSE = 3;
/** Greys across an edge (times 8, as the mask sums them) from which it counts: grain stays below. */
const EDGE = 48;
/** Shares of the width that a line has to have, and how much more than the best of another slope: see docs/grouping.md. */
const LEAST = 0.3;
const CLEARLY = 1.4;
/** Degrees from which a slope is another one. */
const ANOTHER = 1.5;

const { abs, atan, ceil, cos, floor, max, min, round, sin, tan } = Math;
const radians = Math.PI / 180;

/**
 * How far a picture's longest level line is off level, in degrees, counter-clockwise, −10 … 10; null: there is no line that is
 * clearly the longest. A Hough transform (Duda and Hart 1972) of edges by their own slope, light above dark and dark above light
 * apart. Made for pictures of some 640 pixels.
 */
export function tiltOf({ width, height, data }: Grey): number | null {
  const slopes = round((2 * MOST) / STEP) + 1;
  const reach = ceil(height / 2 + (width / 2) * sin(MOST * radians)) + 2;
  const room = 2 * reach + 1;
  const counts = new Uint16Array(slopes * 2 * room);
  const tangents = Float64Array.from({ length: slopes }, (_, k) => tan((k * STEP - MOST) * radians));
  const cosines = Float64Array.from({ length: slopes }, (_, k) => cos((k * STEP - MOST) * radians));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const up = data[i - width - 1]! + 2 * data[i - width]! + data[i - width + 1]!;
      const low = data[i + width - 1]! + 2 * data[i + width]! + data[i + width + 1]!;
      const steep = low - up;
      if (abs(steep) < EDGE) continue;
      const right = data[i - width + 1]! + 2 * data[i + 1]! + data[i + width + 1]!;
      const left = data[i - width - 1]! + 2 * data[i - 1]! + data[i + width - 1]!;
      const slope = atan((left - right) / steep) / radians;
      if (abs(slope) > MOST + LOOSE) continue;
      const sign = steep > 0 ? 0 : 1;
      const last = min(slopes - 1, floor((slope + LOOSE + MOST) / STEP));
      for (let k = max(0, ceil((slope - LOOSE + MOST) / STEP)); k <= last; k++) {
        const from = round((y - height / 2 - tangents[k]! * (x - width / 2)) * cosines[k]!) + reach;
        if (from >= 0 && from < room) counts[(2 * k + sign) * room + from]! += 1;
      }
    }
  const longest = Array.from({ length: slopes }, (_, k) => {
    let most = 0;
    for (let i = 2 * k * room; i < (2 * k + 2) * room; i++) if (counts[i]! > most) most = counts[i]!;
    return most;
  });
  const best = longest.indexOf(max(...longest));
  const other = max(0, ...longest.filter((_, k) => abs(k - best) * STEP > ANOTHER));
  if (longest[best]! < LEAST * width || longest[best]! < CLEARLY * other) return null;
  // The top of the parabola through the best and its neighbours.
  const [before, own, after] = [longest[best - 1] ?? 0, longest[best]!, longest[best + 1] ?? 0];
  const bend = before - 2 * own + after;
  const shift = bend < 0 ? (before - after) / (2 * bend) : 0;
  // Rows count downwards: a line that falls to the right is off clockwise.
  return -((best + shift) * STEP - MOST);
}
