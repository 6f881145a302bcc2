import { halved, type Grey } from './grey';
import { tiltOf } from './horizon';
import { lightOf, type Light, type Rgb } from './light';
import { sharpestSpot, sharpnessOf, type Shake, type Sharpness } from './sharpness';

/** What is measured of a picture, as it is known with its frame. */
export interface Measures extends Omit<Light, 'drowned'> {
  /** see {@link Sharpness.sharp} */
  sharp: number | null;
  shake: Shake;
  /** where it is sharpest, as shares of width and height */
  x: number;
  y: number;
  /** see `tiltOf`; null: nothing to tell by */
  tilt: number | null;
}

/** Pixels of the longer side at which pictures are measured: see docs/grouping.md for what larger ones would bring. */
export const MEASURED_SIDE = 1280;

/** Measures of a picture's upright pixels, its greys at {@link MEASURED_SIDE} and its colours at `LOOK_SIDE`. */
export function measuresOf(grey: Grey, small: Rgb): { measures: Measures; sharpness: Sharpness } {
  const sharpness = sharpnessOf(grey);
  const { blown, white, level, brightest, blue, red } = lightOf(small);
  return {
    sharpness,
    measures: {
      ...{ sharp: sharpness.sharp, shake: sharpness.shake, ...sharpestSpot(sharpness) },
      ...{ blown, white, level, brightest, blue, red, tilt: tiltOf(halved(grey)) },
    },
  };
}

/** What stands in a text of measures, in order; a place that is not known is `-`. */
const PLACES = 12;

/** Measures as they are kept with a frame: numbers in one order, parted by spaces. */
export function measuresText(of: Measures): string {
  const numbers: readonly (readonly [number | null, number])[] = [
    [of.sharp, 1],
    [of.shake.strength, 2],
    [of.shake.angle, 0],
    [of.x, 2],
    [of.y, 2],
    [of.blown, 4],
    [of.white, 4],
    [of.level, 2],
    [of.brightest, 0],
    [of.blue, 1],
    [of.red, 1],
    [of.tilt, 1],
  ];
  return numbers
    .map(([value, digits]) => (value === null ? '-' : String(Number(value.toFixed(digits)))))
    .join(' ');
}

/** Measures of a text; null: they were not made yet, or by another maker. */
export function measuresIn(text: string | null): Measures | null {
  const numbers = text?.split(' ').map((word) => (word === '-' ? null : Number(word)));
  if (numbers?.length !== PLACES || numbers.some(Number.isNaN)) return null;
  const [sharp, strength, angle, x, y, blown, white, level, brightest, blue, red, tilt] = numbers;
  return {
    ...{ sharp: sharp!, shake: { strength: strength!, angle: angle! }, x: x!, y: y!, blown: blown! },
    ...{ white: white!, level: level!, brightest: brightest!, blue: blue!, red: red!, tilt: tilt! },
  };
}

/** What filters and orders know of a text of measures. */
export function measuredFacts(text: string | null): { sharpness: number | null; advice: string } {
  const measures = measuresIn(text);
  return measures
    ? { sharpness: measures.sharp, advice: adviceOf(measures).join('+') }
    : { sharpness: null, advice: '' };
}

/** What is said of a picture by itself. It is advice: nothing is marked by it. */
export const ADVICE = ['soft', 'shaken', 'over-exposed', 'under-exposed', 'tilted'] as const;
export type Advice = (typeof ADVICE)[number];

/** Pictures less sharp than this have nothing in focus: open scenes in focus have 25 and more, blurred by 2.6 pixels of 2,560 some 13. */
const SOFT = 17;
/** How much softer one way than across it is shaken, in doublings, and how sharp it may be: 19 of 20 that were not are below. */
const SHAKEN = 1.05;
const NOT_SHAKEN = 45;
/** The share that may be white without any drawing: lamps and the sun are less. */
const OVER = 0.05;
/** Two stops below white (0.25 of its light, as a grey): where hardly a pixel reaches that, a whole range is not used. */
const UNDER = 137;
/** Degrees that are seen. */
const TILTED = 0.8;

export function adviceOf({ sharp, shake, white, brightest, tilt }: Measures): Advice[] {
  const said: Readonly<Record<Advice, boolean>> = {
    soft: sharp !== null && sharp < SOFT,
    shaken: sharp !== null && sharp < NOT_SHAKEN && shake.strength >= SHAKEN,
    'over-exposed': white >= OVER,
    'under-exposed': brightest < UNDER,
    tilted: tilt !== null && Math.abs(tilt) >= TILTED,
  };
  return ADVICE.filter((one) => said[one]);
}
