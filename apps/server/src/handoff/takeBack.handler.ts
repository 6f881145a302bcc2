import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, binFolderOf, inBin, isoTime } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { OutLedger } from '../ledger/outLedger';
import { FileWays, type Way } from '../moves/fileWays';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { HandoffService } from './handoff.service';
import { WithEditing } from './withEditing';

interface TakeBackParams {
  volumeId: string;
  /** of the drive's bin: where the copies of this time go */
  folder: string;
}

interface TakeBackItem {
  frameId: string;
  /** places of the copies */
  paths: string[];
}

/**
 * Takes copies of frames that are keepers no more away from editing: into the bin of their drive, as they are by now, with all that
 * editing put beside them under their names. The originals and their own sidecars are not touched.
 */
@Injectable()
export class TakeBackHandler implements JobHandler, OnModuleInit {
  readonly kind = 'take-back';
  readonly inFlight = 1;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly handoff: HandoffService,
    private readonly editing: WithEditing,
    private readonly ledger: OutLedger,
    private readonly ways: FileWays,
    private readonly texts: OwnTextsService,
    private readonly shoots: ShootsService,
    private readonly volumes: VolumesService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  async start(
    shootId: string,
    { volumeId, folder }: { volumeId: string; folder?: string },
  ): Promise<{ jobId: string }> {
    const shoot = await this.shoots.get(shootId);
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const { items: going, inside } = await this.handoff.going(shootId, folder);
    const { gone } = await this.editing.compare({ shootId, volumeId, inside }, going);
    if (gone.length === 0) throw new ArkivError('handoff.nothing', { volume: volume.name });
    const id = this.ids.newId();
    const params: TakeBackParams = {
      volumeId,
      folder: binFolderOf(isoTime(this.clock.now()).slice(0, 10), shoot.folders[0] ?? shoot.title, id),
    };
    const items = gone.map(({ frameId, paths }): TakeBackItem => ({ frameId, paths }));
    await this.jobs.begin([
      {
        job: { id, kind: 'take-back', title: `${shoot.title} on ${volume.name}`, shootId, params },
        items: items.map((data) => ({ size: 0, name: data.paths[0]!, data })),
      },
    ]);
    return { jobId: id };
  }

  async begin(job: Job): Promise<void> {
    const { volumeId } = job.params as TakeBackParams;
    const volume = await this.volumes.get(volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: taking back carries on.`);
    // Whatever editing said last: in the bin nobody reads it any more.
    await this.editing.hear(job.shootId!, volumeId);
  }

  async runItem(job: Job, item: JobItem): Promise<ItemOutcome> {
    const { volumeId, folder } = job.params as TakeBackParams;
    const { paths } = item.data as TakeBackItem;
    const volume = await this.volumes.get(volumeId);
    const ways = await this.waysOf(volume, paths, folder);
    try {
      await this.ways.go(ways, () =>
        this.work.write(async (manager) => {
          for (const at of paths) await this.ledger.takeBack(manager, volumeId, at);
          for (const { from } of ways) await this.texts.forgotten(manager, from, volumeId);
        }),
      );
      return { state: 'done' };
    } catch (error) {
      return { state: 'failed', reason: await this.ways.troubleOf(error, paths[0]!, []) };
    }
  }

  finish(): Promise<object> {
    return Promise.resolve({});
  }

  /**
   * The copies, and what lies beside them under their names: settings and sidecars of other programs, but no copy of a frame that has
   * the name by now. What is gone by hand is left out.
   */
  private async waysOf(volume: Volume, paths: readonly string[], folder: string): Promise<Way[]> {
    const from = new Set(paths);
    for (const at of paths) {
      const { dir, name } = path.posix.parse(at);
      const home = await this.volumes.resolve(volume, dir);
      if ((await this.disk.facts(home))?.kind !== 'folder') continue;
      for (const bytes of await this.disk.names(home)) {
        const beside = bytes.toString();
        if (!beside.startsWith(`${name}.`) || !Buffer.from(beside).equals(bytes)) continue;
        const place = `${dir}/${beside}`;
        if ((await this.ledger.handedAt(volume.id, place)) === null) from.add(place);
      }
    }
    const ways = [...from].map((at): Way => ({ volume, from: at, to: inBin(folder, at), sha256: null }));
    const there: Way[] = [];
    for (const way of ways)
      if ((await this.ways.there(way, 'from')) || (await this.ways.there(way, 'to'))) there.push(way);
    return there;
  }
}
