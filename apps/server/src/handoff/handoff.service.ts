import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, describe, namesTogether, sidecarOf, type AssetRole } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { SourceError, verifiedCopy } from '../disk/verifiedCopy';
import { FramesService } from '../frames/frames.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import { SidecarsService } from '../marks/sidecars.service';
import { ShootsService } from '../shoots/shoots.service';
import { Ids } from '../system/ids';
import { SettingsService } from '../system/settings.service';
import { volumeError, VolumesService } from '../volumes/volumes.service';

interface HandoffParams {
  volumeId: string;
  frames: number;
}

interface HandoffItem {
  /** below the volume it comes from */
  from: string;
  /** below the target volume */
  to: string;
  role: AssetRole;
  assetId: string | null;
  sha256: string | null;
}

export interface HandoffPlan {
  volumeId: string;
  volume: string;
  online: boolean;
  folders: string[];
  frames: number;
  files: number;
  bytes: number;
  /** the sentence of the studio's keeper rule */
  rule: string;
}

export interface HandoffResult {
  volumeId: string;
  volume: string;
  folders: string[];
  frames: number;
  files: number;
  bytes: number;
  verified: number;
  failed: number;
}

/** A sidecar's size is not known before it is written; three kilobytes is what ours have. */
const SIDECAR_BYTES = 3000;

/** Copies the keepers' originals with their sidecars to a selects folder, counted and verified. */
@Injectable()
export class HandoffService implements JobHandler, OnModuleInit {
  readonly kind = 'handoff';
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly shoots: ShootsService,
    private readonly frames: FramesService,
    private readonly texts: OwnTextsService,
    private readonly sidecars: SidecarsService,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly ids: Ids,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async plan(shootId: string, volumeId: string): Promise<HandoffPlan> {
    const { items, folders, frames } = await this.items(shootId);
    const volume = await this.volumes.get(volumeId);
    const { rules } = await this.settings.all();
    return {
      volumeId,
      volume: volume.name,
      online: await this.volumes.isOnline(volume),
      folders,
      frames,
      files: items.length,
      bytes: items.reduce((sum, item) => sum + item.size, 0),
      rule: describe(rules.keeper),
    };
  }

  async start(shootId: string, volumeId: string): Promise<{ jobId: string }> {
    const volume = await this.volumes.get(volumeId);
    await this.volumes.check(volume);
    const shoot = await this.shoots.get(shootId);
    const { items, frames } = await this.items(shootId);
    if (frames === 0)
      throw new ArkivError('job.nothing', { rule: describe((await this.settings.all()).rules.keeper) });
    const bytes = items.reduce((sum, item) => sum + item.size, 0);
    const { free } = await this.disk.space(volume.root);
    if (free < bytes)
      throw new ArkivError('volume.full', { volume: volume.name, needed: bytes, free, file: '' });
    const jobId = this.ids.newId();
    const params: HandoffParams = { volumeId, frames };
    await this.work.write((manager) =>
      this.jobs.create(manager, { id: jobId, kind: 'handoff', title: shoot.title, shootId, params }, items),
    );
    this.jobs.start(jobId);
    return { jobId };
  }

  async begin(job: Job): Promise<void> {
    await this.sidecars.flush();
    const volume = await this.volumes.get((job.params as HandoffParams).volumeId);
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(`“${volume.name}” is not there. Plug it in: copying carries on.`);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const data = item.data as HandoffItem;
    const volume = await this.volumes.get((job.params as HandoffParams).volumeId);
    try {
      await this.volumes.check(volume);
      if (data.role === 'sidecar' && data.assetId === null) await this.handSidecar(job, data, volume.id);
      else {
        const { file } = await this.frames.locate(data.assetId!);
        const target = { id: volume.id, final: await this.volumes.resolve(volume, data.to) };
        const result = await verifiedCopy(this.disk, file, [target], {
          job: job.id,
          signal: context.signal,
          onBytes: context.onBytes,
          expected: data.sha256!,
        });
        const [copied] = result.targets;
        if (copied && !copied.ok) throw copied.error;
      }
      return { state: 'done' };
    } catch (error) {
      if (context.signal.aborted) throw error;
      const cause = error instanceof SourceError ? error.reason : error;
      const shown = volumeError(cause, volume, data.to, item.size, 0);
      return { state: 'failed', reason: `${data.from}: ${shown.message} ${shown.body().next}` };
    }
  }

  async finish(job: Job, items: readonly JobItem[]): Promise<HandoffResult> {
    const { volumeId, frames } = job.params as HandoffParams;
    const done = items.filter((item) => item.state === 'done');
    return {
      volumeId,
      volume: (await this.volumes.get(volumeId)).name,
      folders: [...new Set(items.map((item) => path.posix.dirname((item.data as HandoffItem).to)))],
      frames,
      files: items.length,
      bytes: done.reduce((sum, item) => sum + item.size, 0),
      verified: done.length,
      failed: items.length - done.length,
    };
  }

  /** A sidecar goes as text: it may have gone before, and is replaced only while nobody else has touched it. */
  private async handSidecar(job: Job, data: HandoffItem, volumeId: string): Promise<void> {
    const shoot = await this.shoots.get(job.shootId!);
    const text = await this.sidecarText(shoot.id, data.from);
    const volume = await this.volumes.get(volumeId);
    const found = await this.texts.read(volume, data.to);
    if (found.changedOutside && found.text !== text) throw new ArkivError('file.exists', { file: data.to });
    if (!(await this.texts.replace(volume, data.to, text, found.text, job.id)))
      throw new ArkivError('file.exists', { file: data.to });
  }

  /** The sidecar's text from the first volume that has it. */
  private async sidecarText(shootId: string, relative: string): Promise<string> {
    for (const { volume, online } of await this.volumes.list()) {
      if (!online) continue;
      const { text } = await this.texts.read(volume, relative);
      if (text !== null) return text;
    }
    throw new ArkivError('not-found', { what: `sidecar of shoot ${shootId}`, id: relative });
  }

  private async items(
    shootId: string,
  ): Promise<{ items: { size: number; data: HandoffItem }[]; folders: string[]; frames: number }> {
    const shoot = await this.shoots.get(shootId);
    const { rules } = await this.settings.all();
    const frames = await this.frames.select(shootId, rules.keeper);
    const selects = (folder: string, name: string) => `${folder}/${shoot.plan.selects}/${name}`;
    const frameOf = new Map(frames.map((f) => [f.id, f]));
    // Frames of several cards' or bodies' folders come together here.
    const names = namesTogether(await this.frames.ofShoot(shootId));
    const originals = (await this.frames.originals(frames.map((f) => f.id))).map((asset) => {
      const frame = frameOf.get(asset.frameId!)!;
      const ending = path.posix.basename(asset.path).slice(frame.name.length);
      const data: HandoffItem = {
        from: asset.path,
        to: selects(frame.folder, `${names.get(frame.id)!}${ending}`),
        role: asset.role,
        assetId: asset.id,
        sha256: asset.sha256,
      };
      return { size: asset.size, data };
    });
    const sidecars = frames.map((frame) => {
      const data: HandoffItem = {
        from: sidecarOf(frame.place, frame.name),
        to: sidecarOf(`${frame.folder}/${shoot.plan.selects}`, names.get(frame.id)!),
        role: 'sidecar',
        assetId: null,
        sha256: null,
      };
      return { size: SIDECAR_BYTES, data };
    });
    return {
      items: [...originals, ...sidecars],
      folders: [...new Set(frames.map((f) => `${f.folder}/${shoot.plan.selects}`))],
      frames: frames.length,
    };
  }
}
