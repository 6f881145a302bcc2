import type { LoadedFrame } from './frames';
import type { ShootState } from './shootStore';

type Value = string | number | null;

/** Numbers of what is counted, by section and value: ten thousand frames are counted with each change of a filter. */
const numbers = new Map<string, Map<Value, number>>();
let given = 0;

/** The number under which a value of a section is counted. */
export function tallyKey(section: string, value: Value): number {
  let values = numbers.get(section);
  if (!values) numbers.set(section, (values = new Map<Value, number>()));
  let number = values.get(value);
  if (number === undefined) values.set(value, (number = given++));
  return number;
}

/** Which counts a frame is in, in parts: by {@link tallyKey}. */
export type KeysOf = (frame: LoadedFrame) => readonly (readonly number[])[];

/** Counts as of one moment. */
export class Counts {
  constructor(private readonly byNumber: readonly number[]) {}

  of(section: string, value: Value): number {
    return this.byNumber[tallyKey(section, value)] ?? 0;
  }
}

/** Counts over a shoot's frames: one pass when frames come or the question changes, then only what was marked. */
export class Tally {
  private seen: { shoot: Pick<ShootState, 'frames' | 'order' | 'version'>; keysOf: KeysOf } | null = null;
  private keys: (readonly (readonly number[])[])[] = [];
  private byNumber: number[] = [];
  private counts = new Counts([]);

  of(shoot: Pick<ShootState, 'frames' | 'order' | 'version' | 'changedSince'>, keysOf: KeysOf): Counts {
    const same = this.seen?.shoot.order === shoot.order && this.seen.keysOf === keysOf;
    const changed = same ? shoot.changedSince(this.seen!.shoot.version) : null;
    this.seen = { shoot, keysOf };
    if (changed?.length === 0) return this.counts;
    const counts = changed ? this.byNumber.slice() : [];
    const add = (parts: readonly (readonly number[])[], by: number) => {
      for (const part of parts) for (const key of part) counts[key] = (counts[key] ?? 0) + by;
    };
    const count = (place: number) => {
      const keys = keysOf(shoot.frames[place]!);
      this.keys[place] = keys;
      add(keys, 1);
    };
    if (changed)
      for (const place of changed) {
        add(this.keys[place] ?? [], -1);
        count(place);
      }
    else {
      this.keys = [];
      for (let place = 0; place < shoot.frames.length; place++) count(place);
    }
    this.byNumber = counts;
    this.counts = new Counts(counts);
    return this.counts;
  }
}
