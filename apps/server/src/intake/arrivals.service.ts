import { Injectable } from '@nestjs/common';
import { pictureOf } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { PLACED_FRAME, placedFrame, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';
import type { Arrival } from '../ledger/arrival.entity';
import { ReadersService } from '../readers/readers.service';

export interface LatestArrival {
  card: string;
  at: number;
  frames: PlacedFrame[];
}

/** What the archive knows of cards: which frames it seems to have, and what came in one go. */
@Injectable()
export class ArrivalsService {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly readers: ReadersService,
  ) {}

  /**
   * Keys of the card's frames that are probably archived: same body, same moment, same size; where a frame has no
   * capture time, same size under the same camera's name. Only equal checksums decide, when the card is taken in.
   */
  async known(readerId: string): Promise<string[]> {
    const { frames } = await this.readers.scan(readerId);
    const asked = frames.flatMap(({ key, facts, files }) => {
      const main = pictureOf(files) ?? files[0];
      if (!main) return [];
      const { capture, serial } = facts;
      const name = main.path.slice(main.path.lastIndexOf('/') + 1);
      return [
        { key, size: main.size, local: capture?.local ?? null, millis: capture?.millis ?? 0, serial, name },
      ];
    });
    const rows: { key: string }[] = await this.reading.source.query(
      `WITH card AS (
         SELECT json_extract(value, '$.key') AS key, json_extract(value, '$.size') AS size,
           json_extract(value, '$.local') AS local, json_extract(value, '$.millis') AS millis,
           json_extract(value, '$.serial') AS serial, json_extract(value, '$.name') AS name FROM json_each(?))
       SELECT DISTINCT card.key FROM card CROSS JOIN frame f ON f.local = card.local AND f.millis = card.millis
         AND f.serial IS card.serial JOIN asset a INDEXED BY asset_frame ON a."frameId" = f.id AND a.size = card.size
       WHERE EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id)
       UNION
       SELECT DISTINCT card.key FROM card CROSS JOIN asset a ON a.size = card.size
       WHERE card.local IS NULL AND a."frameId" IS NOT NULL AND (a."cardPath" = card.name OR a."cardPath" LIKE '%/' || card.name)
         AND EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id)`,
      [JSON.stringify(asked)],
    );
    return rows.map(({ key }) => key);
  }

  /** The other shoots that the same card went into, in the same go. */
  together({ id, visit }: Arrival): Promise<{ jobId: string; title: string }[]> {
    return this.reading.source.query(
      `SELECT id AS "jobId", title FROM arrival WHERE visit = ? AND id <> ? ORDER BY id`,
      [visit, id],
    );
  }

  /** The frames of an intake that are proven, the newest first, as many as are asked for; and how many there are. */
  async framesOf(id: string, limit: number): Promise<{ total: number; frames: PlacedFrame[] }> {
    const mine = `WITH mine AS (SELECT "frameId" AS id, MAX(seq) AS seq FROM arrival_file
      WHERE "arrivalId" = ? AND "frameId" IS NOT NULL GROUP BY 1)`;
    const [{ total }]: [{ total: number }] = await this.reading.source.query(
      `${mine} SELECT COUNT(*) AS total FROM mine CROSS JOIN frame_here f ON f.id = mine.id`,
      [id],
    );
    const rows: PlacedRow[] = await this.reading.source.query(
      `${mine} ${PLACED_FRAME} JOIN mine ON mine.id = f.id ORDER BY mine.seq DESC LIMIT ?`,
      [id, limit],
    );
    return { total, frames: rows.map(placedFrame) };
  }

  /**
   * The card that came last, whole: all its frames that are here, wherever they lie by now. An intake that brought no
   * frame is none that came. Null before the first.
   */
  async latestArrival(): Promise<LatestArrival | null> {
    const [last]: Pick<Arrival, 'visit' | 'card' | 'at'>[] = await this.reading.source.query(
      `SELECT a.visit, a.card, a.at FROM arrival a WHERE EXISTS (
         SELECT 1 FROM arrival_file x CROSS JOIN frame_here f ON f.id = x."frameId" WHERE x."arrivalId" = a.id)
       ORDER BY a.at DESC, a.id DESC LIMIT 1`,
    );
    if (!last) return null;
    const rows = await this.long.rows<PlacedRow>(
      `${PLACED_FRAME} WHERE f.id IN (SELECT x."frameId" FROM arrival a JOIN arrival_file x ON x."arrivalId" = a.id
         WHERE a.visit = ?) ORDER BY f.instant IS NULL, f.instant, f.name`,
      [last.visit],
    );
    return { card: last.card, at: last.at, frames: rows.map(placedFrame) };
  }
}
