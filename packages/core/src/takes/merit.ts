import { adviceOf, type Measures } from '../vision/measures';
import type { TakeKind } from './correction';

/** A frame among those of its take. */
export interface JudgedFrame {
  id: string;
  /** null: not measured yet */
  measures: Measures | null;
}

/** What is said of a frame beside the others of its take. It is advice: nothing is marked by it. */
export interface Merit {
  /** from 1, the best, which several may share; null: there is no order (a bracket, a panorama, variants, a frame alone or not measured) */
  place: number | null;
  /** how sharp it is beside the sharpest, in doublings below it; null: not to be told */
  softer: number | null;
  /** what tells it from the others, the weightiest first; empty: nothing */
  words: readonly string[];
}

/** Doublings below the sharpest from which it is said: a fifth less fine, which is seen side by side at 100 %. */
const SOFTER = 0.3;
/** … from which little is left in focus: three pixels of blur in 2,560, or more. */
const OUT_OF_FOCUS = 1.3;
/** Doublings by which edges are softer one way than in the sharpest frame, from which a hand or the subject moved. */
const SHAKEN = 0.6;
/** How far another spot is sharpest, as a share of the side, from which the focus lay elsewhere: more than a subject moves in a burst. */
const ELSEWHERE = 0.3;
/** More of the picture is blown than in the frame with the least: half a hundredth is a cheek in a portrait. */
const BLOWN = 0.005;
/** Stops beside the take's middle: a third is the least step of a camera. */
const STOPS = 0.3;
/** How far its colour is beside the take's, in hundredths of its luma: lamps that flicker make four and more. */
const CAST = 3;
/** Degrees more off level than the frame of the take that is the least. */
const TILT = 0.8;

/**
 * What things cost, in doublings of sharpness, by which frames are put in order. A choice: one that is half as sharp is as bad as one
 * of which five hundredths more are blown, or one that is two stops off.
 */
const COST = { softer: 1, blown: 20, stops: 0.5, cast: 0.05, tilt: 0.1 };
const MOST_BLOWN = 1.5;
/** Costs that are this near share a place: a tenth less fine is seen by nobody. */
const SAME = 0.15;

interface Said {
  words: string;
  cost: number;
}

/**
 * The frames of a take beside each other, in the order given. In a bracket exposure differs on purpose, in variants all else, in a
 * panorama what is seen: there no frame is better than another, and only sharpness is told, or nothing.
 */
export function meritsOf(frames: readonly JudgedFrame[], kind: TakeKind | null): Map<string, Merit> {
  const known = frames.flatMap(({ id, measures }) => (measures ? [{ id, measures }] : []));
  const merits = new Map<string, Merit>(
    frames.map(({ id }) => [id, { place: null, softer: null, words: [] }]),
  );
  if (frames.length < 2 || kind === 'panorama' || kind === 'variant') {
    for (const { id, measures } of known)
      merits.set(id, {
        place: null,
        softer: null,
        words: adviceOf(measures).map((one) => ALONE[one] ?? one),
      });
    return merits;
  }
  const ordered = kind !== 'bracket' && known.length > 1;
  const beside = besideOf(known.map(({ measures }) => measures));
  const judged = known.map(({ id, measures }, n) => {
    const said = [...focusOf(measures, beside), ...(kind === 'bracket' ? [] : lightSaid(measures, beside))];
    said.sort((a, b) => b.cost - a.cost);
    return { id, n, measures, said, cost: said.reduce((sum, { cost }) => sum + cost, 0) };
  });
  judged.sort((a, b) => a.cost - b.cost || a.n - b.n);
  judged.forEach(({ id, measures, said, cost }) => {
    const better = judged.filter((other) => other.cost < cost - SAME).length;
    const softer = softerOf(measures, beside);
    const best = measures === beside.sharpest ? ['sharpest'] : [];
    const told = said.filter(({ words }) => words !== '').map(({ words }) => words);
    merits.set(id, { place: ordered ? better + 1 : null, softer, words: [...best, ...told] });
  });
  return merits;
}

/** What single words mean where there is nothing to compare with. */
const ALONE: Readonly<Record<string, string>> = {
  soft: 'soft: nothing is in focus',
  tilted: 'the horizon is tilted',
};

/** What frames of a take are held against. */
interface Beside {
  sharpest: Measures | null;
  blown: number;
  level: number;
  blue: number;
  red: number;
  tilt: number | null;
}

function besideOf(all: readonly Measures[]): Beside {
  const sharp = all.filter(({ sharp: its }) => its !== null);
  const tilts = all.flatMap(({ tilt }) => (tilt === null ? [] : Math.abs(tilt)));
  return {
    sharpest: sharp.reduce<Measures | null>((a, b) => (a && a.sharp! >= b.sharp! ? a : b), null),
    blown: Math.min(...all.map(({ blown }) => blown)),
    level: middle(all.map(({ level }) => level)),
    blue: middle(all.map(({ blue }) => blue)),
    red: middle(all.map(({ red }) => red)),
    tilt: tilts.length > 0 ? Math.min(...tilts) : null,
  };
}

const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[(values.length - 1) >> 1] ?? 0;

function softerOf({ sharp }: Measures, { sharpest }: Beside): number | null {
  if (sharp === null || !sharpest) return null;
  return Math.max(0, Math.log2(sharpest.sharp! / Math.max(0.1, sharp)));
}

function focusOf(measures: Measures, beside: Beside): Said[] {
  const softer = softerOf(measures, beside);
  if (softer === null) return [];
  const cost = COST.softer * softer;
  if (softer < SOFTER) return [{ words: '', cost }];
  const { sharpest } = beside;
  const shake = shakeBeside(measures, sharpest!);
  if (shake.strength >= SHAKEN) return [{ words: `shaken ${wayWords(shake.angle)}`, cost }];
  const away = Math.hypot(measures.x - sharpest!.x, measures.y - sharpest!.y);
  if (softer < OUT_OF_FOCUS && away >= ELSEWHERE)
    return [{ words: `softer, its focus ${placeWords(measures)}`, cost }];
  return [{ words: softer < OUT_OF_FOCUS ? 'softer' : 'out of focus', cost }];
}

/** How much more it is shaken than another: both are axes, so they are taken apart at twice their angles. */
function shakeBeside(own: Measures, other: Measures): { strength: number; angle: number } {
  const at = ({ shake: { strength, angle } }: Measures) => {
    const twice = (angle * Math.PI) / 90;
    return [strength * Math.cos(twice), strength * Math.sin(twice)] as const;
  };
  const [ax, ay] = at(own);
  const [bx, by] = at(other);
  const angle = (Math.atan2(ay - by, ax - bx) * 90) / Math.PI;
  return { strength: Math.hypot(ax - bx, ay - by), angle: (angle + 180) % 180 };
}

function wayWords(angle: number): string {
  if (angle < 22.5 || angle > 157.5) return 'sideways';
  return angle > 67.5 && angle < 112.5 ? 'up and down' : 'slantwise';
}

function lightSaid(own: Measures, beside: Beside): Said[] {
  const said: Said[] = [];
  const blown = own.blown - beside.blown;
  if (blown >= BLOWN)
    said.push({
      words: `${blown < 0.0095 ? 'a little' : `${Math.round(blown * 100)} %`} more is blown`,
      cost: Math.min(MOST_BLOWN, COST.blown * blown),
    });
  const stops = own.level - beside.level;
  if (Math.abs(stops) >= STOPS)
    said.push({
      words: `${Math.abs(stops).toFixed(1)} stops ${stops < 0 ? 'darker' : 'brighter'}`,
      cost: COST.stops * Math.abs(stops),
    });
  const [blue, red] = [own.blue - beside.blue, own.red - beside.red];
  const cast = Math.hypot(blue, red);
  if (cast >= CAST) said.push({ words: castWords(blue, red), cost: COST.cast * cast });
  if (own.tilt !== null && beside.tilt !== null) {
    const more = Math.abs(own.tilt) - beside.tilt;
    if (more >= TILT)
      said.push({ words: `tilted ${Math.abs(own.tilt).toFixed(1)}°`, cost: COST.tilt * more });
  }
  return said;
}

/** Which way a colour goes on the plane of both colour differences, in six sectors. */
function castWords(blue: number, red: number): string {
  const angle = ((Math.atan2(red, blue) * 180) / Math.PI + 360) % 360;
  // Blue lies at −9°, purple at 52°, red at 109°, yellow at 171°, green at 232°, cyan at 289°.
  const sector = Math.floor(((angle + 40) % 360) / 60);
  return ['bluer', 'more purple', 'redder', 'yellower', 'greener', 'more cyan'][sector]!;
}

/** Where a spot lies, in words: ninths of the picture. */
function placeWords({ x, y }: Pick<Measures, 'x' | 'y'>): string {
  const row = ['upper ', '', 'lower '][third(y)]!;
  const column = ['left', '', 'right'][third(x)]!;
  if (row === '' && column === '') return 'in the middle';
  if (column === '') return row === 'upper ' ? 'at the top' : 'at the bottom';
  return `at the ${row}${column}`;
}

const third = (share: number): number => Math.min(2, Math.max(0, Math.floor(share * 3)));
