import { Injectable } from '@nestjs/common';
import {
  albumsAsJson,
  albumsFromText,
  albumsOfTable,
  AlbumTextError,
  ArkivError,
  frameTable,
  framesAsNames,
  joinedKeywords,
  keywordsIn,
  stamped,
  wordChanges,
  type FrameTable,
  type Label,
  type ListedMarks,
  type MarkOperation,
  type NamedFrame,
  type WrittenAlbum,
} from '@arkiv/core';
import { In } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { FindService } from '../find/find.service';
import { ArchiveTexts } from '../frames/archiveTexts.service';
import { Frame } from '../frames/frame.entity';
import { Happenings } from '../events/domainEvents';
import type { AlbumRow } from '../marks/album.entity';
import { AlbumStore } from '../marks/albumStore';
import { MarksService } from '../marks/marks.service';
import { labelFor } from '../settings/labelFor';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { AlbumsService } from './albums.service';

/** What a text of albums would bring, or has brought. */
export interface BroughtAlbums {
  albums: number;
  frames: number;
  /** names that nothing here has */
  missing: string[];
  /** names that several frames have, where nothing says which is meant: none of them is put in */
  several: string[];
  /** ids of the outermost albums that were made; empty where nothing was */
  made: string[];
  /** frames of which a table says something that they did not have */
  marked: number;
  /** what of a table is not taken over, in words */
  left: string[];
}

/** In the archive's own folder on its drives. */
const LIST = 'albums.json';

/** The row of a frame that a text may name. */
interface Candidate {
  id: string;
  name: string;
  original: string;
  /** its shoot's, and the one that it lies in: a text may write either */
  folder: string;
  place: string;
  sha256: string | null;
}

/** What is asked of frames to name them: their file's name, place and checksum. */
const NAMED = `SELECT f.id, f.folder, a.sha256,
    CASE WHEN a.name LIKE '/%' THEN f.name ELSE f.name || coalesce(a.name, '') END AS name
  FROM json_each(?) j JOIN frame_here f ON f.id = j.value LEFT JOIN asset a ON a.id = f."shownBy" ORDER BY j.key`;

/** Albums as texts that other programs read, and back. */
@Injectable()
export class AlbumTexts {
  constructor(
    private readonly store: AlbumStore,
    private readonly albums: AlbumsService,
    private readonly found: FindService,
    private readonly long: LongReading,
    private readonly settings: SettingsService,
    private readonly reading: Reading,
    private readonly marks: MarksService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    archive: ArchiveTexts,
    happenings: Happenings,
  ) {
    archive.list(LIST, () => this.tree());
    happenings.on('albums', () => archive.changed(LIST));
  }

  /** An album with those below it, or all (null), with the frames that are put in by hand. */
  async json(id: string | null): Promise<string> {
    const tree = await this.store.tree();
    const from = id === null ? tree.children(null) : [tree.get(id) ?? (await this.store.get(id))];
    const frames = new Map<string, NamedFrame[]>();
    for (const outer of from)
      for (const album of tree.below(outer.id))
        if (album.rule === null) frames.set(album.id, await this.named(await this.idsIn(album.id, true)));
    return albumsAsJson(tree, from, await this.settings.archive(), (album) => frames.get(album.id) ?? []);
  }

  /** The frames of an album and of those below it, as they stand there, by the names of their files. */
  async names(id: string): Promise<string> {
    await this.store.get(id);
    return framesAsNames(await this.named(await this.idsIn(id, false)));
  }

  /** What a text names among the frames that are here; `bring`: makes its albums. Throws `album.text`. */
  async bring(text: string, fileName: string, bring: boolean): Promise<BroughtAlbums> {
    const table = frameTable(text);
    const written = table ? albumsOfTable(table, fileName) : this.read(text, fileName);
    const found = await this.match(written);
    const outcome: BroughtAlbums = {
      ...{ albums: 0, frames: 0, missing: [], several: [], made: [], marked: 0 },
      left: table?.left ?? [],
    };
    const taken = new Set((await this.store.tree()).children(null).map(({ name }) => name.toLowerCase()));
    for (const album of written) {
      const made = await this.take(
        { ...album, name: freeName(album.name, taken) },
        null,
        found,
        bring,
        outcome,
      );
      if (made) outcome.made.push(made.id);
    }
    if (table) await this.mark(table, found, bring, outcome);
    // A frame that stands in several albums is named once.
    outcome.missing = [...new Set(outcome.missing)];
    outcome.several = [...new Set(outcome.several)];
    return outcome;
  }

  /** What a table says of frames, where they do not have it: one group, which is taken back together. */
  private async mark(
    { frames }: FrameTable,
    found: Map<NamedFrame, string | 'several' | null>,
    bring: boolean,
    outcome: BroughtAlbums,
  ): Promise<void> {
    const settings = await this.settings.all();
    const said = new Map<string, ListedMarks>();
    for (const { frame, marks } of frames) {
      const id = found.get(frame);
      if (id && id !== 'several') said.set(id, { ...said.get(id), ...marks });
    }
    const ids = [...said.keys()];
    const shared = stamped({ newId: () => this.ids.newId(), at: this.clock.now(), window: 'list' });
    const unknown = new Map<string, number>();
    for (let from = 0; from < ids.length; from += PART) {
      const rows = await this.reading.manager.findBy(Frame, { id: In(ids.slice(from, from + PART)) });
      const operations: MarkOperation[] = [];
      for (const frame of rows) {
        const { label: text, ...marks } = said.get(frame.id)!;
        const label = text === undefined ? undefined : labelFor(text, settings);
        if (label === null) unknown.set(text!, (unknown.get(text!) ?? 0) + 1);
        const changes = changesOf(frame, { ...marks, ...(label ? { label } : {}) });
        if (changes.length > 0) outcome.marked += 1;
        for (const change of changes)
          operations.push({ id: this.ids.newId(), subject: frame.id, ...change, ...shared });
      }
      if (bring && operations.length > 0) await this.marks.apply(operations);
    }
    for (const [text, times] of unknown)
      outcome.left.push(`label “${text}” of ${times} frames, which no label of the studio means`);
  }

  private read(text: string, fileName: string): WrittenAlbum[] {
    try {
      return albumsFromText(text, fileName);
    } catch (error) {
      if (!(error instanceof AlbumTextError)) throw error;
      throw new ArkivError('album.text', { file: fileName, reason: error.message });
    }
  }

  private async take(
    album: WrittenAlbum,
    parent: string | null,
    found: Map<NamedFrame, string | 'several' | null>,
    bring: boolean,
    outcome: BroughtAlbums,
  ): Promise<AlbumRow | null> {
    const ids = album.frames.map((frame) => found.get(frame) ?? null);
    album.frames.forEach(({ folder, name }, i) => {
      const words = folder === '' ? name : `${folder}/${name}`;
      if (ids[i] === null) outcome.missing.push(words);
      else if (ids[i] === 'several') outcome.several.push(words);
    });
    const known = ids.filter((id): id is string => id !== null && id !== 'several');
    outcome.albums += 1;
    outcome.frames += new Set(known).size;
    const row = bring ? await this.store.create({ name: album.name, parent, rule: album.rule }) : null;
    if (row && album.rule === null) await this.albums.putIn(row.id, known);
    const lead = album.lead === null ? null : ids[album.lead];
    if (row && lead && lead !== 'several') await this.store.update(row.id, { lead });
    const taken = new Set<string>();
    for (const below of album.albums)
      await this.take(
        { ...below, name: freeName(below.name, taken) },
        row?.id ?? null,
        found,
        bring,
        outcome,
      );
    return row;
  }

  /** Which frame each name of a text means: by its id, its content, its folder and name, its name alone. */
  private async match(written: readonly WrittenAlbum[]): Promise<Map<NamedFrame, string | 'several' | null>> {
    const all: NamedFrame[] = [];
    const gather = (albums: readonly WrittenAlbum[]): void => {
      for (const album of albums) {
        all.push(...album.frames);
        gather(album.albums);
      }
    };
    gather(written);
    const keys = JSON.stringify([...new Set(all.flatMap(({ name }) => namesOf(name)))]);
    const rows = await this.long.rows<Candidate>(
      `SELECT f.id, lower(f.name) AS name, lower(f.original) AS original, f.folder, f.place, a.sha256
       FROM frame_here f LEFT JOIN asset a ON a.id = f."shownBy"
       WHERE f.id IN (SELECT value FROM json_each(?)) OR a.sha256 IN (SELECT value FROM json_each(?))
         OR lower(f.name) IN (SELECT value FROM json_each(?)) OR lower(f.original) IN (SELECT value FROM json_each(?))`,
      [
        JSON.stringify(all.flatMap(({ id }) => id ?? [])),
        JSON.stringify(all.flatMap(({ sha256 }) => sha256 ?? [])),
        ...[keys, keys],
      ],
    );
    const byId = new Map(rows.map((row) => [row.id, row]));
    const bySum = grouped(rows, ({ sha256 }) => (sha256 === null ? [] : [sha256]));
    const byName = grouped(rows, ({ name, original }) => [
      ...new Set([...namesOf(name), ...namesOf(original)]),
    ]);
    return new Map(
      all.map((frame) => {
        if (frame.id !== undefined && byId.has(frame.id)) return [frame, frame.id];
        const equal = frame.sha256 === undefined ? [] : (bySum.get(frame.sha256) ?? []);
        const named = namesOf(frame.name).flatMap((name) => byName.get(name) ?? []);
        return [frame, theOne(equal.length > 0 ? equal : named, frame.folder)];
      }),
    );
  }

  /** What stands in the archive's own folder: the albums without their frames, which the shoots' histories tell. */
  private async tree(): Promise<string | null> {
    const tree = await this.store.tree();
    if (tree.albums.length === 0) return null;
    return albumsAsJson(tree, tree.children(null), await this.settings.archive(), () => []);
  }

  /** Ids of an album's frames in its order. `alone`: not of those below it. */
  private async idsIn(id: string, alone: boolean): Promise<string[]> {
    const asked = { line: '', typing: false, rejects: true, bin: false, oldestFirst: true, fold: false };
    const text = await this.found.find(
      { ...asked, heading: 'album', like: null, seen: null, album: id },
      () => undefined,
    );
    const { token, groups } = JSON.parse(text!) as {
      token: string;
      groups: { key: string; from: number; count: number }[];
    };
    const all = await this.found.ids(token, Number.MAX_SAFE_INTEGER);
    if (!alone) return all;
    const own = groups.find(({ key }) => key === id);
    return own ? all.slice(own.from, own.from + own.count) : [];
  }

  private named(ids: readonly string[]): Promise<(NamedFrame & { id: string })[]> {
    return this.long
      .rows<NamedFrame & { id: string; sha256: string | null }>(NAMED, [JSON.stringify(ids)])
      .then((rows) => rows.map(({ sha256, ...row }) => ({ ...row, ...(sha256 ? { sha256 } : {}) })));
  }
}

/** Frames looked up at once: some milliseconds. */
const PART = 500;

/** What becomes another of a frame by what a table says of it; keywords are added to those that it has. */
function changesOf(
  frame: Frame,
  { keywords, ...marks }: Omit<ListedMarks, 'label'> & { label?: Label },
): Pick<MarkOperation, 'kind' | 'from' | 'to'>[] {
  const fields = Object.keys(marks) as (keyof typeof marks)[];
  const all = keywords && joinedKeywords([...keywordsIn(frame.keywords), ...keywords]);
  return [
    ...fields
      .filter((kind) => marks[kind] !== frame[kind])
      .map((kind) => ({ kind, from: frame[kind], to: marks[kind] ?? null })),
    ...(all === undefined ? [] : wordChanges('keywords', frame.keywords, all)),
  ];
}

/** A name in lower case, and without its ending. */
function namesOf(name: string): string[] {
  const whole = name.toLowerCase();
  const bare = whole.replace(/\.[^.]{1,5}$/, '');
  return bare === whole || bare === '' ? [whole] : [whole, bare];
}

/** Of several frames the one whose folder ends as the text's does; null: none is there. */
function theOne(of: readonly Candidate[], folder: string): string | 'several' | null {
  const all = [...new Map(of.map((one) => [one.id, one])).values()];
  if (all.length <= 1) return all[0]?.id ?? null;
  const shared = all.map((one) => Math.max(sharedEnd(one.folder, folder), sharedEnd(one.place, folder)));
  const most = Math.max(...shared);
  const best = all.filter((_, i) => shared[i] === most);
  return most > 0 && best.length === 1 ? best[0]!.id : 'several';
}

/** How many folders two paths have in common, from their ends. */
function sharedEnd(a: string, b: string): number {
  const [ours, theirs] = [a, b].map((path) => path.toLowerCase().split('/').reverse()) as [
    string[],
    string[],
  ];
  const differs = ours.findIndex((part, i) => part !== theirs[i]);
  return differs < 0 ? ours.length : differs;
}

/** A name that nothing beside it has. */
function freeName(name: string, taken: Set<string>): string {
  let free = name;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name} (${n})`;
  taken.add(free.toLowerCase());
  return free;
}

function grouped<T>(rows: readonly T[], keysOf: (row: T) => readonly string[]): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const row of rows)
    for (const key of keysOf(row)) {
      const group = groups.get(key);
      if (group) group.push(row);
      else groups.set(key, [row]);
    }
  return groups;
}
