import { BY_TIME, headingOf, matches, orderedPlaces, type Filter, type FrameOrdering } from '@arkiv/core';
import type { FrameOrder } from '../../data/frameOrder';
import type { ShootState } from '../../data/shootStore';

type Shoot = Pick<ShootState, 'frames' | 'order' | 'version' | 'measured' | 'changedSince'>;

/** What is shown of a shoot: what the filter lets through, and frames that are held though they no longer pass. */
export class Shown {
  constructor(
    readonly order: FrameOrder,
    /** places in the shoot's order, as they are shown */
    readonly places: readonly number[],
    /** by place: 1 where the filter lets the frame through */
    private readonly passes: Uint8Array,
    /** frames that the filter hides */
    readonly hidden: number,
    /** another one whenever all frames were judged anew */
    readonly judged: object,
    private readonly ordered: Ordered,
  ) {}

  get length(): number {
    return this.places.length;
  }

  /** The frame that stands there among what is shown; undefined past either end. */
  id(i: number): string | undefined {
    const place = this.places[i];
    return place === undefined ? undefined : this.order.ids[place];
  }

  /** Where a frame stands among what is shown; -1: it is not shown. */
  indexOf(id: string): number {
    const place = this.order.placeOf(id);
    const i = place < 0 ? -1 : firstFrom(this.places, place, this.ordered.ranks);
    return this.places[i] === place ? i : -1;
  }

  has(id: string): boolean {
    return this.indexOf(id) >= 0;
  }

  /** Ids from one place up to another, as of an array. */
  slice(from = 0, to = this.length): string[] {
    return this.places.slice(from, to).map((place) => this.order.ids[place]!);
  }

  /** Whether the filter hides the frame at a place of the shoot's order. */
  hides = (place: number): boolean => this.passes[place] === 0;

  /** Whether the filter hides a frame. */
  hidesFrame = (id: string): boolean => this.hides(this.order.placeOf(id));

  /** How many of the shown ones stand before a frame of the shoot, in the order that is shown. */
  countBefore(place: number): number {
    return firstFrom(this.places, place, this.ordered.ranks);
  }

  /** What stands together under a heading: its key, and where it begins among what is shown. */
  get sections(): { key: string; from: number; count: number }[] {
    const { groups } = this.ordered;
    const starts = groups.map(({ first }) => this.countBefore(first));
    return groups.flatMap(({ key }, i) => {
      const count = (starts[i + 1] ?? this.length) - starts[i]!;
      return count === 0 ? [] : [{ key, from: starts[i]!, count }];
    });
  }

  /** Of each take the frame that stands for it, and no other. */
  folded(takes: Folding): Shown {
    const places = this.places.filter((place) => {
      const id = this.order.ids[place]!;
      return takes.standsFor(id, this) === id;
    });
    return new Shown(this.order, places, this.passes, this.hidden, this.judged, this.ordered);
  }

  /** Where to stand for a frame that is not shown: the nearest shown one after it, or the last. */
  nearest(id: string | null): string | null {
    if (this.length === 0) return null;
    if (id === null) return this.id(0)!;
    const place = Math.max(0, this.order.placeOf(id));
    return this.id(Math.min(this.length - 1, firstFrom(this.places, place, this.ordered.ranks)))!;
  }
}

/** Index of the first place that does not stand before another, by halving. */
function firstFrom(places: readonly number[], wanted: number, ranks: Int32Array | null): number {
  let [low, high] = [0, places.length];
  const before = ranks === null ? wanted : (ranks[wanted] ?? ranks.length);
  while (low < high) {
    const middle = (low + high) >> 1;
    const place = places[middle]!;
    if ((ranks === null ? place : ranks[place]!) < before) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Keeps what is shown: all frames are judged when they come or the filter changes, then only what was marked. */
export class Showing {
  private last: {
    shoot: Shoot;
    filter: Filter;
    held: readonly string[];
    order: FrameOrdering;
    only: ReadonlySet<string> | null;
    rows: Rows;
    shown: Shown;
  } | null = null;
  private passes = new Uint8Array();
  private ordered: Ordered = OWN_ORDER;
  private only: ReadonlySet<string> | null = null;

  /**
   * `only`: ids of the frames that it is about; null: all of the shoot. `rows`: places of frames that stay together, as
   * {@link orderedPlaces} takes them.
   */
  of(
    shoot: Shoot,
    filter: Filter,
    held: readonly string[],
    order: FrameOrdering = BY_TIME,
    only: ReadonlySet<string> | null = null,
    rows: Rows = null,
  ): Shown {
    const { last } = this;
    const asBefore =
      last?.filter === filter && last.order === order && last.only === only && last.rows === rows;
    if (asBefore && last.shoot === shoot && last.held === held) return last.shown;
    // Marks put nothing in another place while they are made: an order is made when it is chosen, and with what arrives.
    const learned = order.by === 'sharpness' && last?.shoot.measured !== shoot.measured;
    const ordered =
      last?.order === order && last.shoot.order === shoot.order && last.rows === rows && !learned;
    if (!ordered) this.ordered = orderOf(shoot, order, rows);
    const same = asBefore && ordered;
    this.only = only;
    const changed = same ? shoot.changedSince(last.shoot.version) : null;
    const shown = changed ? this.next(last!, shoot, filter, held, changed) : this.anew(shoot, filter, held);
    this.last = { shoot, filter, held, order, only, rows, shown };
    return shown;
  }

  private anew({ frames, order }: Shoot, filter: Filter, held: readonly string[]): Shown {
    this.passes = new Uint8Array(frames.length);
    frames.forEach((frame, place) => (this.passes[place] = this.judge(filter, frame)));
    const kept = new Set(held.map((id) => order.placeOf(id)));
    const places: number[] = [];
    let hidden = 0;
    this.passes.forEach((passes) => (hidden += 1 - passes));
    const take = (place: number) => {
      if (this.passes[place] === 1 || kept.has(place)) places.push(place);
    };
    if (this.ordered.places) this.ordered.places.forEach(take);
    else frames.forEach((_, place) => take(place));
    return new Shown(order, places, this.passes, hidden, {}, this.ordered);
  }

  private judge(filter: Filter, frame: Shoot['frames'][number]): 0 | 1 {
    return (this.only === null || this.only.has(frame.id)) && matches(filter, frame) ? 1 : 0;
  }

  private next(
    last: { held: readonly string[]; shown: Shown },
    { frames, order }: Shoot,
    filter: Filter,
    held: readonly string[],
    changed: readonly number[],
  ): Shown {
    let { passes } = this;
    let { hidden } = last.shown;
    for (const place of changed) {
      const now = this.judge(filter, frames[place]!);
      if (now === passes[place]) continue;
      // What was shown before stays as it was.
      if (passes === this.passes) passes = passes.slice();
      passes[place] = now;
      hidden += now === 1 ? -1 : 1;
    }
    const kept = new Set(held.map((id) => order.placeOf(id)));
    const touched =
      held === last.held ? changed : [...changed, ...kept, ...last.held.map((id) => order.placeOf(id))];
    let places: number[] | null = null;
    for (const place of touched) {
      if (place < 0) continue;
      const now = places ?? last.shown.places;
      const i = firstFrom(now, place, this.ordered.ranks);
      const is = now[i] === place;
      const shall = passes[place] === 1 || kept.has(place);
      if (is === shall) continue;
      places ??= last.shown.places.slice();
      if (shall) places.splice(i, 0, place);
      else places.splice(i, 1);
    }
    if (!places && passes === this.passes) return last.shown;
    this.passes = passes;
    return new Shown(order, places ?? last.shown.places, passes, hidden, last.shown.judged, this.ordered);
  }
}

/** The order in which frames are shown, and what stands together in it. */
interface Ordered {
  /** places of the shoot in that order, and by place where it stands there; null: that is the shoot's own */
  places: readonly number[] | null;
  ranks: Int32Array | null;
  /** the first frame of each group, by its place, as frames were when they were ordered */
  groups: readonly { key: string; first: number }[];
}

const OWN_ORDER: Ordered = { places: null, ranks: null, groups: [] };

/** Which frame stands for a frame's take, among what is shown; null: none does. */
interface Folding {
  standsFor(id: string, shown: Shown): string | null;
}

type Rows = readonly (readonly number[])[] | null;

function orderOf({ frames }: Shoot, order: FrameOrdering, rows: Rows): Ordered {
  // Frames stand by time, so that days and hours are in one piece as they are.
  const own =
    order.by === 'time' && !order.reverse && ['none', 'day', 'hour'].includes(order.heading) && rows === null;
  const places = own ? null : orderedPlaces(frames, order, rows);
  let ranks: Int32Array | null = null;
  if (places) {
    ranks = new Int32Array(frames.length);
    places.forEach((place, rank) => (ranks![place] = rank));
  }
  const groups: { key: string; first: number }[] = [];
  for (let i = 0; i < frames.length; i++) {
    const place = places ? places[i]! : i;
    const key = headingOf(order.heading, frames[place]!);
    if (groups.at(-1)?.key !== key) groups.push({ key, first: place });
  }
  return { places, ranks, groups };
}
