import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, isoTime, SHOOT_FOLDER } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { clearTemporaries, settle } from '../disk/place';
import { SourceError, verifiedCopy } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { CopyStore } from '../frames/copyStore';
import { FrameStore } from '../frames/frameStore';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { JobStore, type NewItem } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { MissingCopies } from './missingCopies.service';
import { isPreview, PreviewsAlong, type PreviewItem } from './previewsAlong.service';
import { refuseWhileMoving, type CopiesAsked } from './whileMoving';
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
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly frames: FramesService,
    private readonly volumes: VolumesService,
    private readonly verifying: VerifyHandler,
    private readonly missing: MissingCopies,
    private readonly texts: ShootTextsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly store: FrameStore,
    private readonly copyStore: CopyStore,
    private readonly items: JobStore,
    private readonly shoots: ShootsService,
    private readonly along: PreviewsAlong,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  async begin(job: Job): Promise<void> {
    const folders = new Map<string, Set<string>>();
    for await (const item of this.items.walk(job.id, ['todo'])) {
      if (isPreview(item.data)) continue;
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

  /** Copies that are missing by now, shoot by shoot. */
  async more(job: Job, last: JobItem | null): Promise<{ items: NewItem[]; ahead: string }> {
    const asked = job.params as CopiesAsked;
    if (last && isPreview(last.data)) return this.previews(asked, last.data.frameId);
    let shoot = last?.shootId ?? asked.shootId ?? (await this.missing.shootAfter(''));
    let after = last ? (last.data as CopyItem).assetId : '';
    while (shoot !== null) {
      const { copies, through } = await this.missing.some(asked, shoot, after);
      if (through === null) {
        shoot = asked.shootId === undefined ? await this.missing.shootAfter(shoot) : null;
        after = '';
        continue;
      }
      after = through;
      const items = copies.map(({ size, shootId, ...data }) => ({ size, name: data.path, shootId, data }));
      if (items.length > 0) return { items, ahead: shoot };
    }
    return this.previews(asked, '');
  }

  private async previews(asked: CopiesAsked, after: string): Promise<{ items: NewItem[]; ahead: string }> {
    const items = await this.along.items(asked, after);
    return { items, ahead: items.length > 0 ? asked.shootId! : '' };
  }

  again(job: Job): Promise<void> {
    return refuseWhileMoving(this.reading, this.openJobs, job.params as CopiesAsked);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    if (isPreview(item.data)) return this.putPreview(job, item, item.data, context);
    const planned = item.data as CopyItem;
    const volume = await this.volumes.get(planned.volumeId);
    await this.present(volume);
    // The file may have been moved since the job was made.
    const asset = await this.frames.asset(planned.assetId);
    if (!asset) return { state: 'done' };
    const data: CopyItem = { ...planned, path: asset.at };
    const bad: VerifyItem[] = [];
    const sources = (await this.frames.copiesOf(data.assetId)).filter((c) => c.volume.id !== volume.id);
    let trouble = `no good copy of ${data.path} is on any drive that is here`;
    for (const { copy, volume: from } of sources) {
      if (!(await this.volumes.isOnline(from))) continue;
      const source = { volumeId: from.id, path: copy.at, assetId: data.assetId, sha256: data.sha256 };
      try {
        const finding = await this.verifying.look(from, source, context.signal);
        if (!finding.good) {
          bad.push(source);
          trouble = `${copy.at} on “${from.name}” ${finding.reason}`;
          continue;
        }
        const pastCache = await this.copy(
          job,
          data,
          await this.volumes.resolve(from, copy.at),
          volume,
          context,
        );
        return {
          state: 'done',
          commit: (manager) => this.made(manager, data, asset.frameId, pastCache),
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

  private async putPreview(
    job: Job,
    item: JobItem,
    data: PreviewItem,
    { onBytes }: ItemContext,
  ): Promise<ItemOutcome> {
    const volume = await this.volumes.get(data.volumeId);
    await this.present(volume);
    try {
      await this.along.put(volume, item.shootId!, data, job.id);
      onBytes(item.size);
      return { state: 'done' };
    } catch (error) {
      const { message } = volumeError(error, volume, item.name, 0, 0);
      return { state: 'failed', reason: `No preview of ${item.name} goes along: ${message}` };
    }
  }

  async finish(job: Job): Promise<CopyJobResult> {
    const shootIds = new Set<string>();
    const volumeIds = new Set<string>();
    for await (const item of this.items.walk(job.id, ['done'])) {
      if (isPreview(item.data)) continue;
      const { assetId, volumeId } = item.data as CopyItem;
      volumeIds.add(volumeId);
      const asset = await this.frames.asset(assetId);
      if (asset) shootIds.add(asset.shootId);
    }
    const volumes = await Promise.all([...volumeIds].map((id) => this.volumes.get(id)));
    const problems: string[] = [];
    for (const id of shootIds)
      problems.push(...(await this.texts.writeAll(await this.shoots.get(id), volumes, job.id)));
    this.happenings.tell('volumes', {});
    return {
      copied: job.filesDone,
      failed: job.filesFailed,
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
    const damages = await this.frames.damages(data.assetId);
    const damage = damages.find(({ volumeId }) => volumeId === volume.id);
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
    const asset = await this.frames.asset(assetId);
    const { folders } = await this.shoots.get(asset!.shootId);
    return folders.find((folder) => at.startsWith(`${folder}/`)) ?? path.posix.dirname(at);
  }

  /** The copy is proven, and the frame's sidecar belongs beside it too. */
  private async made(
    manager: EntityManager,
    data: CopyItem,
    frameId: string | null,
    pastCache: boolean,
  ): Promise<void> {
    const { assetId, volumeId } = data;
    await this.copyStore.verified(manager, assetId, volumeId, { verifiedAt: this.clock.now(), pastCache });
    if (frameId !== null) await this.store.due(manager, [frameId]);
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
