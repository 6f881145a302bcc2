import { Injectable, type OnModuleInit } from '@nestjs/common';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import type { Job, JobItem } from '../jobs/job.entity';
import type { ItemContext, ItemOutcome, JobHandler } from '../jobs/jobHandler';
import type { Lane } from '../jobs/lanes';
import { JobsService } from '../jobs/jobs.service';
import { archiveRecords } from '../record/recordTexts.service';
import { SettingsService } from '../settings/settings.service';
import { Shoot } from '../shoots/shoot.entity';
import { VolumesService } from '../volumes/volumes.service';
import { RebuildSteps, type RebuildItem } from './rebuildSteps';
import { RebuildStore } from './rebuildStore';

export interface RebuildParams {
  archiveId: string;
  /** what this archive was called by itself before: what it wrote on the drives by then goes */
  before: string;
}

export interface RebuildResult {
  shoots: number;
  frames: number;
  /** copies that are not where they were */
  missing: number;
  reason: string | null;
}

/** Makes the database anew from what the drives say: nothing on them is changed, and no picture is read. */
@Injectable()
export class RebuildHandler implements JobHandler, OnModuleInit {
  readonly kind = 'rebuild';
  /** What comes later stands on what came before. */
  readonly inFlight = 1;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly volumes: VolumesService,
    private readonly store: RebuildStore,
    private readonly steps: RebuildSteps,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: true };
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  async runItem(_job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const problems = await this.steps.run(item.data as RebuildItem);
    // What the studio had decided comes back as rows.
    this.settings.readAnew();
    context.onBytes(item.size);
    return problems.length === 0
      ? { state: 'done' }
      : { state: 'failed', reason: problems.slice(0, 20).join(' ') };
  }

  async finish(job: Job): Promise<RebuildResult> {
    const { archiveId, before } = job.params as RebuildParams;
    await this.store.countDrives();
    await this.settings.become(archiveId);
    await this.settings.set({ welcomed: true });
    for (const { id, heldBy } of await this.volumes.all())
      if (heldBy?.id === archiveId) await this.volumes.settled(id);
    if (before !== archiveId) {
      await this.volumes.signAnew();
      await this.leave(before);
    }
    const [counts]: [{ shoots: number; frames: number; missing: number }] = await this.reading.source.query(
      `SELECT (SELECT COUNT(*) FROM shoot WHERE "mergedInto" IS NULL) AS shoots,
         (SELECT COUNT(*) FROM frame_here) AS frames, (SELECT COUNT(*) FROM damage) AS missing`,
    );
    const shoots = await this.reading.manager.find(Shoot, { select: { id: true, revision: true } });
    for (const { id: shootId, revision } of shoots)
      this.happenings.tell('frames', { shootId, revision, ids: null });
    this.happenings.tell('rebuilt', {});
    for (const changed of ['piles', 'albums', 'vocabulary', 'bin', 'destinations', 'mail'] as const)
      this.happenings.tell(changed, {});
    this.happenings.tell('shoots', { shootId: null });
    await this.volumes.lookAround();
    return { ...counts, reason: null };
  }

  /** What was written of the empty archive that this was before. */
  private async leave(archiveId: string): Promise<void> {
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      const folder = archiveRecords(archiveId);
      const at = await this.volumes.resolve(volume, folder);
      if ((await this.disk.facts(at))?.kind !== 'folder') continue;
      for (const name of await this.disk.names(at)) {
        const file = await this.volumes.resolve(volume, `${folder}/${name.toString()}`);
        if ((await this.disk.facts(file))?.kind === 'file') await this.disk.unlink(file);
      }
      await this.disk.removeEmptyFolder(at);
    }
  }
}
