import { setImmediate as turn } from 'node:timers/promises';
import {
  Bits,
  facetsOf,
  framesADay,
  FindIndex,
  foldersOf,
  inOrder,
  keywordKey,
  lineFilter,
  Meanings,
  meantWord,
  partsOfLine,
  standingFilter,
  suggestionsFor,
  typedEnd,
  toSql,
  underHeadings,
  Vocabulary,
  type Facets,
  type Filter,
  type Album,
  type FramesADay,
  type FindHeading,
  type FoundFolders,
  type FoundGroup,
  type Hash,
  type KeeperRules,
  type LineContext,
  type LinePart,
  type Suggestion,
  type Term,
  type WordCondition,
} from '@arkiv/core';
import type Database from 'better-sqlite3';
import { jsonColumns } from '../db/jsonColumns';
import { LOADED_FRAME, PICTURE } from '../frames/frameColumns';
import { FindRows, type Changed, type PicturedFrame } from './findRows';
import { asksForRejects, FoundAlbums, type HeldAlbum } from './foundAlbums';
import { FoundTakes } from './foundTakes';

/** What is looked for, and how it is told. */
export interface FindAsked {
  line: string;
  /** the last word is still being typed */
  typing: boolean;
  /** what the studio’s rules reject, and what lies in the bin, is in too */
  rejects: boolean;
  bin: boolean;
  heading: FindHeading;
  oldestFirst: boolean;
  /** one frame for each take */
  fold: boolean;
  /** key of a frame: what is like its picture, the most alike first */
  like: number | null;
  /** id of the album that is looked into; null: all of the archive */
  album: string | null;
  /** what a picture that is no frame is like */
  likeHash: Hash | null;
  /** frames with a greater key are new to whoever asks */
  seen: number | null;
}

/** What the studio says by which a line is read. */
export interface FindContext extends Pick<LineContext, 'labels' | 'stages' | 'piles' | 'drives'> {
  rules: KeeperRules;
  albums: readonly Album[];
}

/** Found frames that stand under one heading, with what it is called. */
export interface NamedGroup extends FoundGroup {
  /** of a shoot its title, of an arrival its card, of an album its name */
  title: string | null;
  /** YYYY-MM-DD, of a shoot or an arrival */
  date: string | null;
}

export interface Found {
  /** by which pages of it are asked for */
  token: string;
  parts: LinePart[];
  count: number;
  /** frames that were found where one stands for each take; null: each stands for itself, be it that there are too many to fold */
  folded: number | null;
  /** found as well, and left out as the studio’s rules reject them */
  rejects: number;
  /** found as well, and in the bin */
  binned: number;
  groups: NamedGroup[];
  /** the line with its unknown words as they were probably meant; null: nothing better is known */
  meant: string | null;
  /** frames that came after the key that was seen */
  fresh: number;
  /** the greatest key */
  newest: number;
  /** frames that are known so far, and how many there are; null: all are */
  reading: { done: number; of: number } | null;
}

interface Result {
  numbers: Uint32Array;
  found: Bits;
  /** how many of its take were found, by number; null: each frame stands for itself */
  hits: Map<number, number> | null;
}

/** Frames that are read at once while all are: some 30 ms, so that a question in between does not wait. */
const READ_AT_ONCE = 1000;
const HASHES_AT_ONCE = 5000;
/** Results that pages can be asked of: a few windows, each with some that Back leads to. A million frames take 4 MB in one. */
const KEPT = 12;
/** Bits by which pictures differ that are still called alike: 64 of any two are half, some 32 ± 4; of bursts’ some ten. */
const ALIKE = 18;
const MOST_ALIKE = 500;
/** Groups that are told: more headings nobody scrolls past. */
const MOST_GROUPS = 20_000;

/** Was thrown where a question was overtaken by the next. */
export class Overtaken extends Error {}

/** Finds frames among all of the archive. Everything here runs in a thread of its own. */
export class Finder {
  private readonly index = new FindIndex();
  private readonly rows: FindRows;
  private readonly takes: FoundTakes;
  private readonly results = new Map<string, Result>();
  private made = 0;
  private reading: { done: number; of: number } | null = { done: 0, of: 0 };
  private vocabulary = new Vocabulary([]);
  private meanings = new Meanings(this.vocabulary);
  /** the archive’s keywords as they are written, by what tells them apart */
  private written = new Map<string, string[]>();
  private writtenAt = 0;
  private newest = 0;
  /** the key of the picture up to which is read what pictures are like; null: all of them */
  private hashesAt: string | null = '';
  /** pictures that were looked at since the start, and not read yet */
  private readonly looked = new Set<string>();

  constructor(private readonly database: Database.Database) {
    this.rows = new FindRows(database);
    this.takes = new FoundTakes(this.rows);
  }

  /** Reads all frames, the newest first; questions in between find what is known so far. */
  async load(): Promise<void> {
    this.readVocabulary();
    this.readShoots();
    const { frames, above } = this.rows.extent();
    this.newest = above - 1;
    this.reading = { done: 0, of: frames };
    for (let before = above; ;) {
      const rows = this.rows.before(before, READ_AT_ONCE);
      if (rows.length === 0) break;
      this.index.put(rows);
      before = rows.at(-1)!.key;
      this.reading.done += rows.length;
      await turn();
    }
    this.index.words.settle();
    this.reading = null;
    while (this.readHashes()) await turn();
    this.readLooked();
  }

  /** Reads again what has changed. */
  async refresh(changed: Changed): Promise<void> {
    const keys = new Set(this.rows.keysOf(changed));
    // What went elsewhere, or was deleted, is known here only.
    for (const shoot of changed.shoots) for (const key of this.index.keysOfShoot(shoot)) keys.add(key);
    const asked = [...keys];
    for (let at = 0; at < asked.length; at += READ_AT_ONCE) {
      const some = asked.slice(at, at + READ_AT_ONCE);
      const rows = this.rows.byKeys(some);
      const there = new Set(rows.map(({ key }) => key));
      this.takes.forget(some.flatMap((key) => this.index.shootOf.get(this.index.numberOfKey(key)) ?? []));
      this.index.put(rows);
      this.takes.forget(rows.map(({ shootId }) => shootId));
      this.index.remove(some.filter((key) => !there.has(key)));
      for (const { key } of rows) this.newest = Math.max(this.newest, key);
      await turn();
    }
  }

  readShoots(): void {
    for (const shoot of this.rows.shoots()) this.index.setShoot(shoot);
  }

  readVocabulary(): void {
    const rows = this.rows.all<Omit<Term, 'synonyms' | 'deliver'> & { synonyms: string; deliver: number }>(
      `SELECT id, word, parent, synonyms, kind, number, deliver FROM term`,
    );
    const terms = rows.map((row): Term => ({
      ...row,
      synonyms: JSON.parse(row.synonyms) as string[],
      deliver: row.deliver !== 0,
    }));
    this.vocabulary = new Vocabulary(terms);
    this.meanings = new Meanings(this.vocabulary);
  }

  /** Frames of shoots were compared with each other. */
  forgetTakes(shoots: readonly string[]): void {
    this.takes.forget(shoots);
  }

  /** Pictures were looked at: what they are like is read when somebody asks for it. */
  setLooked(pictures: readonly string[]): void {
    for (const picture of pictures) this.looked.add(picture);
  }

  setOnline(ids: readonly string[]): void {
    this.index.setOnline(ids);
  }

  /** What a line finds. `isOvertaken`: nobody waits for the answer any more. */
  async find(asked: FindAsked, context: FindContext, isOvertaken: () => boolean): Promise<Found> {
    const find = (filter: Filter, among: Bits): Promise<Bits> =>
      this.index.find(filter, among, (leaf, keys) => this.read(leaf, keys, isOvertaken));
    const albums = this.albumsOf(context);
    const known: LineContext = { ...this.lineContext(context), albums: albums.named, typing: asked.typing };
    const parts = partsOfLine(asked.line, known);
    const album = asked.album === null ? null : albums.filterOf(asked.album);
    if (typeof album === 'string') parts.unshift(albums.wrong(asked.album!, album));
    const base =
      album === null
        ? this.index.all(true)
        : await find(typeof album === 'string' ? { any: [] } : album, this.index.all(true));
    const within = await find(lineFilter(parts), base);
    const alike = this.alike(asked, within);
    const all = alike ? this.setOf(alike) : within;
    const here = this.index.all();
    const out = all.copy().and(here);
    const binned = all.count - out.count;
    const reject = await find(standingFilter('reject', context.rules), out);
    const withRejects =
      asked.rejects ||
      (asked.album !== null && albums.holdsRejects(asked.album)) ||
      parts.some(({ filter }) => asksForRejects(filter, context.rules));
    const found = asked.bin ? all.copy() : out.copy();
    if (!withRejects) found.without(reject);
    const single = alike
      ? underHeadings(
          this.index,
          alike.filter((n) => found.has(n)),
          'none',
        )
      : asked.heading === 'album' && asked.album !== null
        ? await albums.arranged(asked.album, found, find, asked.oldestFirst)
        : underHeadings(this.index, inOrder(this.index, found, asked.oldestFirst), asked.heading);
    const takes = asked.fold && !alike && asked.heading !== 'album' ? this.folded(single.numbers) : null;
    const { numbers, groups } = takes ? underHeadings(this.index, takes.numbers, asked.heading) : single;
    const token = `${process.pid}-${++this.made}`;
    this.results.set(token, { numbers, found, hits: takes?.hits ?? null });
    for (const old of this.results.keys()) {
      if (this.results.size <= KEPT) break;
      this.results.delete(old);
    }
    return {
      ...{ token, parts, groups: this.named(asked.heading, groups.slice(0, MOST_GROUPS), albums) },
      count: numbers.length,
      folded: takes ? single.numbers.length : null,
      rejects: withRejects ? 0 : reject.count,
      binned: asked.bin ? 0 : binned,
      meant: numbers.length === 0 ? await this.meantLine(asked.line, parts, known) : null,
      fresh: asked.seen === null ? 0 : this.newerThan(asked.seen, numbers),
      newest: this.newest,
      reading: this.reading,
    };
  }

  /** What each album holds, see {@link HeldAlbum}. */
  held(context: FindContext, isOvertaken: () => boolean): Promise<HeldAlbum[]> {
    return this.albumsOf(context).held(
      (filter, among) => this.index.find(filter, among, (leaf, keys) => this.read(leaf, keys, isOvertaken)),
      isOvertaken,
    );
  }

  private lineContext(context: FindContext): Omit<LineContext, 'albums'> & { rules: KeeperRules } {
    const { albums: _, ...plain } = context;
    return { ...plain, meant: (how, text) => this.meant(how, text) };
  }

  private albumsOf(context: FindContext): FoundAlbums {
    return new FoundAlbums(this.index, this.rows, context.albums, this.lineContext(context));
  }

  /** A page of a result as JSON: `{ "count", "columns" }`, each frame with where it stands in it (`nth`); null: it is not kept any more. */
  page(token: string, from: number, count: number): string | null {
    const result = this.kept(token);
    if (!result) return null;
    const keys = Array.from(result.numbers.subarray(from, from + count), (n) => this.index.keyOf(n));
    const hits =
      result.hits && Array.from(result.numbers.subarray(from, from + count), (n) => result.hits!.get(n) ?? 1);
    return this.columnsOf('f.key = j.value', keys, from, hits);
  }

  /** Frames by their ids, as a page of them; those that are nowhere any more are left out. */
  frames(ids: readonly string[]): string {
    return this.columnsOf('f.id = j.value', ids, 0);
  }

  private columnsOf(
    by: string,
    values: readonly (number | string)[],
    from: number,
    hits: readonly number[] | null = null,
  ): string {
    const { count, columns } = jsonColumns(
      this.database,
      `SELECT j.key + ? AS nth, f."key", f."shootId", s.title AS "shoot", nullif(s.client, '') AS client,
         nullif(s.place, '') AS place, f.state = 'binned' AS binned,
         json_extract(?, '$[' || j.key || ']') AS hits, ${LOADED_FRAME}
       FROM json_each(?) j JOIN frame f ON ${by} AND f.state IN ('here', 'binned') JOIN shoot s ON s.id = f."shootId"
       LEFT JOIN frame_text t ON t."frameId" = f.id ORDER BY j.key`,
      [from, JSON.stringify(hits ?? []), JSON.stringify(values)],
    );
    const told = columns.map(({ name, json }) => `${JSON.stringify(name)}:${json}`);
    return `{"count":${count},"columns":{${told.join(',')}}}`;
  }

  /** Ids of a result’s frames, in their order; null: it is not kept any more. */
  ids(token: string, most: number): string[] | null {
    const result = this.kept(token);
    if (!result) return null;
    const keys = Array.from(result.numbers.subarray(0, most), (n) => this.index.keyOf(n));
    return this.rows
      .all<{ id: string }>(
        `SELECT f.id FROM json_each(?) j JOIN frame f ON f.key = j.value ORDER BY j.key`,
        JSON.stringify(keys),
      )
      .map(({ id }) => id);
  }

  facets(token: string): Facets | null {
    const result = this.kept(token);
    return result && facetsOf(this.index, result.found);
  }

  /** The frames whose pictures are most like one, with the keys of these pictures. */
  nearest(hash: Hash, most: number, within: number): { id: string; picture: string }[] {
    while (this.readHashes());
    this.readLooked();
    const keys = this.index.alike(hash, this.index.all(), most, within).map(({ n }) => this.index.keyOf(n));
    return this.rows.all(
      `SELECT f.id, ${PICTURE} AS picture FROM json_each(?) j JOIN frame f ON f.key = j.value ORDER BY j.key`,
      JSON.stringify(keys),
    );
  }

  /** Frames with the keys of their pictures, those that came last first, before a frame's key (null: from the first); and how many there are in all. */
  pictures(before: number | null, most: number): { frames: PicturedFrame[]; of: number } {
    const { frames: of, above } = this.rows.extent();
    return { frames: this.rows.pictures(before ?? above, most), of };
  }

  /** See {@link FramesADay}. */
  days(year: number): FramesADay {
    return framesADay(this.index, year);
  }

  /** See {@link FoundFolders}. */
  folders(path: string): FoundFolders {
    return foldersOf(this.index, path);
  }

  suggestions(line: string): Suggestion[] {
    const typed = typedEnd(line);
    if (typed === null) return [];
    const all = suggestionsFor(this.index, typed.text);
    return typed.field === null ? all : all.filter(({ kind }) => kind === typed.field);
  }

  /** Keywords of the archive that stand below what a word means in the vocabulary, or are other words for it. */
  private meant(condition: WordCondition, text: string): readonly string[] {
    if (this.vocabulary.terms.length === 0) return [];
    const written = this.keywords();
    return this.meanings.of(condition, text, (word) => written.get(keywordKey(word)) ?? []);
  }

  private keywords(): ReadonlyMap<string, string[]> {
    for (const { value } of this.index.valuesOf('keywords', this.writtenAt)) {
      this.writtenAt += 1;
      const key = keywordKey(value);
      this.written.set(key, [...(this.written.get(key) ?? []), value]);
    }
    return this.written;
  }

  private async read(
    leaf: Parameters<Parameters<FindIndex['find']>[2]>[0],
    keys: readonly number[],
    isOvertaken: () => boolean,
  ): Promise<number[]> {
    await turn();
    if (isOvertaken()) throw new Overtaken();
    const { where, parameters } = toSql(leaf);
    return this.rows
      .all<{ key: number }>(
        `SELECT f.key FROM frame f WHERE f.key IN (SELECT value FROM json_each(?)) AND ${where}`,
        JSON.stringify(keys),
        ...parameters,
      )
      .map(({ key }) => key);
  }

  private folded(numbers: Uint32Array) {
    const { index } = this;
    return this.takes.fold(
      numbers,
      (n) => index.shootOf.get(n)!,
      (n) => index.keyOf(n),
      (key) => index.numberOfKey(key),
    );
  }

  /** Numbers of what is like the picture that is asked for, the most alike first; null: none is asked for. */
  private alike({ like, likeHash }: FindAsked, within: Bits): Uint32Array | null {
    if (like === null && likeHash === null) return null;
    const hash = likeHash ?? this.hashOf(like!);
    if (!hash) return new Uint32Array();
    const found = this.index.alike(hash, within, MOST_ALIKE, ALIKE).map(({ n }) => n);
    // Others may look quite the same, as many as are given: the one that is asked about stands first.
    const own = like === null ? -1 : this.index.numberOfKey(like);
    return Uint32Array.from(own >= 0 && within.has(own) ? [own, ...found.filter((n) => n !== own)] : found);
  }

  private setOf(numbers: Iterable<number>): Bits {
    const set = Bits.of(this.index.room);
    for (const n of numbers) set.add(n);
    return set;
  }

  private hashOf(key: number): Hash | null {
    while (this.readHashes());
    this.readLooked();
    return this.index.hashOf(key);
  }

  /** Reads some of what had been looked at before; false: that was all. */
  private readHashes(): boolean {
    if (this.hashesAt === null) return false;
    const { found, last } = this.rows.hashesAfter(this.hashesAt, HASHES_AT_ONCE);
    for (const { key, hash } of found) this.index.setHash(key, hash);
    this.hashesAt = last;
    return last !== null;
  }

  /** Reads what was looked at since; what is not written yet is read the next time. */
  private readLooked(): void {
    if (this.looked.size === 0) return;
    const { found, known } = this.rows.hashesOf([...this.looked]);
    for (const { key, hash } of found) this.index.setHash(key, hash);
    for (const picture of known) this.looked.delete(picture);
  }

  private named(heading: FindHeading, groups: readonly FoundGroup[], albums: FoundAlbums): NamedGroup[] {
    if (heading === 'album')
      return groups.map((group) => ({ ...group, title: albums.nameOf(group.key ?? ''), date: null }));
    if (heading === 'shoot')
      return groups.map((group) => {
        const shoot = group.key === null ? null : this.index.shoot(group.key);
        return { ...group, title: shoot?.title ?? null, date: shoot?.date ?? null };
      });
    if (heading === 'arrival') {
      const arrivals = new Map(
        this.rows.arrivals(groups.flatMap(({ key }) => key ?? [])).map((arrival) => [arrival.id, arrival]),
      );
      return groups.map((group) => {
        const arrival = group.key === null ? undefined : arrivals.get(group.key);
        const date = arrival ? new Date(arrival.at).toISOString().slice(0, 10) : null;
        return { ...group, title: arrival?.card ?? null, date };
      });
    }
    return groups.map((group) => ({ ...group, title: null, date: null }));
  }

  /** The line with its words that nothing has as they were probably meant. */
  private async meantLine(
    line: string,
    parts: readonly LinePart[],
    context: LineContext,
  ): Promise<string | null> {
    let better = line;
    for (const part of [...parts].reverse()) {
      const { asked } = part;
      if (!asked || asked.condition === 'phrase') continue;
      const alone = await this.index.find(part.filter, this.index.all(), () => Promise.resolve([]));
      if (!alone.isEmpty) continue;
      const vocabulary = this.vocabulary.terms.flatMap(({ word, synonyms }) => [word, ...synonyms]);
      const meant = meantWord(
        this.index,
        asked.text,
        vocabulary.map((word) => word.toLowerCase()),
      );
      if (meant === null) continue;
      const [before, after] = [better.slice(0, part.from), better.slice(part.to)];
      better = `${before}${meant}${after}`;
    }
    if (better === line) return null;
    // Something is found by it, or nothing is better.
    const found = await this.index.find(lineFilter(partsOfLine(better, context)), this.index.all(), () =>
      Promise.resolve([]),
    );
    return found.isEmpty ? null : better;
  }

  private newerThan(key: number, numbers: Uint32Array): number {
    let count = 0;
    for (const n of numbers) if (this.index.keyOf(n) > key) count += 1;
    return count;
  }

  private kept(token: string): Result | null {
    const result = this.results.get(token);
    if (!result) return null;
    // The one that was asked for last goes last.
    this.results.delete(token);
    this.results.set(token, result);
    return result;
  }
}
