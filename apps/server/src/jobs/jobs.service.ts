import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { In } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { EventsService } from '../events/events.service';
import { Clock } from '../system/clock';
import { Job, JobItem, NOT_OVER, OPEN, type JobKind } from './job.entity';
import { jobAhead } from './lanes';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from './jobHandler';

/** Where a job stands; what the job line shows. */
export interface JobProgress {
  id: string;
  kind: JobKind;
  title: string;
  shootId: string | null;
  /** the shoot that frames leave, where that is another one */
  fromShootId: string | null;
  /** the reader that an intake copies from */
  readerId: string | null;
  /** what the card is called that it works on: another one may lie in the same reader by now */
  card: string | null;
  state: Job['state'];
  reason: string | null;
  filesDone: number;
  filesFailed: number;
  filesTotal: number;
  bytesDone: number;
  bytesTotal: number;
  createdAt: number;
  startedAt: number | null;
  finishedAt: number | null;
  /** the job that goes first on the way that both share; null: none */
  behind: string | null;
  /** why the item that failed last did */
  trouble: string | null;
  /** somebody has seen how it ended */
  seen: boolean;
}

interface Running {
  /** null until its row has been read */
  job: Job | null;
  abort: AbortController;
  /** what to become when the loop has stopped */
  then: 'paused' | 'cancelled' | 'queued' | null;
  bytesInFlight: Map<number, number>;
  done: number;
  failed: number;
  trouble: string | null;
  bytes: number;
  publishedAt: number;
  /** it came to rest because something outside is missing */
  waits: boolean;
  loop: Promise<void>;
}

/** Five progress events a second are as many as an eye follows. */
const PROGRESS_MILLIS = 200;
/** How often a job that made way looks whether it may go on: a tenth of what an eye notices. */
const TURN_MILLIS = 100;

/** Runs long work: rows with items that can be repeated, resumed after a restart, paused and cancelled. */
@Injectable()
export class JobsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('jobs');
  private readonly handlers = new Map<JobKind, JobHandler>();
  private readonly running = new Map<string, Running>();
  /** cancelled jobs that bring what they had begun to an end */
  private readonly leaving = new Set<string>();
  private stopping = false;
  /** counts what happened to readers and drives */
  private outside = 0;

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly events: EventsService,
    private readonly clock: Clock,
  ) {
    events.stream.subscribe((event) => {
      if (event.type === 'readers' || event.type === 'volumes')
        this.wake().catch((error: unknown) => this.log.error((error as Error).stack));
    });
  }

  register(handler: JobHandler): void {
    this.handlers.set(handler.kind, handler);
  }

  async onApplicationBootstrap(): Promise<void> {
    const open = await this.reading.manager.find(Job, {
      where: { state: In(OPEN) },
      order: { createdAt: 'ASC' },
    });
    for (const job of open) this.start(job.id);
  }

  /** Writes the rows of a new job inside the caller's transaction; `start` is to be called after it. */
  async create(
    manager: EntityManager,
    job: Omit<
      Job,
      | 'state'
      | 'reason'
      | 'result'
      | 'createdAt'
      | 'startedAt'
      | 'finishedAt'
      | 'filesTotal'
      | 'bytesTotal'
      | 'priority'
      | 'seen'
    >,
    items: { size: number; data: object }[],
  ): Promise<void> {
    await manager.insert(Job, {
      ...job,
      state: 'queued',
      reason: null,
      result: null,
      filesTotal: items.length,
      bytesTotal: items.reduce((sum, item) => sum + item.size, 0),
      createdAt: this.clock.now(),
      startedAt: null,
      finishedAt: null,
      priority: 0,
      seen: false,
    } as Job);
    const rows = items.map((item, seq) => ({
      jobId: job.id,
      seq,
      state: 'todo' as const,
      reason: null,
      attempt: 0,
      size: item.size,
      data: item.data,
    }));
    // SQLite takes 32,766 parameters in one statement: 500 rows of 7 stay well below.
    for (let i = 0; i < rows.length; i += 500)
      await manager.insert(JobItem, rows.slice(i, i + 500) as JobItem[]);
  }

  start(id: string): void {
    if (this.running.has(id) || this.stopping) return;
    const running: Running = {
      job: null,
      abort: new AbortController(),
      then: null,
      bytesInFlight: new Map(),
      done: 0,
      failed: 0,
      trouble: null,
      bytes: 0,
      publishedAt: 0,
      waits: false,
      loop: Promise.resolve(),
    };
    this.running.set(id, running);
    const before = this.outside;
    running.loop = this.run(id, running)
      .catch((error: unknown) => this.log.error(`job ${id}: ${(error as Error).stack}`))
      .finally(() => {
        this.running.delete(id);
        // What returned while it was still being written down that the job waits would wake nobody.
        if (running.waits && this.outside !== before) this.start(id);
      });
  }

  async get(id: string): Promise<Job> {
    const job = await this.reading.manager.findOneBy(Job, { id });
    if (!job) throw new ArkivError('not-found', { what: 'job', id });
    return job;
  }

  items(id: string): Promise<JobItem[]> {
    return this.reading.manager.find(JobItem, { where: { jobId: id }, order: { seq: 'ASC' } });
  }

  async list(where: { shootId?: string; kind?: JobKind } = {}): Promise<JobProgress[]> {
    const jobs = await this.reading.manager.find(Job, {
      where,
      order: { createdAt: 'DESC', id: 'DESC' },
      take: 200,
    });
    return Promise.all(jobs.map((job) => this.progress(job)));
  }

  async progress(job: Job): Promise<JobProgress> {
    const running = this.running.get(job.id);
    const counts = running ?? (await this.counts(job.id));
    const inFlight = running ? [...running.bytesInFlight.values()].reduce((a, b) => a + b, 0) : 0;
    const {
      id,
      kind,
      title,
      shootId,
      state,
      reason,
      filesTotal,
      bytesTotal,
      createdAt,
      startedAt,
      finishedAt,
      seen,
    } = job;
    return {
      id,
      kind,
      title,
      shootId,
      fromShootId: job.kind === 'move' ? (job.params as { from: string }).from : null,
      readerId: (job.params as { readerId?: string }).readerId ?? null,
      card: (job.params as { card?: string }).card ?? null,
      state,
      reason,
      filesTotal,
      bytesTotal,
      createdAt,
      startedAt,
      finishedAt,
      seen,
      trouble: counts.trouble,
      filesDone: counts.done,
      filesFailed: counts.failed,
      bytesDone: Math.min(bytesTotal, counts.bytes + inFlight),
      behind: running ? (this.ahead(job)?.title ?? null) : null,
    };
  }

  async pause(id: string): Promise<void> {
    await this.stop(id, 'paused', ['queued', 'running', 'waiting'], 'paused');
  }

  async cancel(id: string): Promise<void> {
    await this.stop(id, 'cancelled', ['queued', 'running', 'waiting', 'paused'], 'cancelled');
  }

  async resume(id: string): Promise<void> {
    const job = await this.get(id);
    if (!['paused', 'waiting'].includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'carried on' });
    await this.setState(id, 'queued', null);
    this.start(id);
  }

  /** Lets a job go before the others that share its way: they wait between two files. */
  async first(id: string): Promise<void> {
    const job = await this.get(id);
    if (!OPEN.includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'put first' });
    const highest = Math.max(0, ...[...this.running.values()].map((r) => r.job?.priority ?? 0));
    await this.work.write((manager) => manager.update(Job, { id }, { priority: highest + 1 }));
    const running = this.running.get(id);
    if (running?.job) running.job.priority = highest + 1;
    for (const other of this.running.keys())
      this.events.publish('job', await this.progress(await this.get(other)));
  }

  /** The job that this one makes way for, see lanes. */
  private ahead(job: Job): Job | null {
    const priority = this.running.get(job.id)?.job?.priority ?? job.priority;
    const others = [...this.running.values()].flatMap(({ job: other, then }) =>
      other && !then ? [other] : [],
    );
    return jobAhead({ ...job, priority }, others);
  }

  /** Waits between two items while another job goes first. */
  private async turn(job: Job, running: Running): Promise<void> {
    while (this.ahead(job) && !running.abort.signal.aborted)
      await new Promise((resolve) => setTimeout(resolve, TURN_MILLIS));
  }

  /** Does the failed items once more. */
  async retry(id: string): Promise<void> {
    const job = await this.get(id);
    if (!['done', 'failed', 'cancelled'].includes(job.state) || this.leaving.has(id))
      throw new ArkivError('job.state', { state: job.state, action: 'tried again' });
    await this.handlers.get(job.kind)?.again?.(job, await this.items(id));
    await this.work.write(async (manager) => {
      await manager.update(JobItem, { jobId: id, state: 'failed' }, { state: 'todo', reason: null });
      await manager.update(Job, { id }, { state: 'queued', reason: null, finishedAt: null, seen: false });
    });
    this.start(id);
  }

  /** Somebody has seen how a job ended. What it could not do is still in its report. */
  async see(id: string): Promise<void> {
    const job = await this.get(id);
    if (NOT_OVER.includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'put away' });
    await this.work.write((manager) => manager.update(Job, { id }, { seen: true }));
    this.events.publish('job', await this.progress(await this.get(id)));
  }

  /** For tests and shutdown: resolves when the job's loop has ended. */
  async settled(id: string): Promise<void> {
    await this.running.get(id)?.loop;
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    for (const running of this.running.values()) {
      running.then = 'queued';
      running.abort.abort();
    }
    await Promise.all([...this.running.values()].map((r) => r.loop));
  }

  private async wake(): Promise<void> {
    this.outside += 1;
    if (this.stopping) return;
    const waiting = await this.reading.manager.find(Job, { where: { state: 'waiting' } });
    for (const job of waiting) this.start(job.id);
  }

  private async stop(
    id: string,
    then: 'paused' | 'cancelled',
    from: Job['state'][],
    action: string,
  ): Promise<void> {
    const job = await this.get(id);
    if (!from.includes(job.state)) throw new ArkivError('job.state', { state: job.state, action });
    const running = this.running.get(id);
    if (running) {
      running.then = then;
      running.abort.abort();
      await running.loop;
    } else await this.setState(id, then, null);
    if (then === 'cancelled') await this.leave(await this.get(id));
  }

  /** A cancelled job leaves nothing half done that can be brought to an end. */
  private async leave(job: Job): Promise<void> {
    const handler = this.handlers.get(job.kind);
    if (!handler?.cancelled) return;
    const context: ItemContext = { signal: new AbortController().signal, onBytes: () => undefined };
    this.leaving.add(job.id);
    try {
      await handler.cancelled(job, await this.items(job.id), async (item) => {
        await this.settle(item, await handler.runItem(job, item, context));
      });
    } finally {
      this.leaving.delete(job.id);
    }
    this.events.publish('job', await this.progress(await this.get(job.id)));
  }

  /** Writes down what came of an item, in one transaction with the rows that belong to it. */
  private async settle(item: JobItem, outcome: ItemOutcome): Promise<void> {
    const { state, reason = null, data } = outcome;
    await this.work.write(async (manager) => {
      await outcome.commit?.(manager);
      const where = { jobId: item.jobId, seq: item.seq };
      await manager.update(JobItem, where, { state, reason, ...(data === undefined ? {} : { data }) });
    });
  }

  private async run(id: string, running: Running): Promise<void> {
    const job = await this.get(id);
    const handler = this.handlers.get(job.kind);
    running.job = job;
    if (!handler) return this.setState(id, 'failed', `nothing here knows how to do “${job.kind}”`);
    await this.work.write(async (manager) => {
      await manager.update(JobItem, { jobId: id, state: 'doing' }, { state: 'todo' });
      await manager.update(
        Job,
        { id },
        { state: 'running', reason: null, startedAt: job.startedAt ?? this.clock.now() },
      );
    });
    Object.assign(running, await this.counts(id));
    try {
      const items = await this.items(id);
      await handler.begin(job, items);
      await this.publish(id, running, true);
      const todo = items.filter((item) => item.state === 'todo');
      const lane = async (): Promise<void> => {
        for (let item = todo.shift(); item && !running.abort.signal.aborted; item = todo.shift()) {
          await this.turn(job, running);
          if (running.abort.signal.aborted) return;
          await this.runItem(job, item, handler, running);
        }
      };
      const lanes = await Promise.allSettled(Array.from({ length: handler.inFlight }, lane));
      const broken = lanes.find((l) => l.status === 'rejected');
      if (broken) throw broken.reason;
      running.abort.signal.throwIfAborted();
      const result = await handler.finish(await this.get(id), await this.items(id));
      const { reason = null } = result as { reason?: string | null };
      await this.work.write((manager) =>
        manager.update(Job, { id }, { state: 'done', reason, result, finishedAt: this.clock.now() }),
      );
    } catch (error) {
      // Of several items that broke off, the first one's reason is the cause; the others only followed.
      const { aborted, reason } = running.abort.signal;
      await this.ended(id, running, aborted ? reason : error);
    }
    await this.publish(id, running, true);
  }

  private async ended(id: string, running: Running, error: unknown): Promise<void> {
    await this.work.write((manager) =>
      manager.update(JobItem, { jobId: id, state: 'doing' }, { state: 'todo' }),
    );
    if (running.then) await this.setState(id, running.then, null);
    else if (error instanceof WaitForOutside) {
      await this.setState(id, 'waiting', error.message);
      running.waits = true;
    } else if (error instanceof ArkivError)
      await this.setState(id, 'failed', `${error.message} ${error.body().next}`);
    else {
      this.log.error(`job ${id}: ${(error as Error).stack}`);
      await this.setState(id, 'failed', (error as Error).message);
    }
  }

  private async runItem(job: Job, item: JobItem, handler: JobHandler, running: Running): Promise<void> {
    const where = { jobId: item.jobId, seq: item.seq };
    await this.work.write((manager) =>
      manager.update(JobItem, where, { state: 'doing', attempt: item.attempt + 1 }),
    );
    const onBytes = (bytes: number) => {
      running.bytesInFlight.set(item.seq, (running.bytesInFlight.get(item.seq) ?? 0) + bytes);
      void this.publish(job.id, running, false);
    };
    try {
      const outcome = await handler.runItem(job, item, { signal: running.abort.signal, onBytes });
      await this.settle(item, outcome);
      if (outcome.state === 'failed') {
        running.failed += 1;
        running.trouble = outcome.reason ?? running.trouble;
      } else running.done += 1;
      running.bytes += item.size;
    } catch (error) {
      // The others of this job stop too; each is done again later.
      if (!running.abort.signal.aborted) running.abort.abort(error);
      throw error;
    } finally {
      running.bytesInFlight.delete(item.seq);
    }
    void this.publish(job.id, running, false);
  }

  private async publish(id: string, running: Running, always: boolean): Promise<void> {
    const now = this.clock.now();
    if (!always && now - running.publishedAt < PROGRESS_MILLIS) return;
    running.publishedAt = now;
    this.events.publish('job', await this.progress(await this.get(id)));
  }

  private async setState(id: string, state: Job['state'], reason: string | null): Promise<void> {
    await this.work.write((manager) =>
      manager.update(
        Job,
        { id },
        { state, reason, finishedAt: state === 'failed' || state === 'cancelled' ? this.clock.now() : null },
      ),
    );
    this.events.publish('job', await this.progress(await this.get(id)));
  }

  private async counts(
    id: string,
  ): Promise<{ done: number; failed: number; bytes: number; trouble: string | null }> {
    // With one MAX, SQLite takes the other columns from the row that has it.
    const rows: { state: string; n: number; bytes: number; reason: string | null }[] =
      await this.reading.source.query(
        `SELECT state, COUNT(*) AS n, SUM(size) AS bytes, MAX(seq), reason FROM job_item WHERE "jobId" = ? GROUP BY state`,
        [id],
      );
    const of = (...states: string[]) => rows.filter((r) => states.includes(r.state));
    const sum = (list: typeof rows, key: 'n' | 'bytes') => list.reduce((total, row) => total + row[key], 0);
    return {
      done: sum(of('done', 'skipped'), 'n'),
      failed: sum(of('failed'), 'n'),
      bytes: sum(of('done', 'skipped', 'failed'), 'bytes'),
      trouble: of('failed')[0]?.reason ?? null,
    };
  }
}
