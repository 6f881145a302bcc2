import { setTimeout as wait } from 'node:timers/promises';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { OutLedger } from '../ledger/outLedger';
import type { Sent } from '../ledger/sent.entity';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import { destinationError, DestinationsService } from './destinations.service';
import { RemoteError } from './remote/remote';
import { Remotes } from './remotes';

/** Milliseconds between tries after a line was lost: a router that starts anew is back within half a minute. */
export const TRIES_AFTER = [500, 2000, 8000, 20_000];

/** Milliseconds between looks whether the last pictures are there: one is under way at most. */
const LOOKS_EVERY = 100;

/** Copies the files of a set to a destination, each with proof. */
@Injectable()
export class SendHandler implements JobHandler, OnModuleInit {
  readonly kind = 'send';
  /** as many as there are processes that speak to destinations */
  readonly inFlight = 2;

  constructor(
    private readonly destinations: DestinationsService,
    private readonly remotes: Remotes,
    private readonly ledger: OutLedger,
    private readonly volumes: VolumesService,
    private readonly jobs: JobsService,
    private readonly work: UnitOfWork,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  async undo(job: Job): Promise<void> {
    while (await this.work.write((manager) => this.ledger.forgetSent(manager, job.id)));
  }

  async begin(job: Job): Promise<void> {
    const { deliveryId } = await this.sent(job.id);
    const delivery = await this.ledger.delivery(deliveryId);
    if (!delivery) throw new ArkivError('not-found', { what: 'delivery', id: deliveryId });
    const volume = await this.volumes.get(delivery.volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: sending carries on.`);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const sent = await this.sent(job.id);
    const file = await this.ledger.sentFile(job.id, item.seq);
    const delivery = await this.ledger.delivery(sent.deliveryId);
    const destination = await this.destinations.get(sent.destinationId);
    const volume = await this.volumes.get(delivery!.volumeId);
    const vouches = file.frameId === null && file.from !== delivery!.zip?.path;
    if (vouches && !(await this.othersArrived(job.id, context.signal)))
      return {
        state: 'failed',
        reason: `${file.to} says what is there, and goes when all of it is: try again.`,
        commit: (manager) =>
          this.ledger.noteSent(manager, job.id, item.seq, { fate: 'failed', provenAt: null }),
      };
    try {
      await this.volumes.check(volume);
      const target = await this.destinations.target(destination);
      const order = {
        file: await this.volumes.resolve(volume, file.from),
        ...{ size: file.size, sha256: file.sha256, to: file.to, job: job.id },
      };
      await this.withTries(() => this.remotes.put(target, order, context), context.signal);
    } catch (error) {
      if (context.signal.aborted) throw error;
      const shown = destinationError(error, destination.name);
      if (!(shown instanceof ArkivError)) throw error;
      return {
        state: 'failed',
        reason: `${file.to}: ${shown.message} ${shown.body().next}`,
        commit: (manager) =>
          this.ledger.noteSent(manager, job.id, item.seq, { fate: 'failed', provenAt: null }),
      };
    }
    const provenAt = this.clock.now();
    return {
      state: 'done',
      commit: (manager) => this.ledger.noteSent(manager, job.id, item.seq, { fate: 'arrived', provenAt }),
    };
  }

  async finish(job: Job): Promise<object> {
    const { shootId } = await this.sent(job.id);
    await this.work.write(async (manager) => {
      await this.ledger.changeSent(manager, job.id, { finishedAt: this.clock.now() });
      this.happenings.after(manager, 'sent', { shootId });
    });
    return {};
  }

  /** Whether all files of frames are there; those that are still under way are waited for. */
  private async othersArrived(id: string, signal: AbortSignal): Promise<boolean> {
    for (;;) {
      const { todo, failed } = await this.ledger.leftOf(id);
      if (todo === 0) return failed === 0;
      await wait(LOOKS_EVERY, undefined, { signal });
    }
  }

  /** A line that was lost is tried again, each time from where it broke off, where the destination can. */
  private async withTries<T>(work: () => Promise<T>, signal: AbortSignal): Promise<T> {
    for (let tries = 0; ; tries++) {
      try {
        return await work();
      } catch (error) {
        const after = TRIES_AFTER[tries];
        if (!(error instanceof RemoteError) || error.trouble !== 'away' || after === undefined) throw error;
        await wait(after, undefined, { signal });
      }
    }
  }

  private async sent(id: string): Promise<Sent> {
    const sent = await this.ledger.sent(id);
    if (!sent) throw new ArkivError('not-found', { what: 'sending', id });
    return sent;
  }
}
