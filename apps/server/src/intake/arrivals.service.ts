import { Injectable } from '@nestjs/common';
import {
  correctedLocal,
  keptCapture,
  pictureOf,
  type CaptureTime,
  type Label,
  type Verdict,
} from '@arkiv/core';
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
  /** corrected wall clock, `YYYY-MM-DDTHH:mm:ss.SSS` */
  time: string | null;
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

type ArrivedRow = Omit<ArrivedFrame, 'time'> & Omit<CaptureTime, 'local'> & { local: string | null };

const ARRIVED = `SELECT f.id, f."shootId", s.title AS shoot, f.name, f.folder, f.local, f.millis, f."offsetMinutes",
    f."correctionMillis", f.body, f.verdict, f.stars, f.label, f.role, f.format, ${PICTURE} AS picture
  FROM frame f JOIN shoot s ON s.id = f."shootId"`;

function arrived({ local, millis, offsetMinutes, correctionMillis, ...frame }: ArrivedRow): ArrivedFrame {
  const capture = keptCapture({ local, millis, offsetMinutes, correctionMillis });
  return { ...frame, time: capture && correctedLocal(capture) };
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

  /** The frames of an intake that are proven, the newest first, as many as are asked for; and how many there are. */
  async framesOf(jobId: string, limit: number): Promise<{ total: number; frames: ArrivedFrame[] }> {
    const mine = `WITH mine AS (SELECT json_extract(data, '$.frameId') AS id, MAX(seq) AS seq FROM job_item
      WHERE "jobId" = ? GROUP BY 1)`;
    const [{ total }]: [{ total: number }] = await this.reading.source.query(
      `${mine} SELECT COUNT(*) AS total FROM mine JOIN frame f ON f.id = mine.id WHERE f.state = 'here'`,
      [jobId],
    );
    const rows: ArrivedRow[] = await this.reading.source.query(
      `${mine} ${ARRIVED} JOIN mine ON mine.id = f.id WHERE f.state = 'here' ORDER BY mine.seq DESC LIMIT ?`,
      [jobId, limit],
    );
    return { total, frames: rows.map(arrived) };
  }

  /**
   * The card that came last, whole: all its frames that are here, wherever they lie by now. An intake that brought no
   * frame is none that came. Null before the first.
   */
  async latestArrival(): Promise<LatestArrival | null> {
    const [last]: { id: string; params: string; createdAt: number }[] = await this.reading.source.query(
      `SELECT j.id, j.params, j."createdAt" FROM job j
       WHERE j.kind = 'intake' AND EXISTS (
         SELECT 1 FROM job_item i JOIN frame f ON f.id = json_extract(i.data, '$.frameId')
         WHERE i."jobId" = j.id AND f.state = 'here')
       ORDER BY j."createdAt" DESC, j.id DESC LIMIT 1`,
    );
    if (!last) return null;
    const { card, arrival } = JSON.parse(last.params) as IntakeParams;
    const rows: ArrivedRow[] = await this.reading.source.query(
      `${ARRIVED} WHERE f.state = 'here' AND f.id IN (
         SELECT json_extract(i.data, '$.frameId') FROM job_item i JOIN job j ON j.id = i."jobId"
         WHERE j.id = ? OR (? IS NOT NULL AND j.kind = 'intake' AND json_extract(j.params, '$.arrival') = ?))
       ORDER BY f.instant IS NULL, f.instant, f.name`,
      [last.id, arrival ?? null, arrival ?? null],
    );
    const frames = rows.map(arrived);
    return { card, at: last.createdAt, frames };
  }
}
