import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { ArkivError, daysReading, ofToday } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Job } from '../jobs/job.entity';
import { JobsService } from '../jobs/jobs.service';
import { OpenJobs } from '../jobs/openJobs.service';
import { SettingsService } from '../settings/settings.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { CopiesService, LAST } from './copies.service';
import type { VerifyItem, VerifyParams } from './verify.handler';

/** Milliseconds between looks: a drive that is there for an evening gets its turn. */
const ROUND = 60 * 60_000;
/** Milliseconds after the start, or after a drive came, before it is read: whoever comes to work is served first. */
const QUIET = 60_000;
/** Files of one day: with their items some megabytes of rows. */
const MOST = 20_000;

/**
 * Reads copies again by itself, a little each day, the oldest proof first and after everything else; and makes copies that are missing
 * where the studio wants that.
 */
@Injectable()
export class ProofSchedule implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('proofs');
  private round: NodeJS.Timeout | null = null;
  private timer: NodeJS.Timeout | null = null;
  private looking: Promise<void> = Promise.resolve();
  private stopping = false;

  constructor(
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
    private readonly copies: CopiesService,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly settings: SettingsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
    happenings: Happenings,
  ) {
    happenings.on('volumes', () => this.soon());
  }

  onApplicationBootstrap(): void {
    this.soon();
    this.round = setInterval(() => void this.look(), ROUND);
    this.round.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    for (const timer of [this.round, this.timer]) if (timer) clearTimeout(timer);
    await this.looking;
  }

  private soon(): void {
    if (this.stopping || this.timer) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.look();
    }, QUIET);
    this.timer.unref();
  }

  /** Begins what is due today on the drives that are here. */
  look(): Promise<void> {
    this.looking = this.looking
      .then(() => (this.stopping ? undefined : this.lookNow()))
      .catch((error: unknown) => this.log.error((error as Error).stack));
    return this.looking;
  }

  private async lookNow(): Promise<void> {
    if (!(await this.openJobs.isWhole())) return;
    const { verifyDays, copyMissing } = await this.settings.all();
    for (const volume of await this.volumes.all()) {
      if (volume.role === 'edit' || !(await this.volumes.isOnline(volume))) continue;
      if (verifyDays > 0) await this.read(volume, verifyDays);
    }
    if (copyMissing) await this.makeMissing();
  }

  private async read(volume: Volume, days: number): Promise<void> {
    if (await this.hadToday(volume)) return;
    const asked = daysReading({ bytes: volume.bytes, days, now: this.clock.now() });
    const due: (VerifyItem & { size: number; shootId: string })[] = await this.reading.source.query(
      `SELECT c."assetId", c."volumeId", a.sha256, a.size, a."shootId", COALESCE(c.path, a."at") AS path
       FROM copy c JOIN asset_at a ON a.id = c."assetId"
       WHERE c."volumeId" = ? AND (c."verifiedAt" IS NULL OR c."verifiedAt" < ?) ORDER BY c."verifiedAt" LIMIT ${MOST}`,
      [volume.id, asked.before],
    );
    const today = ofToday(due, asked);
    if (today.length === 0) return;
    const params: VerifyParams = { volumeId: volume.id, on: [volume.id], away: [], scheduled: true };
    const job = { id: this.ids.newId(), kind: 'verify' as const, title: volume.name, shootId: null, params };
    await this.jobs.begin([
      {
        job: { ...job, priority: LAST },
        items: today.map(({ size, shootId, ...data }) => ({ size, name: data.path, shootId, data })),
      },
    ]);
  }

  /** Whether a drive had its share today, or is being read anyway. */
  private async hadToday({ id }: Volume): Promise<boolean> {
    const open = await this.openJobs.ofKind('verify');
    if (open.some(({ params }) => (params as VerifyParams).on?.includes(id))) return true;
    const jobs = await this.reading.manager.find(Job, {
      where: { kind: 'verify' },
      order: { createdAt: 'DESC' },
      take: 100,
    });
    const today = localDay(this.clock.now());
    return jobs.some(({ params, createdAt }) => {
      const { scheduled, on } = params as VerifyParams;
      return scheduled === true && on?.includes(id) === true && localDay(createdAt) === today;
    });
  }

  /** One shoot after another, while nothing else is being copied. */
  private async makeMissing(): Promise<void> {
    if ((await this.openJobs.ofKind('copy')).length > 0) return;
    const shoots: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM shoot WHERE "missingCopies" > 0 AND "keptIn" IS NULL AND "mergedInto" IS NULL ORDER BY date DESC, id`,
    );
    for (const { id: shootId } of shoots) {
      try {
        await this.copies.copyNow({ shootId });
        return;
      } catch (error) {
        // Nothing can be made of this one now: no further drive is here, or there is no room.
        if (!(error instanceof ArkivError)) throw error;
      }
    }
  }
}
