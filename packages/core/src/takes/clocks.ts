import { likenessOf } from '../vision/likeness';
import type { Look, Small } from '../vision/look';
import { closeness } from './closeness';

const { abs, ceil, floor, log, max, min, round } = Math;

/** A press of the shutter, or a burst: what one body saw of one moment. */
export interface Moment {
  /** of its first frame: milliseconds since 1970 UTC, by the body's own clock as it is corrected now */
  at: number;
  /** id of a frame of it */
  id: string;
  /** of that frame; null: not made, or one too many */
  look: Look | null;
}

/** How far the second body's clock is off, by what both saw. */
export interface ClockOffset {
  /** to be added to the second body's times, milliseconds */
  millis: number;
  /** moments of both that agree in time and in what they show */
  agree: number;
  /** two frames of each such moment, the first body's and the second's */
  pairs: readonly (readonly [string, string])[];
}

/** Milliseconds from which two frames of a body are two moments: who presses anew needs more than a second. */
const PAUSE = 1500;

/** The moments of a body's frames, which are in order of time; `id` is the middle frame's: the first is missed more often. */
export function momentsOf(frames: readonly { id: string; instant: number }[]): { at: number; id: string }[] {
  const moments: { at: number; id: string }[] = [];
  for (let from = 0; from < frames.length;) {
    let end = from + 1;
    while (end < frames.length && frames[end]!.instant - frames[end - 1]!.instant < PAUSE) end += 1;
    moments.push({ at: frames[from]!.instant, id: frames[(from + end - 1) >> 1]!.id });
    from = end;
  }
  return moments;
}

/** Milliseconds of a step of the offsets that are tried, and steps to either side that count as one: two people press within a second and a half. */
const STEP = 250;
const NEAR = 6;
/** Steps around an offset that tell how much agrees there by chance: from ten seconds to two minutes to either side. */
const [RING_FROM, RING_TO] = [40, 480];
/** Offsets that are looked at; two bodies of a week have ten times fewer. */
const MOST_STEPS = 50_000_000;
/** Pictures of the other body that each is compared with: those that are most alike from afar. */
const COMPARED = 8;
/** Closeness from which two pictures of two bodies may show one moment: they stand elsewhere, and frame otherwise. */
const ALIKE = -1;
/** Moments that have to agree in what they show, the least that were told apart from chance in made pairs; see docs/grouping.md. */
const LEAST = 3;
/** How sure the best offset has to be (a logarithm of odds), and how much surer than any other. */
const SURE = 14;
const SURER = 1.4;
/** Steps beside the best that are the same offset. */
const SAME = 60;

/**
 * By how much the second body's clock has to be corrected so that both saw the same at the same time; null: nothing tells. Both
 * rhythm and pictures count: for each offset how many presses of both meet, and how many of these show the same, against how many
 * do by chance a little beside it. Moments in order of time.
 */
export function clockBetween(first: readonly Moment[], second: readonly Moment[]): ClockOffset | null {
  if (first.length < LEAST || second.length < LEAST) return null;
  const least = first[0]!.at - second.at(-1)!.at;
  const steps = ceil((first.at(-1)!.at - second[0]!.at - least) / STEP) + 1;
  if (steps > MOST_STEPS) return null;
  const stepOf = (i: number, j: number) => round((first[i]!.at - second[j]!.at - least) / STEP);
  const meet = new Uint16Array(steps + 1);
  for (let i = 0; i < first.length; i++) for (let j = 0; j < second.length; j++) meet[stepOf(i, j)]! += 1;
  const alike = alikePairs(first, second);
  const same = new Uint16Array(steps + 1);
  for (const [i, j] of alike) same[stepOf(i, j)]! += 1;
  const scores = scoresOf(meet, same);
  const best = scores.reduce((at, score, i) => (score > scores[at]! ? i : at), 0);
  const rival = scores.reduce((most, score, i) => (abs(i - best) > SAME && score > most ? score : most), 0);
  if (scores[best]! < SURE || scores[best]! < SURER * rival) return null;
  const agreeing = matched(first, second, alike, least + best * STEP);
  if (agreeing.length < LEAST) return null;
  const differences = agreeing.map(([i, j]) => first[i]!.at - second[j]!.at).sort((a, b) => a - b);
  return {
    millis: differences[differences.length >> 1]!,
    agree: agreeing.length,
    pairs: agreeing.map(([i, j]) => [first[i]!.id, second[j]!.id] as const),
  };
}

/** Pairs of moments that may show the same. */
function alikePairs(first: readonly Moment[], second: readonly Moment[]): (readonly [number, number])[] {
  const far = second.map(({ look }) => (look ? fromAfar(look.small) : null));
  const pairs: (readonly [number, number])[] = [];
  first.forEach(({ look }, i) => {
    if (!look) return;
    const own = fromAfar(look.small);
    const nearest = far
      .flatMap((other, j) => (other ? [{ j, apart: apart(own, other) }] : []))
      .sort((a, b) => a.apart - b.apart)
      .slice(0, COMPARED);
    for (const { j } of nearest)
      if (closeness(likenessOf(look, second[j]!.look!)) >= ALIKE) pairs.push([i, j]);
  });
  return pairs;
}

/** Colours of a picture, how much of each, beside its light: where things stand differs from body to body. */
function fromAfar({ luma, blue, red }: Small): Float32Array {
  const colours = new Float32Array(BANDS ** 3);
  let mean = 0;
  for (const value of luma) mean += value;
  const lift = 110 / max(1, mean / luma.length);
  for (let i = 0; i < luma.length; i++) {
    const at =
      (band(luma[i]! * lift, 0, 255) * BANDS + band(blue[i]!, 88, 168)) * BANDS + band(red[i]!, 88, 168);
    colours[at]! += 1 / luma.length;
  }
  return colours;
}
const BANDS = 5;
const band = (value: number, low: number, high: number): number =>
  min(BANDS - 1, max(0, floor(((value - low) / (high - low)) * BANDS)));

function apart(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += abs(a[i]! - b[i]!);
  return sum;
}

/** How sure each offset is: of presses that meet and of those that show the same, against what is around it. */
function scoresOf(meet: Uint16Array, same: Uint16Array): Float64Array {
  const [meets, shows] = [sums(meet), sums(same)];
  const scores = new Float64Array(meet.length);
  const [rhythmFloor, pictureFloor] = [meets.at(-1)! / meet.length, shows.at(-1)! / meet.length];
  for (let step = 0; step < scores.length; step++) {
    const pictures = within(shows, step - NEAR, step + NEAR);
    if (pictures < LEAST) continue;
    scores[step] =
      surprise(within(meets, step - NEAR, step + NEAR), expected(meets, step, rhythmFloor)) +
      surprise(pictures, expected(shows, step, pictureFloor));
  }
  return scores;
}

/** How much is found in a window of that width around an offset, or over all offsets, whichever is more. */
function expected(all: Float64Array, step: number, floor: number): number {
  const ring = within(all, step - RING_TO, step - RING_FROM) + within(all, step + RING_FROM, step + RING_TO);
  return (2 * NEAR + 1) * max(floor, ring / (2 * (RING_TO - RING_FROM + 1)));
}

/** The logarithm of how much likelier so many are where they belong than where chance brings `by` of them (Poisson). */
const surprise = (found: number, by: number): number =>
  found <= by ? 0 : found * log(found / max(0.05, by)) - (found - by);

/** All up to each place, from 0. */
function sums(values: Uint16Array): Float64Array {
  const all = new Float64Array(values.length + 1);
  for (let i = 0; i < values.length; i++) all[i + 1] = all[i]! + values[i]!;
  return all;
}

const within = (all: Float64Array, from: number, to: number): number =>
  all[min(all.length - 1, max(0, to + 1))]! - all[min(all.length - 1, max(0, from))]!;

/** Alike pairs that agree with an offset, each moment once, those nearest to it first. */
function matched(
  first: readonly Moment[],
  second: readonly Moment[],
  alike: readonly (readonly [number, number])[],
  millis: number,
): (readonly [number, number])[] {
  const off = ([i, j]: readonly [number, number]) => abs(first[i]!.at - second[j]!.at - millis);
  const [taken, others] = [new Set<number>(), new Set<number>()];
  return alike
    .filter((pair) => off(pair) <= (NEAR + 1) * STEP)
    .sort((a, b) => off(a) - off(b))
    .filter(([i, j]) => {
      if (taken.has(i) || others.has(j)) return false;
      taken.add(i);
      others.add(j);
      return true;
    })
    .sort(([a], [b]) => a - b);
}
