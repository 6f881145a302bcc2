import type { LoadedFrame } from './frames';
import type { ShootState } from './shootStore';

/** Which counts a frame is in. */
export type KeysOf = (frame: LoadedFrame) => readonly string[];

/** Counts over a shoot's frames: one pass when frames come or the question changes, then only what was marked. */
export class Tally {
  private seen: { shoot: Pick<ShootState, 'frames' | 'order' | 'version'>; keysOf: KeysOf } | null = null;
  private keys: (readonly string[])[] = [];
  private counts: ReadonlyMap<string, number> = new Map();

  of(
    shoot: Pick<ShootState, 'frames' | 'order' | 'version' | 'changedSince'>,
    keysOf: KeysOf,
  ): ReadonlyMap<string, number> {
    const same = this.seen?.shoot.order === shoot.order && this.seen.keysOf === keysOf;
    const changed = same ? shoot.changedSince(this.seen!.shoot.version) : null;
    const counts = new Map(changed ? this.counts : []);
    const add = (key: string, by: number) => counts.set(key, (counts.get(key) ?? 0) + by);
    if (!changed) this.keys = [];
    for (const place of changed ?? shoot.frames.keys()) {
      this.keys[place]?.forEach((key) => add(key, -1));
      this.keys[place] = keysOf(shoot.frames[place]!);
      this.keys[place].forEach((key) => add(key, 1));
    }
    this.seen = { shoot, keysOf };
    if (changed?.length !== 0) this.counts = counts;
    return this.counts;
  }
}
