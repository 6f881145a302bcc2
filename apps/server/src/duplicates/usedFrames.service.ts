import { grouped } from '../system/grouped';
import { Injectable } from '@nestjs/common';
import { pilesOf, type HeldFile } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { PLACED_FRAME, placedFrame, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';

/** A frame among frames of other shoots, with what was done with it. */
export interface UsedFrame extends PlacedFrame {
  note: string | null;
  /** ids of the piles that it is in */
  piles: string[];
  /** how often it was handed to editing, and delivered */
  handedOff: number;
  delivered: number;
  /** its files: how many, and the bytes of all their copies on all drives */
  files: number;
  bytes: number;
}

/** A file of a frame; see {@link UsedFrames.files}. */
export interface FileRow extends HeldFile {
  frameId: string;
  bytes: number;
}

/** Frames anywhere in the archive, with all that somebody has to know who decides which of them is wanted. */
@Injectable()
export class UsedFrames {
  constructor(private readonly reading: Reading) {}

  /** Files of frames, by frame, without sidecars. `ids` as JSON. */
  async files(ids: string): Promise<Map<string, FileRow[]>> {
    const rows: FileRow[] = await this.reading.source.query(
      `SELECT a."frameId", a.sha256, a.size * COUNT(c."assetId") AS bytes, COUNT(c."verifiedAt") AS copies
       FROM asset a LEFT JOIN copy c ON c."assetId" = a.id
       WHERE a."frameId" IN (SELECT value FROM json_each(?)) AND a.role <> 'sidecar' GROUP BY a.id`,
      [ids],
    );
    return grouped(rows, ({ frameId }) => frameId);
  }

  /** Frames that are here, by id. `ids` as JSON, with their files. */
  async of(ids: string, filesOf: ReadonlyMap<string, FileRow[]>): Promise<Map<string, UsedFrame>> {
    const rows: (PlacedRow & { note: string | null; piles: string })[] = await this.reading.source.query(
      `SELECT p.*, f.note, f.piles FROM (${PLACED_FRAME}) p JOIN frame f ON f.id = p.id
       WHERE p.id IN (SELECT value FROM json_each(?))`,
      [ids],
    );
    const [handedOff, delivered] = await Promise.all([
      this.counted('handoff_file', 'handoffId', 'copied', ids),
      this.counted('delivery_file', 'deliveryId', 'made', ids),
    ]);
    return new Map(
      rows.map(({ note, piles, ...row }) => {
        const own = filesOf.get(row.id) ?? [];
        return [
          row.id,
          {
            ...placedFrame(row),
            ...{ note, piles: pilesOf({ piles }) },
            ...{ handedOff: handedOff.get(row.id) ?? 0, delivered: delivered.get(row.id) ?? 0 },
            ...{ files: own.length, bytes: own.reduce((sum, { bytes }) => sum + bytes, 0) },
          },
        ] as const;
      }),
    );
  }

  /** In how many hand-offs or deliveries each frame was. */
  private async counted(
    table: 'handoff_file' | 'delivery_file',
    of: string,
    fate: string,
    ids: string,
  ): Promise<Map<string, number>> {
    const rows: { frameId: string; n: number }[] = await this.reading.source.query(
      `SELECT "frameId", COUNT(DISTINCT "${of}") AS n FROM "${table}"
       WHERE "frameId" IN (SELECT value FROM json_each(?)) AND fate = ? GROUP BY 1`,
      [ids, fate],
    );
    return new Map(rows.map(({ frameId, n }) => [frameId, n]));
  }
}
