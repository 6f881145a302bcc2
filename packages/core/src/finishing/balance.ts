import { linearOf } from '../colour/srgb';
import { BY_MIRED, BY_TINT, LUMINANCE } from './tone';
import { keptNumber, type Finish } from './values';

/** Linear red, green and blue. */
export type LinearLight = readonly [number, number, number];

/** Temperature and tint by which one light looks as another: each channel of the first times the same as it takes to the second. */
function shift(from: LinearLight, to: LinearLight): { temperature: number; tint: number } {
  const log = (c: 0 | 1 | 2) => Math.log(to[c] / from[c]);
  const [red, blue] = [log(0) - log(1), log(2) - log(1)];
  const temperature = (red - blue) / (BY_MIRED.red - BY_MIRED.blue);
  return { temperature, tint: (red - BY_MIRED.red * temperature) / BY_TINT };
}

const luminance = (light: LinearLight): number => light.reduce((sum, x, c) => sum + x * LUMINANCE[c]!, 0);

/** Temperature and tint that make a spot grey which should be. Null: it is too dark or too bright to tell. */
export function balanceAt(
  spot: readonly [number, number, number],
): Pick<Finish, 'temperature' | 'tint'> | null {
  // What is clipped has lost its colour, and in the dark there is more grain than colour.
  if (spot.some((v) => v > 250) || Math.max(...spot) < 12) return null;
  const light = spot.map((v) => linearOf(Math.max(1, v) / 255)) as unknown as LinearLight;
  const { temperature, tint } = shift(light, [1, 1, 1]);
  return said({ temperature, tint });
}

/** Values as they are kept; absent where they change nothing. */
function said<K extends 'exposure' | 'temperature' | 'tint'>(values: Record<K, number>): Pick<Finish, K> {
  const found: Finish = {};
  for (const [field, value] of Object.entries<number>(values)) {
    const its = keptNumber(field as K, value);
    if (its !== null) found[field as K] = its;
  }
  return found;
}

/**
 * The light in a picture, by channel: the mean of its middle eight tenths. Which pixels these are does not change when all become
 * brighter or warmer, so two pictures of one scene are compared by the same things. Pixels as `toner` takes them.
 */
export function lightIn(pixels: Uint8Array | Uint8ClampedArray, channels: 3 | 4): LinearLight {
  return [0, 1, 2].map((c) => {
    const counts = new Uint32Array(256);
    for (let i = c; i < pixels.length; i += channels) counts[pixels[i]!]! += 1;
    const all = pixels.length / channels;
    let [below, sum, among] = [0, 0, 0];
    for (let v = 0; v < 256; v++) {
      const [from, to] = [Math.max(below, all * 0.1), Math.min(below + counts[v]!, all * 0.9)];
      if (to > from) {
        sum += (to - from) * linearOf(v / 255);
        among += to - from;
      }
      below += counts[v]!;
    }
    // A picture that is black all over has no light to compare by.
    return Math.max(1e-4, among === 0 ? 0 : sum / among);
  }) as unknown as LinearLight;
}

/**
 * Exposure, temperature and tint with which a picture looks as its lead does with its own: both compared as their files are, and the
 * lead's values added, as stops and mired add up.
 */
export function matchedTo(
  lead: LinearLight,
  leads: Finish,
  own: LinearLight,
): Pick<Finish, 'exposure' | 'temperature' | 'tint'> {
  const { temperature, tint } = shift(own, lead);
  return said({
    exposure: Math.log2(luminance(lead) / luminance(own)) + (leads.exposure ?? 0),
    temperature: temperature + (leads.temperature ?? 0),
    tint: tint + (leads.tint ?? 0),
  });
}
