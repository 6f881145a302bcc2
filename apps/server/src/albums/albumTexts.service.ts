import { Injectable } from '@nestjs/common';
import {
  albumsAsJson,
  albumsFromText,
  AlbumTextError,
  ArkivError,
  framesAsNames,
  type NamedFrame,
  type WrittenAlbum,
} from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { FindService } from '../find/find.service';
import { ArchiveTexts } from '../frames/archiveTexts.service';
import { Happenings } from '../events/domainEvents';
import type { AlbumRow } from '../marks/album.entity';
import { AlbumStore } from '../marks/albumStore';
import { SettingsService } from '../settings/settings.service';
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
}

/** In the archive's own folder on its drives. */
const LIST = 'albums.json';

/** The row of a frame that a text may name. */
interface Candidate {
  id: string;
  name: string;
  original: string;
  folder: string;
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
    const written = this.read(text, fileName);
    const found = await this.match(written);
    const outcome: BroughtAlbums = { albums: 0, frames: 0, missing: [], several: [], made: [] };
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
    return outcome;
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
      `SELECT f.id, lower(f.name) AS name, lower(f.original) AS original, f.folder, a.sha256
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
  const shared = all.map((one) => sharedEnd(one.folder, folder));
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
