import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { dropRows } from '../db/dropRows';
import { insertRows } from '../db/insertRows';
import { Reading } from '../db/unitOfWork';
import { Clock } from '../system/clock';
import { Job, JobItem, JobSubject, OPEN, OVER, type ItemState, type JobState } from './job.entity';

/** A job that is asked for. */
export interface NewJob extends Pick<Job, 'id' | 'kind' | 'title' | 'shootId' | 'params'> {
  /** what it works on; its shoot, where it has one, need not be named */
  subjects?: Omit<JobSubject, 'jobId'>[];
  /** files and bytes of a job whose items are made as it goes */
  total?: { files: number; bytes: number };
  ahead?: string;
  /** of jobs that share a way, the higher goes first; 0 where it is not said */
  priority?: number;
}

export interface NewItem extends Pick<JobItem, 'size' | 'name'> {
  shootId?: string | null;
  data: object;
}

/** Items read at once: some milliseconds. */
const ROWS = 500;
/** Jobs listed at once: more than anybody looks through. */
export const PAGE = 200;
/** Milliseconds that the items of a job which is over are kept: a month, in which somebody may look what failed. */
const KEPT = 30 * 24 * 60 * 60 * 1000;

/** The rows of jobs. The only writer of them. */
@Injectable()
export class JobStore {
  constructor(
    private readonly reading: Reading,
    private readonly clock: Clock,
  ) {}

  /** Writes a new job that is still beginning, without its items, inside the caller's transaction. */
  async open(manager: EntityManager, job: NewJob, items: readonly NewItem[]): Promise<void> {
    const { subjects = [], total, ahead = null, priority = 0, ...its } = job;
    await manager.insert(Job, {
      ...its,
      state: 'queued',
      reason: null,
      result: null,
      filesTotal: total?.files ?? items.length,
      bytesTotal: total?.bytes ?? items.reduce((sum, item) => sum + item.size, 0),
      filesDone: 0,
      filesFailed: 0,
      bytesDone: 0,
      trouble: null,
      ahead,
      createdAt: this.clock.now(),
      startedAt: null,
      finishedAt: null,
      priority,
      beginning: true,
      seen: false,
    } as Job);
    const own = job.shootId !== null && !subjects.some((s) => s.kind === 'shoot' && s.id === job.shootId);
    if (own) subjects.push({ kind: 'shoot', id: job.shootId!, deed: 'reads' });
    for (const subject of subjects) await manager.insert(JobSubject, { jobId: job.id, ...subject });
  }

  /** All rows of a job are there. */
  async begun(manager: EntityManager, id: string): Promise<void> {
    await manager.update(Job, { id, beginning: true }, { beginning: false });
  }

  /** Jobs of which not all rows were written. */
  beginning(): Promise<Job[]> {
    return this.reading.manager.findBy(Job, { beginning: true });
  }

  /** Takes away some items of a job that never began, then its other rows. Whether there is more to take. */
  async forget(manager: EntityManager, id: string): Promise<boolean> {
    if (await dropRows(manager, 'job_item', 'jobId', id)) return true;
    await manager.delete(JobSubject, { jobId: id });
    await manager.delete(Job, { id });
    return false;
  }

  async add(manager: EntityManager, jobId: string, from: number, items: readonly NewItem[]): Promise<void> {
    const rows = items.map(({ size, name, shootId = null, data }, i) => ({
      ...{ jobId, seq: from + i, state: 'todo', reason: null, attempt: 0 },
      ...{ size, name, shootId, data },
    }));
    await insertRows(manager, JobItem, rows as JobItem[]);
  }

  async get(id: string): Promise<Job> {
    const job = await this.reading.manager.findOneBy(Job, { id });
    if (!job) throw new ArkivError('not-found', { what: 'job', id });
    return job;
  }

  find(id: string): Promise<Job | null> {
    return this.reading.manager.findOneBy(Job, { id });
  }

  /** The newest first; `before`: only those that are older than this one. */
  async list(asked: { shootId?: string; before?: string; limit?: number } = {}): Promise<Job[]> {
    const query = this.reading.manager.createQueryBuilder(Job, 'j').where('1 = 1');
    if (asked.shootId !== undefined) query.andWhere('j."shootId" = :shootId', { shootId: asked.shootId });
    if (asked.before !== undefined) {
      const { createdAt, id } = await this.get(asked.before);
      query.andWhere('(j."createdAt", j.id) < (:createdAt, :id)', { createdAt, id });
    }
    return query
      .orderBy('j.createdAt', 'DESC')
      .addOrderBy('j.id', 'DESC')
      .take(Math.min(asked.limit ?? PAGE, PAGE))
      .getMany();
  }

  /** Jobs in any of these states, the oldest first. */
  inState(states: readonly JobState[]): Promise<Job[]> {
    return this.reading.manager.find(Job, { where: { state: In([...states]) }, order: { createdAt: 'ASC' } });
  }

  /** Items in their order, after one of them, in some states or in all. */
  page(
    jobId: string,
    after: number,
    states: readonly ItemState[] | null = null,
    limit = ROWS,
  ): Promise<JobItem[]> {
    const query = this.reading.manager
      .createQueryBuilder(JobItem, 'i')
      .where('i."jobId" = :jobId AND i.seq > :after', { jobId, after });
    if (states) query.andWhere('i.state IN (:...states)', { states });
    return query.orderBy('i.seq', 'ASC').take(limit).getMany();
  }

  /** All items, some hundred at a time: a job may have millions. */
  async *walk(jobId: string, states: readonly ItemState[] | null = null): AsyncGenerator<JobItem> {
    for (let after = -1; ;) {
      const items = await this.page(jobId, after, states);
      yield* items;
      if (items.length < ROWS) return;
      after = items.at(-1)!.seq;
    }
  }

  /** Items and bytes by state. */
  async tally(jobId: string): Promise<(state: ItemState) => { items: number; bytes: number }> {
    const rows: { state: ItemState; items: number; bytes: number }[] = await this.reading.source.query(
      `SELECT state, COUNT(*) AS items, SUM(size) AS bytes FROM job_item WHERE "jobId" = ? GROUP BY state`,
      [jobId],
    );
    return (state) => rows.find((row) => row.state === state) ?? { items: 0, bytes: 0 };
  }

  async count(jobId: string, states: readonly ItemState[]): Promise<number> {
    return this.reading.manager.countBy(JobItem, { jobId, state: In([...states]) });
  }

  /** The item that was made last. */
  async last(jobId: string): Promise<JobItem | null> {
    return this.reading.manager.findOne(JobItem, { where: { jobId }, order: { seq: 'DESC' } });
  }

  /** Items that failed or were only partly done, with the reason. */
  failures(jobId: string): Promise<{ file: string; reason: string }[]> {
    return this.reading.source.query(
      `SELECT name AS file, reason FROM job_item
       WHERE "jobId" = ? AND state IN ('failed', 'skipped', 'done') AND reason IS NOT NULL ORDER BY seq LIMIT 10000`,
      [jobId],
    );
  }

  async change(manager: EntityManager, id: string, change: Partial<Job>): Promise<void> {
    await manager.update(Job, { id }, change);
  }

  /** What was being done is to be done again. */
  async backToTodo(manager: EntityManager, jobId: string): Promise<void> {
    await manager.update(JobItem, { jobId, state: 'doing' }, { state: 'todo' });
  }

  async doing(manager: EntityManager, { jobId, seq, attempt }: JobItem): Promise<void> {
    await manager.update(JobItem, { jobId, seq }, { state: 'doing', attempt: attempt + 1 });
  }

  /** What came of an item, counted at its job. */
  async settle(
    manager: EntityManager,
    { jobId, seq, size }: JobItem,
    state: 'done' | 'failed' | 'skipped',
    reason: string | null,
  ): Promise<void> {
    await manager.update(JobItem, { jobId, seq }, { state, reason });
    const failed = state === 'failed';
    await manager.query(
      `UPDATE job SET "filesDone" = "filesDone" + ?, "filesFailed" = "filesFailed" + ?, "bytesDone" = "bytesDone" + ?,
         trouble = COALESCE(?, trouble) WHERE id = ?`,
      [failed ? 0 : 1, failed ? 1 : 0, size, failed ? reason : null, jobId],
    );
  }

  /** What failed is to be done once more. */
  async again(manager: EntityManager, jobId: string): Promise<void> {
    await manager.query(
      `UPDATE job SET "bytesDone" = "bytesDone" - (SELECT COALESCE(SUM(size), 0) FROM job_item
         WHERE "jobId" = job.id AND state = 'failed'), "filesFailed" = 0, trouble = NULL WHERE id = ?`,
      [jobId],
    );
    await manager.update(JobItem, { jobId, state: 'failed' }, { state: 'todo', reason: null });
    await manager.update(Job, { id: jobId }, {
      ...{ state: 'queued', reason: null, finishedAt: null, seen: false },
    } as Partial<Job>);
  }

  /**
   * Takes away some items of jobs that have been over for a while, and jobs of which none are left. What happened stands
   * in the ledger. `kept`: kinds whose items are the only record of how to go back. Whether there is more to take.
   */
  async prune(manager: EntityManager, kept: readonly string[]): Promise<boolean> {
    const before = this.clock.now() - KEPT;
    const over = `state IN ('${OVER.join("', '")}') AND "finishedAt" < ? AND (seen OR state <> 'failed')
      AND kind NOT IN (SELECT value FROM json_each(?))`;
    const [job]: { id: string }[] = await manager.query(
      `SELECT id FROM job WHERE ${over} ORDER BY "createdAt" LIMIT 1`,
      [before, JSON.stringify(kept)],
    );
    if (!job) return false;
    await this.forget(manager, job.id);
    return true;
  }

  /** Jobs that go on by themselves. */
  going(): Promise<Job[]> {
    return this.inState(OPEN);
  }
}
