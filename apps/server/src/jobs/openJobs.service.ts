import { Injectable } from '@nestjs/common';
import { In } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Job, NOT_OVER, type JobKind } from './job.entity';

/** Who is at work on what: the one place that is asked before two jobs could get in each other's way. */
@Injectable()
export class OpenJobs {
  constructor(private readonly reading: Reading) {}

  /** A job of these kinds that is not over. */
  ofKinds(kinds: readonly JobKind[]): Promise<Job | null> {
    return this.reading.manager.findOne(Job, {
      where: { kind: In([...kinds]), state: In(NOT_OVER) },
      order: { createdAt: 'ASC' },
    });
  }

  /** A job of these kinds that is not over and works on the card in this reader. */
  async onReader(readerId: string, kinds: readonly JobKind[]): Promise<Job | null> {
    const open = await this.reading.manager.find(Job, {
      where: { kind: In([...kinds]), state: In(NOT_OVER) },
    });
    return open.find((job) => (job.params as { readerId?: string }).readerId === readerId) ?? null;
  }

  /**
   * A job that is not over and works on files of these shoots: one that says so, a move from or into them, copying or
   * verifying across shoots that still has files of them to do, and any clearing, which reads copies wherever they lie.
   * `kinds`: only these; `but`: this one is not meant.
   */
  async onShoots(
    shootIds: readonly string[],
    { kinds = null, but = null }: { kinds?: readonly JobKind[] | null; but?: string | null } = {},
  ): Promise<Job | null> {
    const shoots = JSON.stringify(shootIds);
    const [found]: { id: string }[] = await this.reading.source.query(
      `WITH mine AS (SELECT value AS id FROM json_each(?))
       SELECT j.id FROM job j
       WHERE j.state IN (SELECT value FROM json_each(?)) AND j.id IS NOT ?
         AND (? IS NULL OR j.kind IN (SELECT value FROM json_each(?)))
         AND (j."shootId" IN mine OR j.kind = 'clear'
           OR (j.kind = 'move' AND json_extract(j.params, '$.from') IN mine)
           OR (j."shootId" IS NULL AND j.kind IN ('copy', 'verify') AND EXISTS (
             SELECT 1 FROM job_item i JOIN asset a ON a.id = json_extract(i.data, '$.assetId')
             WHERE i."jobId" = j.id AND i.state IN ('todo', 'doing') AND a."shootId" IN mine)))
       ORDER BY j."createdAt" LIMIT 1`,
      [shoots, JSON.stringify(NOT_OVER), but, kinds && JSON.stringify(kinds), kinds && JSON.stringify(kinds)],
    );
    return found ? this.reading.manager.findOneBy(Job, { id: found.id }) : null;
  }
}
