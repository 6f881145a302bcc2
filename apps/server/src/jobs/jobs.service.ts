import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Clock } from '../system/clock';
import { NOT_OVER, OPEN, OVER, type Job, type JobDeed, type JobItem, type JobKind } from './job.entity';
import { ItemQueue } from './itemQueue';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from './jobHandler';
import { JobStore, type NewItem, type NewJob } from './jobStore';
import { jobAhead, type InLane } from './lanes';

/** Where a job stands; what the job line shows. */
export interface JobProgress extends Omit<Job, 'params' | 'result' | 'ahead' | 'priority' | 'beginning'> {
  /** what it does, where jobs of its kind do several things */
  deed: JobDeed | null;
  /** the shoot that frames leave, where that is another one */
  fromShootId: string | null;
  /** the reader that an intake copies from */
  readerId: string | null;
  /** what the card is called that it works on: another one may lie in the same reader by now */
  card: string | null;
  /** the job that goes first on the way that both share; null: none */
  behind: string | null;
}

interface Running {
  /** null until its row has been read */
  job: Job | null;
  abort: AbortController;
  /** what to become when the loop has stopped */
  then: 'paused' | 'cancelled' | 'queued' | null;
  bytesInFlight: Map<number, number>;
  publishedAt: number;
  /** it came to rest because something outside is missing */
  waits: boolean;
  loop: Promise<void>;
}

/** Five progress events a second are as many as an eye follows. */
const PROGRESS_MILLIS = 200;
/** How often a job that made way looks whether it may go on: a tenth of what an eye notices. */
const TURN_MILLIS = 100;
/** The states from which a job is carried on. */
const NOT_GOING: readonly Job['state'][] = ['paused', 'waiting'];
/** Milliseconds between looks for jobs that are over for long. */
const PRUNE_MILLIS = 60 * 60 * 1000;

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
  private pruning: NodeJS.Timeout | null = null;

  constructor(
    private readonly store: JobStore,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {
    const wake = (): void =>
      void this.wake().catch((error: unknown) => this.log.error((error as Error).stack));
    happenings.on('readers', wake);
    happenings.on('volumes', wake);
  }

  register(handler: JobHandler): void {
    this.handlers.set(handler.kind, handler);
  }

  async onApplicationBootstrap(): Promise<void> {
    for (const job of await this.store.beginning()) await this.undo(job);
    for (const job of await this.store.going()) this.start(job.id);
    this.pruning = setInterval(() => void this.prune(), PRUNE_MILLIS);
    this.pruning.unref();
  }

  /**
   * Begins jobs, together: their rows are written in parts, so that marks and other writers get their turn in between,
   * and none starts before all rows of all are there. Where that fails, or the server ends before, all are undone.
   */
  async begin(
    jobs: readonly NewBeginning[],
    tail?: (manager: EntityManager) => Promise<void>,
  ): Promise<void> {
    try {
      await this.work.write(async (manager) => {
        for (const { job, items, head } of jobs) {
          await head?.(manager);
          await this.store.open(manager, job, items);
        }
      });
      for (const { job, items, part } of jobs)
        for (let from = 0; from < items.length; from += PART)
          await this.work.write(async (manager) => {
            const to = Math.min(from + PART, items.length);
            await part?.(manager, from, to);
            await this.store.add(manager, job.id, from, items.slice(from, to));
          });
      await this.work.write(async (manager) => {
        await tail?.(manager);
        for (const { job } of jobs) await this.store.begun(manager, job.id);
      });
    } catch (error) {
      for (const { job } of jobs) {
        const made = await this.store.find(job.id);
        if (made) await this.undo(made);
      }
      throw error;
    }
    for (const { job } of jobs) this.start(job.id);
  }

  /** Takes away what was written for a job that never began. */
  private async undo(job: Job): Promise<void> {
    await this.handlers.get(job.kind)?.undo?.(job);
    while (await this.work.write((manager) => this.store.forget(manager, job.id)));
  }

  start(id: string): void {
    if (this.running.has(id) || this.stopping) return;
    const running: Running = {
      job: null,
      abort: new AbortController(),
      then: null,
      bytesInFlight: new Map(),
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
        if (running.waits && !running.then && this.outside !== before) this.start(id);
      });
  }

  get(id: string): Promise<Job> {
    return this.store.get(id);
  }

  async list(asked: { shootId?: string; before?: string } = {}): Promise<JobProgress[]> {
    return (await this.store.list(asked)).map((job) => this.progress(job));
  }

  progress(job: Job): JobProgress {
    const running = this.running.get(job.id);
    const inFlight = running ? [...running.bytesInFlight.values()].reduce((a, b) => a + b, 0) : 0;
    const { params, result, ahead, priority, beginning, ...its } = job;
    const shown = this.handlers.get(job.kind)?.shown?.(job) ?? {};
    return {
      ...{ deed: null, fromShootId: null, readerId: null, card: null },
      ...its,
      ...shown,
      bytesDone: Math.min(job.bytesTotal, job.bytesDone + inFlight),
      behind: running ? (this.ahead(job)?.title ?? null) : null,
    };
  }

  async pause(id: string): Promise<void> {
    await this.stop(id, 'paused', ['queued', 'running', 'waiting'], 'paused');
  }

  async cancel(id: string): Promise<void> {
    await this.stop(id, 'cancelled', ['queued', 'running', 'waiting', 'paused'], 'cancelled');
  }

  /** Carries a job on. One that goes already, as what it waited for came back by itself, is left to go. */
  async resume(id: string): Promise<void> {
    // The loop of a job that has just come to rest is still ending, and would let none begin.
    if (NOT_GOING.includes((await this.get(id)).state)) await this.settled(id);
    const job = await this.get(id);
    if (['queued', 'running'].includes(job.state)) return;
    if (!NOT_GOING.includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'carried on' });
    await this.setState(id, 'queued', null);
    this.start(id);
  }

  /** Lets a job go before the others that share its way: they wait between two files. */
  async first(id: string): Promise<void> {
    const job = await this.get(id);
    if (!OPEN.includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'put first' });
    const priority = Math.max(0, ...[...this.running.values()].map((r) => r.job?.priority ?? 0)) + 1;
    await this.work.write((manager) => this.store.change(manager, id, { priority }));
    const running = this.running.get(id);
    if (running?.job) running.job.priority = priority;
    for (const other of this.running.keys()) this.tell(await this.get(other));
  }

  /** The job that this one makes way for, see lanes. */
  private ahead(job: Job): Job | null {
    const priority = this.running.get(job.id)?.job?.priority ?? job.priority;
    const others = [...this.running.values()].flatMap(({ job: other, then }) =>
      other && !then ? (this.inLane(other) ?? []) : [],
    );
    const mine = this.inLane({ ...job, priority });
    return mine && jobAhead(mine, others);
  }

  private inLane(job: Job): (Job & InLane) | null {
    const handler = this.handlers.get(job.kind);
    return handler ? { ...job, lane: handler.lane(job) } : null;
  }

  /** Waits between two items while another job goes first. */
  private async turn(job: Job, running: Running): Promise<void> {
    while (this.ahead(job) && !running.abort.signal.aborted)
      await new Promise((resolve) => setTimeout(resolve, TURN_MILLIS));
  }

  /** Does the failed items once more. */
  async retry(id: string): Promise<void> {
    const job = await this.get(id);
    if (!OVER.includes(job.state) || this.leaving.has(id))
      throw new ArkivError('job.state', { state: job.state, action: 'tried again' });
    await this.handlers.get(job.kind)?.again?.(job);
    await this.work.write((manager) => this.store.again(manager, id));
    this.start(id);
  }

  /** Somebody has seen how a job ended. What it could not do is still in its report. */
  async see(id: string): Promise<void> {
    const job = await this.get(id);
    if (NOT_OVER.includes(job.state))
      throw new ArkivError('job.state', { state: job.state, action: 'put away' });
    await this.work.write((manager) => this.store.change(manager, id, { seen: true }));
    this.tell(await this.get(id));
  }

  /** For tests and shutdown: resolves when the job's loop has ended. */
  async settled(id: string): Promise<void> {
    await this.running.get(id)?.loop;
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.pruning) clearInterval(this.pruning);
    for (const running of this.running.values()) {
      running.then = 'queued';
      running.abort.abort();
    }
    await Promise.all([...this.running.values()].map((r) => r.loop));
  }

  /** Takes away what nobody needs of jobs that are over for long, a little at a time. */
  async prune(): Promise<void> {
    const kept = [...this.handlers.values()].filter((h) => h.keepsItems).map((h) => h.kind);
    try {
      while (!this.stopping && (await this.work.write((manager) => this.store.prune(manager, kept))));
    } catch (error) {
      this.log.warn(`old jobs could not be taken away: ${(error as Error).message}. It is tried again.`);
    }
  }

  private async wake(): Promise<void> {
    this.outside += 1;
    if (this.stopping) return;
    for (const job of await this.store.inState(['waiting'])) this.start(job.id);
  }

  private async stop(
    id: string,
    then: 'paused' | 'cancelled',
    from: Job['state'][],
    action: string,
  ): Promise<void> {
    const job = await this.get(id);
    if (job.beginning) throw new ArkivError('job.state', { state: 'about to begin', action });
    if (!from.includes(job.state)) throw new ArkivError('job.state', { state: job.state, action });
    const running = this.running.get(id);
    if (running) {
      running.then = then;
      running.abort.abort();
      await running.loop;
    }
    // One that came to rest by itself just before did not hear of it.
    if (from.includes((await this.get(id)).state)) await this.setState(id, then, null);
    if (then === 'cancelled') await this.leave(await this.get(id));
  }

  /** A cancelled job leaves nothing half done that can be brought to an end. */
  private async leave(job: Job): Promise<void> {
    const handler = this.handlers.get(job.kind);
    if (!handler?.cancelled) return;
    const context: ItemContext = { signal: new AbortController().signal, onBytes: () => undefined };
    this.leaving.add(job.id);
    try {
      await handler.cancelled(job, async (item) =>
        this.settle(item, await handler.runItem(job, item, context)),
      );
    } finally {
      this.leaving.delete(job.id);
    }
    this.tell(await this.get(job.id));
  }

  /** Writes down what came of an item, in one transaction with the rows that belong to it. */
  private async settle(item: JobItem, outcome: ItemOutcome): Promise<void> {
    await this.work.write(async (manager) => {
      await outcome.commit?.(manager);
      await this.store.settle(manager, item, outcome.state, outcome.reason ?? null);
    });
  }

  private async run(id: string, running: Running): Promise<void> {
    const job = await this.get(id);
    const handler = this.handlers.get(job.kind);
    running.job = job;
    if (!handler) return this.setState(id, 'failed', `nothing here knows how to do “${job.kind}”`);
    const startedAt = job.startedAt ?? this.clock.now();
    await this.work.write(async (manager) => {
      await this.store.backToTodo(manager, id);
      await this.store.change(manager, id, { state: 'running', reason: null, startedAt });
    });
    try {
      await handler.begin(await this.get(id));
      await this.publish(id, running, true);
      await this.doItems(job, handler, running);
      running.abort.signal.throwIfAborted();
      const result = await handler.finish(await this.get(id));
      const { reason = null } = result as { reason?: string | null };
      const finishedAt = this.clock.now();
      await this.work.write((manager) =>
        this.store.change(manager, id, { state: 'done', reason, result, finishedAt }),
      );
    } catch (error) {
      // Of several items that broke off, the first one's reason is the cause; the others only followed.
      const { aborted, reason } = running.abort.signal;
      await this.ended(id, running, aborted ? reason : error);
    }
    await this.publish(id, running, true);
  }

  /** Does all items that are to be done, as many at once as the handler may. */
  private async doItems(job: Job, handler: JobHandler, running: Running): Promise<void> {
    const queue = new ItemQueue(this.store, job, handler, (items, from, ahead) =>
      this.work.write(async (manager) => {
        await this.store.add(manager, job.id, from, items);
        await this.store.change(manager, job.id, { ahead });
      }),
    );
    const lane = async (): Promise<void> => {
      for (;;) {
        if (running.abort.signal.aborted) return;
        const item = await queue.next();
        if (!item) return;
        await this.turn(job, running);
        if (running.abort.signal.aborted) return;
        await this.runItem(job, item, handler, running);
      }
    };
    const lanes = await Promise.allSettled(Array.from({ length: handler.inFlight }, lane));
    const broken = lanes.find((l) => l.status === 'rejected');
    if (broken) throw broken.reason;
  }

  private async ended(id: string, running: Running, error: unknown): Promise<void> {
    await this.work.write((manager) => this.store.backToTodo(manager, id));
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
    await this.work.write((manager) => this.store.doing(manager, item));
    const onBytes = (bytes: number) => {
      running.bytesInFlight.set(item.seq, (running.bytesInFlight.get(item.seq) ?? 0) + bytes);
      void this.publish(job.id, running, false);
    };
    try {
      await this.settle(item, await handler.runItem(job, item, { signal: running.abort.signal, onBytes }));
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
    this.tell(await this.get(id));
  }

  private async setState(id: string, state: Job['state'], reason: string | null): Promise<void> {
    const finishedAt = state === 'failed' || state === 'cancelled' ? this.clock.now() : null;
    await this.work.write((manager) => this.store.change(manager, id, { state, reason, finishedAt }));
    this.tell(await this.get(id));
  }

  private tell(job: Job): void {
    const first = this.handlers.get(job.kind)?.lane(job).first ?? false;
    this.happenings.tell('job', { ...this.progress(job), first });
  }
}

/** A job that is to begin, with what is written for it beside its own rows. */
export interface NewBeginning {
  job: NewJob;
  items: readonly NewItem[];
  /** in the transaction that makes the job */
  head?: (manager: EntityManager) => Promise<void>;
  /** with each part of its items, from one up to another */
  part?: (manager: EntityManager, from: number, to: number) => Promise<void>;
}

/**
 * Items written in one transaction, with what belongs to them: of an intake some 270 rows. Chosen by that number of rows;
 * what they take of the writer's 20 ms was not measured apart.
 */
const PART = 100;
