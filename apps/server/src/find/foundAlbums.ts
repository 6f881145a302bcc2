import { setImmediate as turn } from 'node:timers/promises';
import {
  AlbumTree,
  albumPlace,
  asksFor,
  Bits,
  inOrder,
  namedAlbums,
  partsOfLine,
  standingFilter,
  type Album,
  type Filter,
  type FindIndex,
  type FoundOrder,
  type KeeperRules,
  type LineContext,
  type LinePart,
} from '@arkiv/core';
import { SHOWN_PICTURE } from '../frames/frameColumns';
import type { FindRows } from './findRows';

/** An album with what it holds now. */
export interface HeldAlbum {
  id: string;
  /** frames in it and below it */
  count: number;
  /** keys of pictures that it shows itself by: that of its lead first */
  pictures: string[];
  /** why its rule cannot be followed; null: it can */
  problem: string | null;
}

/** Pictures by which an album shows itself. */
const SHOWN = 6;
/** Frames of an album that are put in order for the first of them to be seen: more show their newest. */
const ARRANGED = 5000;

/** Whether a part of a line is about what is decided, so that its answer is not to be thinned out by it once more. */
export const asksForRejects = (filter: Filter, rules: KeeperRules): boolean =>
  asksFor(filter, 'verdict') || JSON.stringify(filter) === JSON.stringify(standingFilter('reject', rules));

/** Albums as questions of an archive: which frames are in one, in which order, and what each holds. */
export class FoundAlbums {
  private readonly tree: AlbumTree;
  readonly named: ReturnType<typeof namedAlbums>;

  constructor(
    private readonly index: FindIndex,
    private readonly rows: FindRows,
    albums: readonly Album[],
    private readonly context: LineContext & { rules: KeeperRules },
  ) {
    this.tree = new AlbumTree(albums);
    this.named = namedAlbums(this.tree, context);
  }

  /** The frames of an album and of those below it; a text says why its rule cannot be followed. */
  filterOf(id: string): Filter | string {
    return this.named.find((album) => album.id === id)?.filter() ?? 'This album is not there any more.';
  }

  /** Whether what the studio's rules reject is in too: what was put in by hand stays in. */
  holdsRejects(id: string): boolean {
    const rule = this.tree.get(id)?.rule ?? null;
    if (rule === null) return true;
    return partsOfLine(rule, this.context).some(({ filter }) => asksForRejects(filter, this.context.rules));
  }

  /** Says in a line's place why an album cannot be looked into. */
  wrong(id: string, problem: string): LinePart {
    return {
      from: 0,
      to: 0,
      words: this.tree.get(id)?.name ?? 'album',
      kind: 'fact',
      filter: { any: [] },
      problem,
    };
  }

  nameOf(id: string): string | null {
    return this.tree.get(id)?.name ?? null;
  }

  /** Found frames as they stand in an album and in those below it, each in the first that it is in; a rule's in order of time. */
  async arranged(
    id: string,
    found: Bits,
    find: (filter: Filter, among: Bits) => Promise<Bits>,
    oldestFirst: boolean,
  ): Promise<FoundOrder> {
    const left = found.copy();
    const numbers = new Uint32Array(found.count);
    const groups: FoundOrder['groups'] = [];
    let from = 0;
    for (const album of this.tree.below(id)) {
      const own = this.named.find((one) => one.id === album.id)!.own();
      if (typeof own === 'string') continue;
      const its = await find(own, left);
      if (its.isEmpty) continue;
      const order = album.rule === null ? this.byHand(album.id, its) : inOrder(this.index, its, oldestFirst);
      numbers.set(order, from);
      groups.push({ key: album.id, from, count: order.length });
      from += order.length;
      left.without(its);
    }
    return { numbers: numbers.subarray(0, from), groups };
  }

  /** What each album holds. Questions in between are answered first. */
  async held(
    find: (filter: Filter, among: Bits) => Promise<Bits>,
    isOvertaken: () => boolean,
  ): Promise<HeldAlbum[]> {
    const rejects = standingFilter('reject', this.context.rules);
    const held: HeldAlbum[] = [];
    for (const { id, lead } of this.tree.albums) {
      await turn();
      if (isOvertaken()) break;
      const filter = this.filterOf(id);
      if (typeof filter === 'string') {
        held.push({ id, count: 0, pictures: [], problem: filter });
        continue;
      }
      const found = await find(filter, this.index.all());
      if (!this.holdsRejects(id)) found.without(await find(rejects, found));
      const { count } = found;
      const order =
        count > ARRANGED ? inOrder(this.index, found) : (await this.arranged(id, found, find, false)).numbers;
      held.push({ id, count, pictures: this.pictures(order.subarray(0, SHOWN), lead), problem: null });
    }
    return held;
  }

  private byHand(album: string, its: Bits): Uint32Array {
    const keys: number[] = [];
    its.each((n) => keys.push(this.index.keyOf(n)));
    const rows = this.rows.all<{ key: number; albums: string }>(
      `SELECT f.key, f.albums FROM frame f WHERE f.key IN (SELECT value FROM json_each(?))`,
      JSON.stringify(keys),
    );
    const placed = rows.map(({ key, albums }) => ({ key, place: albumPlace(albums, album) ?? '' }));
    placed.sort((a, b) => (a.place < b.place ? -1 : a.place > b.place ? 1 : a.key - b.key));
    return Uint32Array.from(placed, ({ key }) => this.index.numberOfKey(key));
  }

  private pictures(numbers: Uint32Array, lead: string | null): string[] {
    const keys = Array.from(numbers, (n) => this.index.keyOf(n));
    const rows = this.rows.all<{ picture: string | null }>(
      `SELECT ${SHOWN_PICTURE} AS picture FROM (
         SELECT key, -1 AS nth FROM frame WHERE id = ? AND state = 'here'
         UNION ALL SELECT value, key FROM json_each(?)) j JOIN frame f ON f.key = j.key ORDER BY j.nth`,
      lead,
      JSON.stringify(keys),
    );
    return [...new Set(rows.flatMap(({ picture }) => picture ?? []))].slice(0, SHOWN);
  }
}
