import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, keyParts, matches, toSql, type Filter } from '@arkiv/core';
import { In } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { VolumesService } from '../volumes/volumes.service';
import { Volume } from '../volumes/volume.entity';
import type { PlacedAsset } from './asset.entity';
import type { CopyAt } from './copy.entity';
import type { Damage } from './damage.entity';
import { Frame } from './frame.entity';
import { LOADED_FRAME, PICTURE, SHOWN_PICTURE, TAKEN } from './frameColumns';
import { queryFrame } from './queryFrame';

/** A frame among those of its shoot. */
export interface FrameInRow {
  id: string;
  /** what tells its camera from others; null: its file does not say */
  body: string | null;
  /** what its camera is called, as corrections of clocks name it; null: its file does not say */
  camera: string | null;
  /** milliseconds since 1970 UTC, corrected; null: not known */
  instant: number | null;
  correctionMillis: number;
  /** key of the picture that shows it */
  picture: string | null;
  /** see {@link Frame.closeTo} */
  closeTo: string | null;
}

export interface PlacedCopy {
  copy: CopyAt;
  volume: Volume;
}

/** Ids in one question: SQLite takes 32,766 parameters. */
const ROWS = 10_000;

const ORIGINALS = `('original', 'clip', 'note', 'sidecar')`;

@Injectable()
export class FramesService {
  constructor(
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
    private readonly long: LongReading,
    private readonly disk: Disk,
  ) {}

  /**
   * A shoot's frames as columns, in order of time; much smaller on the wire than a list of objects. `only`: those
   * of these that are here. As UTF-8 JSON, gzipped where asked for.
   */
  columns(
    shootId: string,
    revision: number,
    { only, gzip }: { only?: readonly string[]; gzip: boolean },
  ): Promise<Buffer> {
    const among = only ? `AND f.id IN (SELECT value FROM json_each(?))` : '';
    return this.long.columns(
      `SELECT ${LOADED_FRAME} FROM frame_here f LEFT JOIN frame_text t ON t."frameId" = f.id
       WHERE f."shootId" = ? ${among} ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId, ...(only ? [JSON.stringify(only)] : [])],
      { revision },
      { gzip },
    );
  }

  /** Ids of a shoot's frames of which no drive that is here holds the file that shows them. */
  away(shootId: string): Promise<string[]> {
    return this.awayWhere(`f."shootId" = ?`, shootId);
  }

  /** The same of some frames. */
  awayOf(ids: readonly string[]): Promise<string[]> {
    return this.awayWhere(`f.id IN (SELECT value FROM json_each(?))`, JSON.stringify(ids));
  }

  private async awayWhere(where: string, asked: string): Promise<string[]> {
    const drives = await this.volumes.list();
    if (drives.every(({ online }) => online)) return [];
    const here = drives.flatMap(({ volume, online }) => (online ? volume.id : []));
    const rows = await this.long.rows<{ id: string }>(
      `SELECT f.id FROM frame_here f WHERE ${where} AND f."shownBy" IS NOT NULL AND NOT EXISTS
         (SELECT 1 FROM copy c WHERE c."assetId" = f."shownBy"
            AND c."volumeId" IN (SELECT value FROM json_each(?)))`,
      [asked, JSON.stringify(here)],
    );
    return rows.map(({ id }) => id);
  }

  /** Keys of the pictures of a shoot that were not measured yet, in order of time. */
  async unmeasured(shootId: string): Promise<string[]> {
    const rows = await this.long.rows<{ picture: string | null }>(
      `SELECT ${PICTURE} AS picture FROM frame_here f WHERE f."shootId" = ? AND f.measures IS NULL
       ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId],
    );
    return rows.flatMap(({ picture }) => picture ?? []);
  }

  /** A shoot's frames in order of time, with what tells which follows which, and what was compared. */
  inRow(shootId: string): Promise<FrameInRow[]> {
    return this.long.rows<FrameInRow>(
      `SELECT f.id, coalesce(f.serial, f.body) AS body, f.body AS camera, f.instant, f."correctionMillis", f."closeTo", ${TAKEN} AS picture FROM frame_here f
       WHERE f."shootId" = ? ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId],
    );
  }

  /** The shoots in which a picture shows a frame. */
  async shootsShownBy(picture: string): Promise<string[]> {
    const rows: { shootId: string }[] = await this.reading.source.query(
      `SELECT DISTINCT f."shootId" FROM asset a JOIN frame_here f ON f.id = a."frameId" AND f."shownBy" = a.id
       WHERE a.id IN (SELECT id FROM asset WHERE picture = ?
         UNION ALL SELECT id FROM asset WHERE sha256 = ? AND picture IS NULL)`,
      [picture, picture],
    );
    return rows.map(({ shootId }) => shootId);
  }

  /** Keys of the pictures that show a shoot's frames, by frame. */
  async pictures(shootId: string): Promise<Map<string, string | null>> {
    const rows: { id: string; picture: string | null }[] = await this.reading.source.query(
      `SELECT f.id, ${SHOWN_PICTURE} AS picture FROM frame_here f WHERE f."shootId" = ?`,
      [shootId],
    );
    return new Map(rows.map(({ id, picture }) => [id, picture]));
  }

  /** The frames that a filter selects, in order of time. */
  async select(shootId: string, filter: Filter): Promise<Frame[]> {
    const { where, parameters } = toSql(filter);
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT f.id FROM frame_here f WHERE f."shootId" = ? AND ${where} ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId, ...parameters],
    );
    const frames = await this.ofShoot(shootId);
    const byId = new Map(frames.map((f) => [f.id, f]));
    // Both sides of the filter language must agree: a frame is handed on only when the predicate says so too.
    return rows
      .map((r) => byId.get(r.id))
      .filter((f): f is Frame => f !== undefined && matches(filter, queryFrame(f)));
  }

  /** Those of these frames that are here, in no order. */
  async here(ids: readonly string[]): Promise<Frame[]> {
    const found: Frame[] = [];
    for (let at = 0; at < ids.length; at += ROWS)
      found.push(
        ...(await this.reading.manager.findBy(Frame, { id: In(ids.slice(at, at + ROWS)), state: 'here' })),
      );
    return found;
  }

  /** All frames of a shoot that are here, in no order. */
  ofShoot(shootId: string): Promise<Frame[]> {
    return this.reading.manager.findBy(Frame, { shootId, state: 'here' });
  }

  async originals(frameIds: readonly string[]): Promise<PlacedAsset[]> {
    if (frameIds.length === 0) return [];
    return this.reading.source.query(
      `SELECT * FROM asset_at WHERE "frameId" IN (SELECT value FROM json_each(?)) AND role IN ${ORIGINALS} ORDER BY "at"`,
      [JSON.stringify(frameIds)],
    );
  }

  /** A file and where it lies by now; null: the archive has it no more. */
  async asset(id: string): Promise<PlacedAsset | null> {
    const [found]: PlacedAsset[] = await this.reading.source.query(`SELECT * FROM asset_at WHERE id = ?`, [
      id,
    ]);
    return found ?? null;
  }

  /** Null: there never was one of this id. */
  frame(id: string): Promise<Frame | null> {
    return this.reading.manager.findOneBy(Frame, { id });
  }

  /** All files of a frame. */
  ofFrame(frameId: string): Promise<PlacedAsset[]> {
    return this.reading.source.query(`SELECT * FROM asset_at WHERE "frameId" = ? ORDER BY "at"`, [frameId]);
  }

  /** The file that lies at a place below its drives, whatever its frame is called; null: none of a shoot does. */
  async atPlace(shootId: string, at: string): Promise<PlacedAsset | null> {
    const [found]: PlacedAsset[] = await this.reading.source.query(
      `SELECT * FROM asset_at WHERE "shootId" = ? AND "at" = ?`,
      [shootId, at],
    );
    return found ?? null;
  }

  /** What a shoot's frames are called, and when they were taken, by their cameras' clocks. */
  calledIn(shootId: string): Promise<Pick<Frame, 'id' | 'name' | 'original' | 'local'>[]> {
    return this.reading.source.query(
      `SELECT id, name, original, local FROM frame_here WHERE "shootId" = ? ORDER BY instant IS NULL, instant, name`,
      [shootId],
    );
  }

  /** All files of a shoot, those of no frame too. */
  ofShootFiles(shootId: string): Promise<PlacedAsset[]> {
    return this.reading.source.query(`SELECT * FROM asset_at WHERE "shootId" = ?`, [shootId]);
  }

  /** What was found wrong with copies of a file. */
  damages(assetId: string): Promise<(Damage & { place: string })[]> {
    return this.reading.source.query(
      `SELECT d.*, COALESCE(d.path, a."at") AS place FROM damage d JOIN asset_at a ON a.id = d."assetId" WHERE d."assetId" = ?`,
      [assetId],
    );
  }

  /** Files of one content. */
  ofContent(sha256: string): Promise<PlacedAsset[]> {
    return this.reading.source.query(`SELECT * FROM asset_at WHERE sha256 = ? ORDER BY id`, [sha256]);
  }

  /** Files that a picture key names, however the picture is shown. */
  ofPicture(key: string): Promise<PlacedAsset[]> {
    const { picture } = keyParts(key);
    return this.reading.source.query(
      `SELECT * FROM asset_at WHERE sha256 = ? AND picture IS NULL UNION ALL SELECT * FROM asset_at WHERE picture = ?`,
      [picture, picture],
    );
  }

  copies(assetId: string): Promise<CopyAt[]> {
    return this.reading.source.query(
      `SELECT a.*, c.path IS NOT NULL AS own FROM copy_at a JOIN copy c ON c."assetId" = a."assetId" AND c."volumeId" = a."volumeId"
       WHERE a."assetId" = ?`,
      [assetId],
    );
  }

  async copiesOf(assetId: string): Promise<PlacedCopy[]> {
    const copies = await this.copies(assetId);
    return Promise.all(copies.map(async (copy) => ({ copy, volume: await this.volumes.get(copy.volumeId) })));
  }

  /**
   * A place of an asset where a file lies, working drives first. Throws `volume.offline` when no copy can be reached, `file.gone` when
   * it lies on none of the drives that can be.
   */
  async locate(assetId: string): Promise<{ file: string; volume: Volume }> {
    const placed = await this.copiesOf(assetId);
    const rank = { working: 0, edit: 1, backup: 2 } as const;
    placed.sort((a, b) => rank[a.volume.role] - rank[b.volume.role]);
    const [gone, away]: [PlacedCopy[], PlacedCopy[]] = [[], []];
    for (const one of placed) {
      if (!(await this.volumes.isOnline(one.volume))) away.push(one);
      else {
        const file = await this.volumes.resolve(one.volume, one.copy.at);
        if (await this.disk.facts(file)) return { file, volume: one.volume };
        gone.push(one);
      }
    }
    const names = (of: readonly PlacedCopy[]) => of.map(({ volume }) => `“${volume.name}”`).join(' or ');
    if (gone.length > 0)
      throw new ArkivError('file.gone', {
        file: path.posix.basename(gone[0]!.copy.at),
        drives: names(gone),
        away: away.length === 0 ? '' : `; its copy on ${names(away)} is not connected`,
      });
    throw new ArkivError('volume.offline', {
      volume: placed.map((p) => p.volume.name).join(' or ') || 'of this file',
    });
  }
}
