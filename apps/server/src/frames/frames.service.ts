import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  matches,
  pictureOrder,
  QUERY_FIELDS,
  toSql,
  type Filter,
  type QueryFrame,
} from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { VolumesService } from '../volumes/volumes.service';
import { Volume } from '../volumes/volume.entity';
import { Asset } from './asset.entity';
import { Copy } from './copy.entity';
import { Frame } from './frame.entity';

/** The columns of a loaded shoot, in the order in which they are sent. */
export const FRAME_COLUMNS = [
  'id',
  'name',
  'original',
  'verdict',
  'stars',
  'label',
  'instant',
  'local',
  'millis',
  'offsetMinutes',
  'correctionMillis',
  'body',
  'serial',
  'lens',
  'aperture',
  'apertureText',
  'exposure',
  'exposureText',
  'iso',
  'focalLength',
  'width',
  'height',
  'orientation',
  'seconds',
  'role',
  'format',
  'raw',
  'sign',
  'folder',
] as const;

export interface FrameColumns {
  revision: number;
  count: number;
  columns: Record<string, unknown[]>;
}

export interface PlacedCopy {
  copy: Copy;
  volume: Volume;
}

const ORIGINALS = `('original', 'clip', 'note', 'sidecar')`;

@Injectable()
export class FramesService {
  constructor(
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
  ) {}

  /** A shoot's frames as columns, in order of time; much smaller on the wire than a list of objects. */
  async columns(shootId: string, revision: number): Promise<FrameColumns> {
    const selected = FRAME_COLUMNS.map((c) => `f."${c}"`).join(', ');
    const rows: Record<string, unknown>[] = await this.reading.source.query(
      `SELECT ${selected}, ${PICTURE} AS picture FROM frame f WHERE f."shootId" = ? AND f.state = 'here'
       ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId],
    );
    const columns: Record<string, unknown[]> = {};
    for (const key of [...FRAME_COLUMNS, 'picture']) columns[key] = rows.map((row) => row[key]);
    return { revision, count: rows.length, columns };
  }

  /** The frames that a filter selects, in order of time. */
  async select(shootId: string, filter: Filter): Promise<Frame[]> {
    const { where, parameters } = toSql(filter);
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT f.id FROM frame f WHERE f."shootId" = ? AND f.state = 'here' AND ${where} ORDER BY f.instant IS NULL, f.instant, f.name`,
      [shootId, ...parameters],
    );
    const frames = await this.ofShoot(shootId);
    const byId = new Map(frames.map((f) => [f.id, f]));
    // Both sides of the filter language must agree: a frame is handed on only when the predicate says so too.
    return rows
      .map((r) => byId.get(r.id))
      .filter((f): f is Frame => f !== undefined && matches(filter, queryFrame(f)));
  }

  /** All frames of a shoot that are here, in no order. */
  ofShoot(shootId: string): Promise<Frame[]> {
    return this.reading.manager.findBy(Frame, { shootId, state: 'here' });
  }

  async originals(frameIds: readonly string[]): Promise<Asset[]> {
    if (frameIds.length === 0) return [];
    return this.reading.source.query(
      `SELECT * FROM asset WHERE "frameId" IN (SELECT value FROM json_each(?)) AND role IN ${ORIGINALS} ORDER BY path`,
      [JSON.stringify(frameIds)],
    );
  }

  async copiesOf(assetId: string): Promise<PlacedCopy[]> {
    const copies = await this.reading.manager.findBy(Copy, { assetId });
    return Promise.all(copies.map(async (copy) => ({ copy, volume: await this.volumes.get(copy.volumeId) })));
  }

  /** A readable place of an asset, working drives first. Throws `volume.offline` when no copy can be reached. */
  async locate(assetId: string): Promise<{ file: string; volume: Volume }> {
    const placed = await this.copiesOf(assetId);
    const rank = { working: 0, edit: 1, backup: 2 } as const;
    placed.sort((a, b) => rank[a.volume.role] - rank[b.volume.role]);
    for (const { copy, volume } of placed) {
      if (await this.volumes.isOnline(volume))
        return { file: await this.volumes.resolve(volume, copy.path), volume };
    }
    throw new ArkivError('volume.offline', {
      volume: placed.map((p) => p.volume.name).join(' or ') || 'of this file',
    });
  }
}

/** The asset that a frame shows itself by: a JPEG first, a clip last. */
export const PICTURE = `(SELECT a.sha256 FROM asset a WHERE a."frameId" = f.id AND a.role IN ('original', 'clip')
  ORDER BY ${pictureOrder('a')}, a.path LIMIT 1)`;

/** The facts that filters see, by core's own list of fields. */
export function queryFrame(frame: Frame): QueryFrame {
  const fields = Object.keys(QUERY_FIELDS) as (keyof QueryFrame)[];
  return Object.fromEntries(fields.map((field) => [field, frame[field]])) as unknown as QueryFrame;
}
