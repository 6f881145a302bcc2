/** What a frame needs to have its place on the strip. */
export interface TimedFrame {
  /** milliseconds since 1970 UTC, corrected; null stands at the end */
  instant: number | null;
  /** wall clock `HH:mm` */
  clock: string;
}

export interface StripTick {
  /** 0…1 along the strip */
  at: number;
  /** set at the first frame after a pause */
  clock: string | null;
}

/** Lanes of the strip: bodies that shot beside each other, and takes that are whole in each. By place in the order of time. */
export interface StripRows {
  lanes: number;
  laneOf: (place: number) => number;
  /** number of the take; -1: no line is drawn */
  takeOf: (place: number) => number;
}

/** Seconds of a pause that ends one scene: bursts and their neighbours stay together, changes of scene part. */
const PAUSE = 20;

/**
 * Where each frame stands. Time runs left to right, but long pauses are drawn in (their width grows with the
 * logarithm), so that an evening with an hour's dinner still shows its bursts.
 */
export function stripTicks(frames: readonly Pick<TimedFrame, 'instant' | 'clock'>[]): StripTick[] {
  let x = 0;
  const places = frames.map((frame, i) => {
    const before = i > 0 ? frames[i - 1]! : null;
    const seconds = before
      ? Math.max(0, ((frame.instant ?? before.instant ?? 0) - (before.instant ?? 0)) / 1000)
      : 0;
    if (before) x += 1 + Math.log2(1 + seconds) * 1.1;
    return { x, clock: !before || seconds > PAUSE ? frame.clock : null };
  });
  const last = places.at(-1)?.x || 1;
  return places.map(({ x: at, clock }) => ({ at: at / last, clock }));
}

/** The part of the strip that is looked at, 0…1 along the whole. */
export interface StripView {
  from: number;
  to: number;
}

export const WHOLE: StripView = { from: 0, to: 1 };

/** How much closer one notch of a wheel looks: four notches double and a half. */
export const CLOSER = 1.25;

/** Frames that are seen at the closest: they stand a finger apart on a laptop's strip. */
const FEWEST = 20;

/** Looks closer (above 1) or further at a place that stays where it is. */
export function zoomed(view: StripView, about: number, by: number, frames: number): StripView {
  const least = Math.min(1, FEWEST / Math.max(1, frames));
  const span = Math.min(1, Math.max(least, (view.to - view.from) / by));
  const share = (about - view.from) / (view.to - view.from);
  return within(about - Math.min(1, Math.max(0, share)) * span, span);
}

export const moved = (view: StripView, by: number): StripView => within(view.from + by, view.to - view.from);

/** The same closeness, moved no further than it takes for a place to be seen: there it stands in the middle. */
export function including(view: StripView, at: number): StripView {
  if (at >= view.from && at <= view.to) return view;
  const span = view.to - view.from;
  return within(at - span / 2, span);
}

function within(from: number, span: number): StripView {
  if (span >= 1) return WHOLE;
  const begin = Math.min(1 - span, Math.max(0, from));
  return { from: begin, to: begin + span };
}

/** The first of so many for which something holds that holds for all after it, by halving. */
export function firstWhere(length: number, holds: (i: number) => boolean): number {
  let [low, high] = [0, length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

export const firstTick = (ticks: readonly StripTick[], at: number): number =>
  firstWhere(ticks.length, (i) => ticks[i]!.at >= at);

/** The frame that stands nearest to a place on the strip; -1: there is none. */
export function nearestTick(ticks: readonly StripTick[], at: number): number {
  const next = firstTick(ticks, at);
  if (next === 0) return ticks.length - 1 < 0 ? -1 : 0;
  if (next === ticks.length) return firstTick(ticks, ticks[next - 1]!.at);
  return at - ticks[next - 1]!.at <= ticks[next]!.at - at ? firstTick(ticks, ticks[next - 1]!.at) : next;
}
