import { Injectable } from '@nestjs/common';
import {
  albumKind,
  AlbumTree,
  ArkivError,
  namedAlbums,
  partsOfLine,
  placesAtEnd,
  stamped,
  STUDIO,
  type MarkOperation,
} from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { FindService } from '../find/find.service';
import type { HeldAlbum } from '../find/foundAlbums';
import type { AlbumRow } from '../marks/album.entity';
import { AlbumStore, type AlbumChange, type NewAlbum } from '../marks/albumStore';
import { MarksService } from '../marks/marks.service';
import { PileStore } from '../marks/pileStore';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';

/** In the journal, what was made by the server for a window that asked. */
const WINDOW = 'server';

/** What is done with albums as a whole. */
@Injectable()
export class AlbumsService {
  constructor(
    private readonly store: AlbumStore,
    private readonly piles: PileStore,
    private readonly marks: MarksService,
    private readonly found: FindService,
    private readonly long: LongReading,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  /** A new one; of a pile, whose frames come into it in order of time and stay in the pile too. */
  async create(asked: NewAlbum, pile: string | null): Promise<AlbumRow> {
    if (pile !== null) await this.piles.get(pile);
    await this.checkRule(asked.rule, null);
    const album = await this.store.create(asked);
    if (pile !== null) await this.putIn(album.id, await this.framesOfPile(pile));
    return album;
  }

  async update(id: string, change: AlbumChange): Promise<AlbumRow> {
    await this.checkRule(change.rule ?? null, id);
    return this.store.update(id, change);
  }

  held(): Promise<HeldAlbum[]> {
    return this.found.held();
  }

  /** Puts frames behind those that are in an album already, in this order; those that it holds stay where they stand. */
  async putIn(album: string, frameIds: readonly string[]): Promise<void> {
    const frames = await this.marks.now(frameIds);
    const kind = albumKind(album);
    const outside = new Set(frames.filter(({ albums }) => !albums.includes(`${album}:`)).map(({ id }) => id));
    const going = frameIds.filter((id) => outside.delete(id));
    const at = this.clock.now();
    const shared = stamped({ newId: () => this.ids.newId(), at, window: WINDOW, by: STUDIO });
    const places = placesAtEnd(at, going.length);
    await this.marks.apply(
      going.map((subject, i): MarkOperation => ({
        ...{ id: this.ids.newId(), kind, subject, from: null, to: places[i]! },
        ...shared,
      })),
    );
  }

  private async framesOfPile(pile: string): Promise<string[]> {
    const rows = await this.long.rows<{ id: string }>(
      `SELECT f.id FROM frame_here f WHERE f.piles <> '' AND instr(f.piles, ?) > 0
       ORDER BY f.instant IS NULL, f.instant, f.name`,
      [pile],
    );
    return rows.map(({ id }) => id);
  }

  /** Refuses a rule that asks for nothing, for what there is not, or for its own album. */
  private async checkRule(rule: string | null, id: string | null): Promise<void> {
    if (rule === null) return;
    const refuse = (reason: string) => new ArkivError('album.line', { reason });
    const context = await this.found.context();
    const own = id ?? '';
    const albums = context.albums.map((album) => (album.id === own ? { ...album, rule } : album));
    const named = namedAlbums(new AlbumTree(albums), context);
    const parts = partsOfLine(rule, { ...context, albums: named });
    if (parts.length === 0) throw refuse('nothing stands in it.');
    const wrong = parts.find(({ problem }) => problem !== undefined)?.problem;
    if (wrong !== undefined) throw refuse(wrong);
    const its = named.find((one) => one.id === own)?.filter();
    if (typeof its === 'string') throw refuse(its);
  }
}
