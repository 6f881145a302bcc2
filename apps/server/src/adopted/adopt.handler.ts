import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { VolumesService } from '../volumes/volumes.service';
import { AdoptedFrames } from './adoptedFrames.service';
import { AdoptedStore } from './adoptedStore';
import { AdoptedTree } from './adoptedTree';

export interface AdoptParams {
  adoptedId: string;
  /** whether previews of what comes are made without being asked for */
  tell: boolean;
}
export interface AdoptItem {
  /** below the drive */
  folder: string;
}

/** Takes folders of a tree into the archive where they lie, one after another. */
@Injectable()
export class AdoptHandler implements JobHandler, OnModuleInit {
  readonly kind = 'adopt';
  readonly inFlight = 2;

  constructor(
    private readonly jobs: JobsService,
    private readonly store: AdoptedStore,
    private readonly tree: AdoptedTree,
    private readonly frames: AdoptedFrames,
    private readonly volumes: VolumesService,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  async runItem(job: Job, item: JobItem, { onBytes }: ItemContext): Promise<ItemOutcome> {
    const { adoptedId, tell } = job.params as AdoptParams;
    const adopted = await this.store.find(adoptedId);
    if (!adopted) return { state: 'skipped', reason: 'The folder was let go meanwhile.' };
    const volume = await this.volumes.get(adopted.volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: the folder is looked at then.`);
    const { folder } = item.data as AdoptItem;
    const there = await this.tree.folder(volume, folder);
    // What is known of a folder that went is said like that of one that is empty by now.
    const found = there ?? this.tree.empty(folder);
    if (found.closed !== null)
      return { state: 'failed', reason: `${folder} may not be read by now, or belongs to a shoot.` };
    const { problems } = await this.frames.index(adopted, volume, found, { tell });
    onBytes(item.size);
    return problems.length === 0
      ? { state: 'done' }
      : { state: 'failed', reason: problems.slice(0, 20).join(' ') };
  }

  finish(): Promise<object> {
    return Promise.resolve({});
  }
}
