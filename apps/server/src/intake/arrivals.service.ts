import { Injectable } from '@nestjs/common';
import { pictureOf, type Label, type Verdict } from '@arkiv/core';
import { IsNull, Not } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { PICTURE } from '../frames/frames.service';
import { Job } from '../jobs/job.entity';
import { ReadersService } from '../readers/readers.service';
import type { IntakeParams } from './intake.types';

export interface ArrivedFrame {
  id: string;
  shootId: string;
  shoot: string;
  name: string;
  folder: string;
  local: string | null;
  body: string | null;
  verdict: Verdict;
  stars: number;
  label: Label | null;
  role: string;
  format: string;
  /** SHA-256 of the file it shows itself by */
  picture: string | null;
}

export interface LatestArrival {
  card: string;
  at: number;
  frames: ArrivedFrame[];
}

/** What the archive knows of cards: which frames it seems to have, and what came in one go. */
@Injectable()
export class ArrivalsService {
  constructor(
    private readonly reading: Reading,
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
  async together(job: Job): Promise<{ jobId: string; title: string }[]> {
    const { arrival } = job.params as IntakeParams;
    if (arrival === undefined) return [];
    return this.reading.source.query(
      `SELECT id AS "jobId", title FROM job
       WHERE kind = 'intake' AND id <> ? AND json_extract(params, '$.arrival') = ? ORDER BY id`,
      [job.id, arrival],
    );
  }

  /** The card that came last, whole: all its frames that are here, wherever they lie by now. Null before the first. */
  async latestArrival(): Promise<LatestArrival | null> {
    const last = await this.reading.manager.findOne(Job, {
      where: { kind: 'intake', shootId: Not(IsNull()) },
      order: { createdAt: 'DESC', id: 'DESC' },
    });
    if (!last) return null;
    const { card, arrival } = last.params as IntakeParams;
    const frames: ArrivedFrame[] = await this.reading.source.query(
      `SELECT f.id, f."shootId", s.title AS shoot, f.name, f.folder, f.local, f.body, f.verdict, f.stars, f.label, f.role, f.format,
         ${PICTURE} AS picture
       FROM frame f JOIN shoot s ON s.id = f."shootId"
       WHERE f.state = 'here' AND f.id IN (
         SELECT json_extract(i.data, '$.frameId') FROM job_item i JOIN job j ON j.id = i."jobId"
         WHERE j.id = ? OR (? IS NOT NULL AND j.kind = 'intake' AND json_extract(j.params, '$.arrival') = ?))
       ORDER BY f.instant IS NULL, f.instant, f.name`,
      [last.id, arrival ?? null, arrival ?? null],
    );
    return { card, at: last.createdAt, frames };
  }
}
