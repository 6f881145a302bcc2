import { takesByTime } from '@arkiv/core';
import type { LoadedFrame } from '../../data/frames';
import type { Shown } from './shown';

/** Where a frame stands on its take's strip, seen among what is shown; null for a frame alone. */
export type TakePlace = 'first' | 'middle' | 'last' | null;

type InTake = Pick<LoadedFrame, 'id' | 'body' | 'serial' | 'instant'>;

/** The takes of a shoot in their order, and which one each frame belongs to. */
export class Takes {
  private readonly takeOf = new Map<string, number>();

  constructor(private readonly takes: readonly { ids: readonly string[] }[]) {
    takes.forEach(({ ids }, i) => ids.forEach((id) => this.takeOf.set(id, i)));
  }

  static of(frames: readonly InTake[]): Takes {
    return new Takes(
      takesByTime(frames.map(({ id, serial, body, instant }) => ({ id, body: serial ?? body, instant }))),
    );
  }

  /** All frames of a frame's take, in order of time. */
  idsWith(id: string): readonly string[] {
    return this.takes[this.takeOf.get(id) ?? -1]?.ids ?? [id];
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
    for (let take = from + by; take >= 0 && take < this.takes.length; take += by) {
      const first = this.firstOf(shown, take);
      if (first !== null) return first;
    }
    return null;
  }

  private firstOf(shown: Shown, take: number): number | null {
    const first = this.takes[take]?.ids.find((id) => shown.has(id));
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
