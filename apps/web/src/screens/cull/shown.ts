import { matches, type Filter } from '@arkiv/core';
import type { FrameOrder } from '../../data/frameOrder';
import type { ShootState } from '../../data/shootStore';

type Shoot = Pick<ShootState, 'frames' | 'order' | 'version' | 'changedSince'>;

/** What is shown of a shoot: what the filter lets through, and frames that are held though they no longer pass. */
export class Shown {
  constructor(
    readonly order: FrameOrder,
    /** places in the shoot's order, ascending */
    readonly places: readonly number[],
    /** by place: 1 where the filter lets the frame through */
    private readonly passes: Uint8Array,
    /** frames that the filter hides */
    readonly hidden: number,
    /** another one whenever all frames were judged anew */
    readonly judged: object,
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
    const i = place < 0 ? -1 : firstFrom(this.places, place);
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

  /** How many of the shown ones stand before a place of the shoot's order. */
  countBefore(place: number): number {
    return firstFrom(this.places, place);
  }

  /** Where to stand for a frame that is not shown: the nearest shown one after it, or the last. */
  nearest(id: string | null): string | null {
    if (this.length === 0) return null;
    if (id === null) return this.id(0)!;
    const place = Math.max(0, this.order.placeOf(id));
    return this.id(Math.min(this.length - 1, firstFrom(this.places, place)))!;
  }
}

/** Index of the first place that is not below another, by halving. */
function firstFrom(places: readonly number[], wanted: number): number {
  let [low, high] = [0, places.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (places[middle]! < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Keeps what is shown: all frames are judged when they come or the filter changes, then only what was marked. */
export class Showing {
  private last: { shoot: Shoot; filter: Filter; held: readonly string[]; shown: Shown } | null = null;
  private passes = new Uint8Array();

  of(shoot: Shoot, filter: Filter, held: readonly string[]): Shown {
    const { last } = this;
    if (last && last.shoot === shoot && last.filter === filter && last.held === held) return last.shown;
    const same = last?.filter === filter && last.shoot.order === shoot.order;
    const changed = same ? shoot.changedSince(last.shoot.version) : null;
    const shown = changed ? this.next(last!, shoot, filter, held, changed) : this.anew(shoot, filter, held);
    this.last = { shoot, filter, held, shown };
    return shown;
  }

  private anew({ frames, order }: Shoot, filter: Filter, held: readonly string[]): Shown {
    this.passes = Uint8Array.from(frames, (frame) => (matches(filter, frame) ? 1 : 0));
    const kept = new Set(held.map((id) => order.placeOf(id)));
    const places: number[] = [];
    let hidden = 0;
    this.passes.forEach((passes, place) => {
      if (passes === 0) hidden += 1;
      if (passes === 1 || kept.has(place)) places.push(place);
    });
    return new Shown(order, places, this.passes, hidden, {});
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
      const now = matches(filter, frames[place]!) ? 1 : 0;
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
      const i = firstFrom(now, place);
      const is = now[i] === place;
      const shall = passes[place] === 1 || kept.has(place);
      if (is === shall) continue;
      places ??= last.shown.places.slice();
      if (shall) places.splice(i, 0, place);
      else places.splice(i, 1);
    }
    if (!places && passes === this.passes) return last.shown;
    this.passes = passes;
    return new Shown(order, places ?? last.shown.places, passes, hidden, last.shown.judged);
  }
}
