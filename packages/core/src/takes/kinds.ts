import type { TakeKind } from './correction';

/** What tells the kinds of takes apart. */
export interface TakeFacts {
  /** as its file was called by the camera, or by who processed it; not given: not known */
  original?: string;
  /** milliseconds since 1970 UTC, corrected; null where the camera wrote no time */
  instant: number | null;
  /** f-number, seconds and ISO speed; null where the camera wrote none */
  aperture: number | null;
  exposure: number | null;
  iso: number | null;
  /** EV beside what the camera metered; null or not given: it does not say */
  exposureBias?: number | null;
  /** what was focused on, in dioptres; null or not given: not known */
  focus?: number | null;
  /** where the middle of the frame before lies in it, as shares of its width and height beside the middle; null: not compared */
  dx: number | null;
  dy: number | null;
}

/** Milliseconds between the frames of a burst, as a rule: three frames a second and more, and some of the slower. */
const BURST_GAP = 750;
/** Milliseconds that one of a burst's gaps may last: a buffer that fills, a finger that rests. */
const BURST_PAUSE = 3000;
/** Milliseconds between the frames of a bracket: a person who turns a wheel between two needs no more. */
const BRACKET_GAP = 4000;
/** The least step of a bracket, in EV: cameras step by thirds. */
const BRACKET_STEP = 0.3;
/** How even the steps of a focus bracket are: a lens steps by a motor, whose rings are read to some digits only. */
const FOCUS_EVEN = 2.5;
/** The least step of a focus bracket, in dioptres: what is written to a millimetre at a third of a metre. */
const FOCUS_STEP = 0.005;
/** How far a frame of a focus bracket may be shifted from the one before it, as a share of a side: a hand, and a lens that breathes. */
const FOCUS_DRIFT = 0.06;
/** Milliseconds between the parts of a panorama. */
const PANORAMA_GAP = 15_000;
/** How far neighbours of a panorama are shifted, as shares of a side: less is a hand that shook, more leaves nothing to join. */
const [PANORAMA_LEAST, PANORAMA_MOST] = [0.15, 0.95];

/**
 * Exposure value at ISO 100 (APEX, Exif 2.32 annex C: Av + Tv − log₂(ISO / 100)); what is brighter by one stop is exposed by
 * one EV less. Null where a part is unknown.
 */
export function exposureValue({
  aperture,
  exposure,
  iso,
}: Pick<TakeFacts, 'aperture' | 'exposure' | 'iso'>): number | null {
  if (!aperture || !exposure || !iso) return null;
  return 2 * Math.log2(aperture) - Math.log2(exposure) - Math.log2(iso / 100);
}

/** The kind of frames that belong together, in order of time; null: there is one alone. */
export function takeKindOf(frames: readonly TakeFacts[]): TakeKind | null {
  if (frames.length < 2) return null;
  if (areVariants(frames)) return 'variant';
  if (isBracket(frames) || isFocusBracket(frames)) return 'bracket';
  if (isPanorama(frames)) return 'panorama';
  const gaps = gapsOf(frames).sort((a, b) => a - b);
  return gaps[gaps.length >> 1]! <= BURST_GAP && gaps.at(-1)! <= BURST_PAUSE ? 'burst' : 'near';
}

/** Milliseconds from each to the next; Infinity where one has no time. */
const gapsOf = (frames: readonly TakeFacts[]): number[] =>
  frames.slice(1).map(({ instant }, i) => {
    const before = frames[i]!.instant;
    return instant === null || before === null ? Infinity : Math.abs(instant - before);
  });

/** What a camera calls a file: letters or signs, then its number; what comes after that others have added. */
const CAMERA_NAME = /^(.*?\d{3,})(?!\d)/;

/** The camera's own part of a name: `OCK_0012-bw` → `OCK_0012`; null: it has none. */
export const cameraNameOf = (original: string): string | null => CAMERA_NAME.exec(original)?.[1] ?? null;

/**
 * One picture several times: the same moment by the clock, and the same number of the camera's (`OCK_0012`, `OCK_0012-bw`). Of
 * a burst whose camera writes whole seconds only, each frame has a number of its own.
 */
function areVariants(frames: readonly TakeFacts[]): boolean {
  const [first] = frames;
  const name = cameraNameOf(first!.original ?? '');
  if (name === null) return false;
  return frames.every(
    ({ original, instant }) => instant === first!.instant && cameraNameOf(original ?? '') === name,
  );
}

/** Three and more, each exposed otherwise than the one before, by a step at least. */
function isBracket(frames: readonly TakeFacts[]): boolean {
  if (frames.length < 3 || gapsOf(frames).some((gap) => gap > BRACKET_GAP)) return false;
  return EXPOSED.some((told) => {
    const values = frames.map(told);
    return values.every(
      (value, i) => value !== null && (i === 0 || Math.abs(value - values[i - 1]!) >= BRACKET_STEP),
    );
  });
}

/** What tells how a frame was exposed: all of it; what was set beside the meter, flash included; all but a ring that no camera reads. */
const EXPOSED: readonly ((frame: TakeFacts) => number | null)[] = [
  exposureValue,
  ({ exposureBias }) => exposureBias ?? null,
  ({ exposure, iso }) => exposureValue({ aperture: 1, exposure, iso }),
];

/**
 * Three and more from the same place and exposed alike, each focused further on than the one before, in even steps. Dioptres
 * are what a lens steps in; a subject that comes nearer moves the frame, or its steps grow.
 */
function isFocusBracket(frames: readonly TakeFacts[]): boolean {
  if (frames.length < 3 || gapsOf(frames).some((gap) => gap > BRACKET_GAP)) return false;
  const [first] = frames;
  const steady = frames.every(
    ({ aperture, exposure, iso, dx, dy }, i) =>
      aperture === first!.aperture &&
      exposure === first!.exposure &&
      iso === first!.iso &&
      (i === 0 || Math.max(Math.abs(dx ?? 0), Math.abs(dy ?? 0)) <= FOCUS_DRIFT),
  );
  const at = frames.map(({ focus }) => focus ?? NaN);
  const steps = at.slice(1).map((value, i) => (value - at[i]!) * Math.sign(at[1]! - at[0]!));
  return (
    steady &&
    steps.every((step) => step >= FOCUS_STEP) &&
    Math.max(...steps) <= FOCUS_EVEN * Math.min(...steps)
  );
}

/** Three and more, each shifted in one direction from the one before. */
function isPanorama(frames: readonly TakeFacts[]): boolean {
  if (frames.length < 3 || gapsOf(frames).some((gap) => gap > PANORAMA_GAP)) return false;
  const steps = frames.slice(1).map(({ dx, dy }) => [dx ?? 0, dy ?? 0] as const);
  const [sumX, sumY] = [total(steps.map(([x]) => x)), total(steps.map(([, y]) => y))];
  const along = Math.abs(sumX) >= Math.abs(sumY) ? 0 : 1;
  const direction = Math.sign(along === 0 ? sumX : sumY);
  return steps.every((step) => {
    const size = step[along] * direction;
    return size >= PANORAMA_LEAST && size <= PANORAMA_MOST && Math.abs(step[1 - along]!) < size / 2;
  });
}

const total = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
