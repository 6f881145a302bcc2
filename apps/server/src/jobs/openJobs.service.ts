import { Injectable } from '@nestjs/common';
import { Reading } from '../db/unitOfWork';
import { In, Not } from 'typeorm';
import { Job, NOT_OVER, type Deed, type JobKind } from './job.entity';

/** Who is at work on what: the one place that is asked before two jobs could get in each other's way. */
@Injectable()
export class OpenJobs {
  constructor(private readonly reading: Reading) {}

  /** A job that is not over and does this to anything. */
  thatDoes(deed: Deed): Promise<Job | null> {
    return this.first(`EXISTS (SELECT 1 FROM job_subject s WHERE s."jobId" = j.id AND s.deed = ?)`, [deed]);
  }

  /** Whether one of these is not over. */
  async isAnyOpen(ids: readonly string[]): Promise<boolean> {
    return (await this.first(`j.id IN (SELECT value FROM json_each(?))`, [JSON.stringify(ids)])) !== null;
  }

  /** Shoots whose files a job that is not over gives other names. */
  async shootsThatMove(): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT s.id FROM job j JOIN job_subject s ON s."jobId" = j.id
       WHERE j.state IN ('${NOT_OVER.join("', '")}') AND s.kind = 'shoot' AND s.deed = 'moves'`,
    );
    return rows.map(({ id }) => id);
  }

  /** A job that is not over and works on the card in this reader; `deed`: only one that does this. */
  onReader(readerId: string, deed: Deed | null = null): Promise<Job | null> {
    return this.first(
      `EXISTS (SELECT 1 FROM job_subject s WHERE s."jobId" = j.id AND s.kind = 'reader' AND s.id = ?
         AND (? IS NULL OR s.deed = ?))`,
      [readerId, deed, deed],
    );
  }

  /**
   * A job that is not over and works on files of these shoots: one that names them or all, or one across shoots that
   * still has files of them to do. `deed`: only one that does this; `but`: this one is not meant.
   */
  onShoots(
    shootIds: readonly string[],
    { deed = null, but = null }: { deed?: Deed | null; but?: string | null } = {},
  ): Promise<Job | null> {
    const mine = `(SELECT value FROM json_each(?))`;
    const shoots = JSON.stringify(shootIds);
    return this.first(
      `j.id IS NOT ? AND (
         EXISTS (SELECT 1 FROM job_subject s WHERE s."jobId" = j.id AND s.kind = 'shoot'
           AND (s.id = '*' OR s.id IN ${mine}) AND (? IS NULL OR s.deed = ?))
         OR (COALESCE(?, 'reads') = 'reads' AND (
           EXISTS (SELECT 1 FROM job_item i WHERE i."jobId" = j.id AND i.state IN ('todo', 'doing')
             AND i."shootId" IN ${mine})
           OR EXISTS (SELECT 1 FROM json_each(?) m WHERE m.value >= j.ahead))))`,
      [but, shoots, deed, deed, deed, shoots, shoots],
    );
  }

  /** Whether the archive is all there: while it is made anew, or where that was stopped, it is less than what the drives say. */
  async isWhole(): Promise<boolean> {
    return !(await this.reading.manager.existsBy(Job, { kind: 'rebuild', state: Not('done') }));
  }

  /** Jobs of a kind that are not over. */
  ofKind(kind: JobKind): Promise<Job[]> {
    return this.reading.manager.findBy(Job, { kind, state: In(NOT_OVER) });
  }

  private async first(where: string, parameters: unknown[]): Promise<Job | null> {
    const [found]: { id: string }[] = await this.reading.source.query(
      `SELECT j.id FROM job j WHERE j.state IN ('${NOT_OVER.join("', '")}') AND ${where} ORDER BY j."createdAt" LIMIT 1`,
      parameters,
    );
    return found ? this.reading.manager.findOneBy(Job, { id: found.id }) : null;
  }
}
