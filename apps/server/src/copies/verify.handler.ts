import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { EventsService } from '../events/events.service';
import { Copy } from '../frames/copy.entity';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { refuseWhileMoving } from './whileMoving';
import { Damage } from './damage.entity';

export interface VerifyParams {
  /** volumes whose copies were meant and that were not there, by name */
  away: string[];
}

/** A copy that is read again. */
export interface VerifyItem {
  path: string;
  volumeId: string;
  assetId: string;
  sha256: string;
}

export interface VerifyResult {
  verified: number;
  damaged: number;
  reason: string | null;
}

/** What a reading again found: as it should be, or what is wrong. */
export type Finding =
  { good: true; pastCache: boolean } | { good: false; found: string | null; reason: string };

/** Reads copies again, past the page cache, and holds them against the checksum of their arrival. */
@Injectable()
export class VerifyHandler implements JobHandler, OnModuleInit {
  readonly kind = 'verify';
  /** A drive is read fastest in one line; two lines keep two drives busy. */
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly volumes: VolumesService,
    private readonly events: EventsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  again(_job: Job, items: readonly JobItem[]): Promise<void> {
    const open = items.filter((item) => item.state !== 'done');
    return refuseWhileMoving(
      this.reading,
      this.openJobs,
      open.map((item) => (item.data as VerifyItem).assetId),
    );
  }

  async runItem(_job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const volume = await this.volumes.get((item.data as VerifyItem).volumeId);
    let data = await this.now(item.data as VerifyItem);
    if (!data) return { state: 'done' };
    let finding = await this.look(volume, data, context.signal);
    // A file that was moved while it was looked for is no damage: it is looked for where it is now.
    for (
      let moved = await this.now(data);
      !finding.good && moved && moved.path !== data.path;
      moved = await this.now(data)
    ) {
      data = moved;
      finding = await this.look(volume, data, context.signal);
    }
    const read = data;
    context.onBytes(item.size);
    const commit = (manager: EntityManager) => this.note(manager, read, finding);
    if (finding.good) return { state: 'done', commit };
    return { state: 'failed', reason: `${data.path} on “${volume.name}” ${finding.reason}`, commit };
  }

  /** Where the copy is by now; null when it is none any more. */
  private async now(data: VerifyItem): Promise<VerifyItem | null> {
    const { volumeId, assetId } = data;
    const copies = await this.reading.manager.findBy(Copy, { volumeId, assetId });
    const damages = await this.reading.manager.findBy(Damage, { volumeId, assetId });
    const places = [...copies, ...damages].map(({ path }) => path);
    if (places.length === 0) return null;
    return places.includes(data.path) ? data : { ...data, path: places[0]! };
  }

  async finish(job: Job, items: readonly JobItem[]): Promise<VerifyResult> {
    this.events.publish('volumes', {});
    const damaged = items.filter((item) => item.state === 'failed').length;
    const { away } = job.params as VerifyParams;
    return {
      verified: items.length - damaged,
      damaged,
      reason:
        away.length > 0
          ? `${away.map((name) => `“${name}”`).join(' and ')} ${away.length > 1 ? 'were' : 'was'} not there: nothing on ${away.length > 1 ? 'them' : 'it'} was read.`
          : null,
    };
  }

  /** Reads one copy. A volume that went away meanwhile is no damage: the job waits for it. */
  async look(volume: Volume, data: VerifyItem, signal?: AbortSignal): Promise<Finding> {
    await this.present(volume);
    try {
      const { sha256, pastCache } = await hashFile(
        this.disk,
        await this.volumes.resolve(volume, data.path),
        signal,
      );
      if (sha256 === data.sha256) return { good: true, pastCache };
      const short = (sum: string) => `${sum.slice(0, 12)}…`;
      return {
        good: false,
        found: sha256,
        reason: `has changed: its checksum should be ${short(data.sha256)} and is ${short(sha256)}.`,
      };
    } catch (error) {
      if (signal?.aborted || diskErrorCode(error) === null) throw error;
      await this.present(volume);
      const missing = diskErrorCode(error) === 'ENOENT';
      return {
        good: false,
        found: null,
        reason: missing ? 'is missing.' : `cannot be read (${(error as Error).message}).`,
      };
    }
  }

  /** Writes down what was found; a damaged copy counts as no copy from then on. */
  async note(manager: EntityManager, data: VerifyItem, finding: Finding): Promise<void> {
    const { volumeId, path, assetId } = data;
    const at = this.clock.now();
    const known = await manager.findOneBy(Copy, { volumeId, path });
    if (finding.good) {
      await manager.delete(Damage, { volumeId, path });
      const verified = { verifiedAt: at, pastCache: finding.pastCache };
      if (known) await manager.update(Copy, { id: known.id }, verified);
      else await manager.insert(Copy, { id: this.ids.newId(), assetId, volumeId, path, ...verified });
      return;
    }
    if (known) await manager.delete(Copy, { id: known.id });
    const { found, reason } = finding;
    await manager.save(Damage, { volumeId, path, assetId, found, reason, at });
  }

  private async present(volume: Volume): Promise<void> {
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(
        `“${volume.name}” is not there. Plug it in: reading carries on where it stopped.`,
      );
  }
}
