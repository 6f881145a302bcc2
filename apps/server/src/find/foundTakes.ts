import { takesOf } from '@arkiv/core';
import type { FindRows } from './findRows';

/** Frames of a take among those that were found: the one that is shown for it, and how many of it were found. */
export interface FoldedTakes {
  numbers: Uint32Array;
  /** by number of the frame that is shown */
  hits: Map<number, number>;
}

/** Frames of shoots whose takes are made for one question: a second's work. What has been made once is kept. */
const MOST_FRAMES = 100_000;
/** Shoots whose takes are kept. */
const KEPT = 2000;

/** The takes of shoots, by the usual strictness, made when somebody folds what was found. */
export class FoundTakes {
  /** by shoot: of each frame that is not alone, by its key, the key of the frame that stands for its take */
  private readonly made = new Map<string, ReadonlyMap<number, number>>();

  constructor(private readonly rows: FindRows) {}

  /** The takes of these shoots are to be made anew; none: of all. */
  forget(shoots?: Iterable<string>): void {
    if (shoots === undefined) this.made.clear();
    else for (const id of shoots) this.made.delete(id);
  }

  /**
   * One frame for each take, where the first of it that was found stands; the one that stands for the take where it was found
   * too. Null: there are more frames to group than a question may wait for.
   */
  fold(
    numbers: Uint32Array,
    shootOf: (n: number) => string,
    keyOf: (n: number) => number,
    numberOf: (key: number) => number,
  ): FoldedTakes | null {
    const shoots = new Set<string>();
    for (const n of numbers) shoots.add(shootOf(n));
    const missing = [...shoots].filter((id) => !this.made.has(id));
    if (this.rows.framesIn(missing) > MOST_FRAMES) return null;
    for (const id of missing) this.make(id);
    const found = new Set<number>(numbers);
    const placeOf = new Map<number, number>();
    const shown: number[] = [];
    const hits: number[] = [];
    for (const n of numbers) {
      const lead = this.made.get(shootOf(n))?.get(keyOf(n)) ?? keyOf(n);
      const place = placeOf.get(lead);
      if (place !== undefined) {
        hits[place]! += 1;
        continue;
      }
      placeOf.set(lead, shown.length);
      const its = numberOf(lead);
      shown.push(found.has(its) ? its : n);
      hits.push(1);
    }
    return { numbers: Uint32Array.from(shown), hits: new Map(shown.map((n, i) => [n, hits[i]!])) };
  }

  private make(shootId: string): void {
    if (this.made.size >= KEPT) this.made.clear();
    const frames = this.rows.grouped(shootId);
    const keys = new Map(frames.map(({ id, key }) => [id, key]));
    const leads = new Map<number, number>();
    for (const { ids, lead } of takesOf(frames))
      if (ids.length > 1) for (const id of ids) leads.set(keys.get(id)!, keys.get(lead)!);
    this.made.set(shootId, leads);
  }
}
