import type { LoadedFrame } from './frames';

/** The order of a shoot's frames, and each one's place in it. Marks change none of it. */
export class FrameOrder {
  private readonly places: ReadonlyMap<string, number>;

  constructor(readonly ids: readonly string[]) {
    this.places = new Map(ids.map((id, place) => [id, place]));
  }

  get length(): number {
    return this.ids.length;
  }

  has(id: string): boolean {
    return this.places.has(id);
  }

  /** Where a frame stands; -1: it is none of these. */
  placeOf(id: string): number {
    return this.places.get(id) ?? -1;
  }
}

type Placed = Pick<LoadedFrame, 'id' | 'instant' | 'name'>;

/** The order in which the server sends frames: by time, those without one last, then by name. */
export function before(a: Placed, b: Placed): boolean {
  if (a.instant !== b.instant) return b.instant === null || (a.instant !== null && a.instant < b.instant);
  return a.name < b.name;
}

/**
 * Frames with some of them asked for anew: what came stands in its place, in the order of time; what was asked for and
 * did not come is here no more.
 */
export function withArrived(
  frames: readonly LoadedFrame[],
  asked: ReadonlySet<string>,
  arrived: readonly LoadedFrame[],
): LoadedFrame[] {
  const coming = [...arrived].sort((a, b) => (before(a, b) ? -1 : before(b, a) ? 1 : 0));
  const merged: LoadedFrame[] = [];
  let next = 0;
  for (const frame of frames) {
    if (asked.has(frame.id)) continue;
    while (next < coming.length && before(coming[next]!, frame)) merged.push(coming[next++]!);
    merged.push(frame);
  }
  return merged.concat(coming.slice(next));
}
