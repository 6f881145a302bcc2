import { Injectable, type OnModuleInit } from '@nestjs/common';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';

const noted = (event: string, name: string): string =>
  `CREATE TEMP TRIGGER IF NOT EXISTS "shared_${name}" AFTER ${event} ON main.asset
   WHEN NEW.sha256 IS NOT NULL AND EXISTS (SELECT 1 FROM asset a WHERE a.sha256 = NEW.sha256 AND a.id <> NEW.id)
   BEGIN INSERT OR IGNORE INTO shared_content VALUES (NEW.sha256); END`;

/**
 * Which contents more than one file has, noted as files come: among millions of files those that are equal are few, and to look for them
 * took seconds. What is noted may be shared no longer.
 */
@Injectable()
export class SharedContents implements OnModuleInit {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly long: LongReading,
  ) {}

  async onModuleInit(): Promise<void> {
    await this.work.trigger([noted('INSERT', 'new'), noted('UPDATE OF sha256', 'read')]);
  }

  /** The next contents, by checksum, that are originals of more than one frame that is here. */
  async page(after: string, most: number): Promise<string[]> {
    // Copies that somebody made of a frame are wanted.
    const rows = await this.long.rows<{ sha256: string }>(
      `SELECT n.sha256 FROM shared_content n WHERE n.sha256 > ? AND
         (SELECT COUNT(DISTINCT a."frameId") FROM asset a JOIN frame_here f ON f.id = a."frameId"
          WHERE a.sha256 = n.sha256 AND a.role IN ('original', 'clip') AND f."derivedFrom" IS NULL) > 1
       ORDER BY n.sha256 LIMIT ?`,
      [after, most],
    );
    return rows.map(({ sha256 }) => sha256);
  }

  /** Contents of several files that are not noted, in words; none when all are. For checks. */
  async differences(): Promise<string[]> {
    const rows: { sha256: string }[] = await this.reading.source.query(
      `SELECT sha256 FROM asset WHERE sha256 IS NOT NULL GROUP BY sha256 HAVING COUNT(*) > 1
       EXCEPT SELECT sha256 FROM shared_content`,
    );
    return rows.map(({ sha256 }) => `content ${sha256}: shared, and not noted`);
  }
}
