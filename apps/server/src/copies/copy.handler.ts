import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, isoTime, SHOOT_FOLDER } from '@arkiv/core';
import { In, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { clearTemporaries, settle } from '../disk/place';
import { SourceError, verifiedCopy } from '../disk/verifiedCopy';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { SidecarsService } from '../marks/sidecars.service';
import { Shoot } from '../shoots/shoot.entity';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { refuseWhileMoving } from './whileMoving';
import { Damage } from './damage.entity';
import { VerifyHandler, type VerifyItem } from './verify.handler';

/** A copy that is to be made. */
export interface CopyItem {
  assetId: string;
  sha256: string;
  path: string;
  volumeId: string;
}

export interface CopyJobResult {
  copied: number;
  failed: number;
  reason: string | null;
}

/** Makes the copies that are missing, and puts damaged ones right, each from a copy that proves good while it is read. */
@Injectable()
export class CopyHandler implements JobHandler, OnModuleInit {
  readonly kind = 'copy';
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly frames: FramesService,
    private readonly volumes: VolumesService,
    private readonly verifying: VerifyHandler,
    private readonly texts: ShootTextsService,
    private readonly sidecars: SidecarsService,
    private readonly events: EventsService,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async begin(job: Job, items: readonly JobItem[]): Promise<void> {
    const folders = new Map<string, Set<string>>();
    for (const item of items) {
      const { volumeId, path: to } = item.data as CopyItem;
      folders.set(volumeId, (folders.get(volumeId) ?? new Set()).add(path.posix.dirname(to)));
    }
    for (const [volumeId, below] of folders) {
      const volume = await this.volumes.get(volumeId);
      await this.present(volume);
      for (const folder of below)
        await clearTemporaries(this.disk, await this.volumes.resolve(volume, folder), job.id);
    }
  }

  again(_job: Job, items: readonly JobItem[]): Promise<void> {
    const open = items.filter((item) => item.state !== 'done');
    return refuseWhileMoving(
      this.reading,
      this.openJobs,
      open.map((item) => (item.data as CopyItem).assetId),
    );
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const planned = item.data as CopyItem;
    const volume = await this.volumes.get(planned.volumeId);
    await this.present(volume);
    // The file may have been moved since the job was made.
    const asset = await this.reading.manager.findOneByOrFail(Asset, { id: planned.assetId });
    const data: CopyItem = { ...planned, path: asset.path };
    const bad: VerifyItem[] = [];
    const sources = (await this.frames.copiesOf(data.assetId)).filter((c) => c.volume.id !== volume.id);
    let trouble = `no good copy of ${data.path} is on any drive that is here`;
    for (const { copy, volume: from } of sources) {
      if (!(await this.volumes.isOnline(from))) continue;
      const source = { volumeId: from.id, path: copy.path, assetId: data.assetId, sha256: data.sha256 };
      try {
        const finding = await this.verifying.look(from, source, context.signal);
        if (!finding.good) {
          bad.push(source);
          trouble = `${copy.path} on “${from.name}” ${finding.reason}`;
          continue;
        }
        const pastCache = await this.copy(
          job,
          data,
          await this.volumes.resolve(from, copy.path),
          volume,
          context,
        );
        return {
          state: 'done',
          commit: (manager) => this.made(manager, data, pastCache),
        };
      } catch (error) {
        if (context.signal.aborted || error instanceof WaitForOutside) throw error;
        const cause = error instanceof SourceError ? error.reason : error;
        const shown = volumeError(cause, volume, data.path, item.size, 0);
        trouble = `${shown.message} ${shown.body().next}`;
      }
    }
    return { state: 'failed', reason: `${data.path} could not be copied to “${volume.name}”: ${trouble}` };
  }

  async finish(job: Job, items: readonly JobItem[]): Promise<CopyJobResult> {
    const done = items.filter((item) => item.state === 'done').map((item) => item.data as CopyItem);
    // As one JSON text: a statement takes some 32,000 parameters, and a new drive gets more files than that.
    const touched: Pick<Asset, 'shootId' | 'frameId'>[] = await this.reading.source.query(
      `SELECT DISTINCT "shootId", "frameId" FROM asset WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(done.map((d) => d.assetId))],
    );
    const shoots = await this.reading.manager.findBy(Shoot, {
      id: In([...new Set(touched.map((a) => a.shootId))]),
    });
    const volumes = await Promise.all(
      [...new Set(done.map((d) => d.volumeId))].map((id) => this.volumes.get(id)),
    );
    const problems: string[] = [];
    for (const shoot of shoots) problems.push(...(await this.texts.writeAll(shoot, volumes, job.id)));
    // The sidecars belong beside the new copies too.
    const frames = [...new Set(touched.flatMap((a) => a.frameId ?? []))];
    await this.work.write(async (manager) => {
      for (let at = 0; at < frames.length; at += 500)
        await manager.increment(Frame, { id: In(frames.slice(at, at + 500)) }, 'sidecarDue', 1);
    });
    this.sidecars.soon();
    this.events.publish('volumes', {});
    return {
      copied: done.length,
      failed: items.length - done.length,
      reason: problems.length > 0 ? problems.join(' ') : null,
    };
  }

  /** Copies and proves; a damaged file in the way is set aside first, never thrown away. */
  private async copy(
    job: Job,
    data: CopyItem,
    source: string,
    volume: Volume,
    context: ItemContext,
  ): Promise<boolean> {
    const final = await this.volumes.resolve(volume, data.path);
    const damage = await this.reading.manager.findOneBy(Damage, { volumeId: volume.id, path: data.path });
    if (damage) await this.setAside(volume, data, final);
    const { targets } = await verifiedCopy(this.disk, source, [{ id: volume.id, final }], {
      job: job.id,
      signal: context.signal,
      onBytes: context.onBytes,
      expected: data.sha256,
    });
    const [target] = targets;
    if (!target?.ok) throw target?.error;
    return target.pastCache;
  }

  /** Moves what lies in the place of a damaged copy to the shoot's own folder, unless it proves good after all. */
  private async setAside(volume: Volume, data: CopyItem, final: string): Promise<void> {
    if (!(await this.disk.facts(final))) return;
    const again = await this.verifying.look(volume, data);
    if (again.good) return;
    const shootFolder = await this.shootFolder(data);
    const stamp = isoTime(this.clock.now()).replace(/[:.]/g, '-');
    const { name, ext } = path.posix.parse(data.path);
    const aside = await this.volumes.resolve(
      volume,
      `${shootFolder}/${SHOOT_FOLDER}/damaged/${name}_${stamp}${ext}`,
    );
    await this.disk.makeFolders(path.dirname(aside));
    await settle(this.disk, final, aside);
    await this.disk.syncFolder(path.dirname(final));
  }

  private async shootFolder({ assetId, path: at }: CopyItem): Promise<string> {
    const asset = await this.reading.manager.findOneByOrFail(Asset, { id: assetId });
    const shoot = await this.reading.manager.findOneByOrFail(Shoot, { id: asset.shootId });
    return shoot.folders.find((folder) => at.startsWith(`${folder}/`)) ?? path.posix.dirname(at);
  }

  private async made(manager: EntityManager, data: CopyItem, pastCache: boolean): Promise<void> {
    const { assetId, volumeId, path: at } = data;
    await manager.delete(Damage, { volumeId, assetId });
    const verified = { verifiedAt: this.clock.now(), pastCache };
    const known = await manager.findOneBy(Copy, { volumeId, path: at });
    if (known) await manager.update(Copy, { id: known.id }, verified);
    else await manager.insert(Copy, { id: this.ids.newId(), assetId, volumeId, path: at, ...verified });
  }

  private async present(volume: Volume): Promise<void> {
    try {
      await this.volumes.check(volume);
    } catch (error) {
      if (!(error instanceof ArkivError)) throw error;
      throw new WaitForOutside(
        `“${volume.name}” is not there. Plug it in: copying carries on where it stopped.`,
      );
    }
  }
}
