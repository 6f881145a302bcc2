import { takesOf, type GroupedFrame, type GroupingWish, type Take } from '@arkiv/core';
import type { LoadedFrame } from '../../../data/frames';
import type { ShootState } from '../../../data/shootStore';
import type { StripRows } from '../../../parts/stripView';
import type { Shown } from '../shown';

/** Where a frame stands on its take's strip, seen among what is shown; null for a frame alone. */
export type TakePlace = 'first' | 'middle' | 'last' | null;

/** The takes of a shoot in their order, and which one each frame belongs to. */
export class Takes {
  private readonly takeOf = new Map<string, number>();

  constructor(
    readonly all: readonly Take[],
    /** places of the frames of each, where some are not side by side in the order of time; null: all are */
    readonly rows: readonly (readonly number[])[] | null = null,
    /** frames with a picture that were not compared with the one of their body before them yet */
    readonly waiting = 0,
    /** what they were made of, in order of time */
    readonly of: readonly GroupedFrame[] = [],
  ) {
    all.forEach(({ ids }, i) => ids.forEach((id) => this.takeOf.set(id, i)));
  }

  static of(frames: readonly LoadedFrame[], wish: Required<GroupingWish>): Takes {
    const of = frames.map(grouped);
    const all = takesOf(of, wish);
    const at = new Map(frames.map(({ id }, place) => [id, place]));
    const rows = all.map(({ ids }) => ids.map((id) => at.get(id)!));
    const torn = rows.some((row) => row.at(-1)! - row[0]! !== row.length - 1);
    return new Takes(all, torn ? rows : null, uncompared(frames), of);
  }

  get length(): number {
    return this.all.length;
  }

  /** The take of a frame; null: the shoot has no such frame. */
  with(id: string): Take | null {
    return this.all[this.takeOf.get(id) ?? -1] ?? null;
  }

  /** Which take a frame belongs to, counted from 1. */
  numberOf(id: string): number {
    return (this.takeOf.get(id) ?? -1) + 1;
  }

  /** The take before that of a frame, in the order of their first frames. */
  before(id: string): Take | null {
    return this.all[(this.takeOf.get(id) ?? 0) - 1] ?? null;
  }

  /** All frames of a frame's take, in order of time. */
  idsWith(id: string): readonly string[] {
    return this.with(id)?.ids ?? [id];
  }

  /** Of a frame's take the one that stands for it among what is shown: its lead, or the first that is shown; null: none is. */
  standsFor(id: string, shown: Pick<Shown, 'has'>): string | null {
    const take = this.with(id);
    if (!take) return null;
    return shown.has(take.lead) ? take.lead : (take.ids.find((its) => shown.has(its)) ?? null);
  }

  /** How many takes have frames that are shown, and none that is kept. */
  withoutKeeper(shown: Pick<Shown, 'has'>, isKept: (id: string) => boolean): number {
    return this.all.filter(({ ids }) => ids.some((id) => shown.has(id)) && !ids.some(isKept)).length;
  }

  /** The first shown frame of the next take; going back, of this one or, from there, of the one before. */
  step(shown: Shown, at: number, by: 1 | -1): number {
    const here = this.takeOf.get(shown.id(at) ?? '') ?? 0;
    if (by === 1) return this.firstShown(shown, here, 1) ?? shown.length - 1;
    const own = this.firstOf(shown, here);
    return own !== null && own !== at ? own : (this.firstShown(shown, here, -1) ?? 0);
  }

  /** The first shown frame of the nearest take, in one direction, of which any is shown. */
  private firstShown(shown: Shown, from: number, by: 1 | -1): number | null {
    for (let take = from + by; take >= 0 && take < this.all.length; take += by) {
      const first = this.firstOf(shown, take);
      if (first !== null) return first;
    }
    return null;
  }

  private firstOf(shown: Shown, take: number): number | null {
    const first = this.all[take]?.ids.find((id) => shown.has(id));
    return first === undefined ? null : shown.indexOf(first);
  }

  /** Where the frame that stands there lies on its strip. */
  placeOf(shown: Shown, i: number): TakePlace {
    const take = (at: number) => this.takeOf.get(shown.id(at) ?? '') ?? null;
    const own = take(i);
    if (own === null) return null;
    const [before, after] = [take(i - 1) === own, take(i + 1) === own];
    if (!before && !after) return null;
    return before ? (after ? 'middle' : 'last') : 'first';
  }
}

function uncompared(frames: readonly LoadedFrame[]): number {
  const begun = new Set<string>();
  let waiting = 0;
  for (const frame of frames) {
    const { picture, close } = frame;
    if (picture === null) continue;
    const one = cameraOf(frame);
    // Nothing stands before the first.
    if (close === null && begun.has(one)) waiting += 1;
    begun.add(one);
  }
  return waiting;
}

/** More bodies than this share the last lane: each has to be seen. */
const MOST_LANES = 3;

/** How a shoot's frames stand on the strip: a lane for each body, in the order in which they came, and their takes. */
export function stripRows(frames: readonly LoadedFrame[], takes: Takes): StripRows {
  const lanes = new Map<string, number>();
  const laneOf = frames.map((frame) => {
    const one = cameraOf(frame);
    if (!lanes.has(one)) lanes.set(one, Math.min(MOST_LANES - 1, lanes.size));
    return lanes.get(one)!;
  });
  const takeOf = frames.map(({ id }) => takes.numberOf(id));
  return {
    lanes: Math.max(1, Math.min(MOST_LANES, lanes.size)),
    laneOf: (place) => laneOf[place] ?? 0,
    takeOf: (place) => takeOf[place] ?? -1,
  };
}

/** What tells one camera from another: two bodies of one model have their serial numbers. Empty: nothing does. */
const cameraOf = ({ serial, body }: Pick<LoadedFrame, 'serial' | 'body'>): string => serial ?? body ?? '';

/** What core groups by: the serial number tells two bodies of one model apart. */
const grouped = (frame: LoadedFrame): GroupedFrame => {
  const { id, original, instant, close, take, aperture, exposure, iso, exposureBias, focus, dx, dy } = frame;
  return {
    ...{ id, original, instant, close, take, aperture, exposure, iso, exposureBias, focus, dx, dy },
    body: cameraOf(frame),
  };
};

/** The facts of a frame that decide about its take. */
const sameFacts = (a: LoadedFrame, b: LoadedFrame): boolean =>
  a.take === b.take && a.close === b.close && a.instant === b.instant && a.dx === b.dx && a.dy === b.dy;

/** Keeps the takes of a shoot: they are made anew with its frames, with what they are made from, and with how strictly. */
export class Grouping {
  private last: { shoot: ShootState; strict: number; together: boolean; takes: Takes } | null = null;

  of(shoot: ShootState, strict: number, together = false): Takes {
    const { last } = this;
    const asWished = last !== null && last.strict === strict && last.together === together;
    if (asWished && last.shoot === shoot) return last.takes;
    const same = asWished && last.shoot.order === shoot.order;
    const changed = same ? shoot.changedSince(last.shoot.version) : null;
    const stays = changed?.every((place) => sameFacts(shoot.frames[place]!, last!.shoot.frames[place]!));
    const wish = { strictness: strict, bodiesTogether: together };
    const takes = stays ? last!.takes : Takes.of(shoot.frames, wish);
    this.last = { shoot, strict, together, takes };
    return takes;
  }
}
