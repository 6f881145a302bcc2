import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, type PlannedMove } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { clearTemporaries } from '../disk/place';
import { SourceError, verifiedCopy, type CopyResult } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import type { Verified } from '../frames/copyStore';
import { FrameStore } from '../frames/frameStore';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { JobStore } from '../jobs/jobStore';
import { JobsService } from '../jobs/jobs.service';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { SidecarsService } from '../sidecars/sidecars.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { Companions } from './companions';
import { FileWays, sidecarEndings, type Way } from './fileWays';

/** Frames that are copied inside the archive. */
export interface DeriveParams {
  /** the shoot whose frames they are copies of */
  from: string;
  into: string;
}

/** One frame and the copy that is to be made of it. */
export interface DeriveItem extends PlannedMove {
  /** the id that the copy gets */
  copy: string;
  /** for the report: where the frame lies */
  path: string;
}

export interface DeriveResult {
  copied: number;
  failed: number;
  reason: string | null;
}

/**
 * Copies frames inside the archive: each file is read once, written on every drive here that has it, flushed, read back and compared
 * before it gets its name; then the copy is a frame of its own, with what was said of the first. A drive that could not take a file
 * misses that copy from then on, as any other.
 */
@Injectable()
export class DeriveHandler implements JobHandler, OnModuleInit {
  readonly kind = 'derive';
  readonly inFlight = 1;
  /** which frames it made is written down nowhere else */
  readonly keepsItems = true;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly openJobs: OpenJobs,
    private readonly archive: FramesService,
    private readonly store: FrameStore,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly texts: ShootTextsService,
    private readonly sidecars: SidecarsService,
    private readonly ways: FileWays,
    private readonly companions: Companions,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  async again(job: Job): Promise<void> {
    const { from, into } = job.params as DeriveParams;
    for (const id of new Set([from, into]))
      if (await this.openJobs.onShoots([id], { but: job.id }))
        throw new ArkivError('move.busy', { shoot: (await this.shoots.get(id)).title });
  }

  /** What sidecars say is what is copied, so those that are due are written first. */
  async begin(job: Job): Promise<void> {
    this.companions.forget();
    await this.sidecars.flush();
    const places = new Set<string>();
    for await (const item of this.items.walk(job.id, ['todo']))
      places.add((item.data as DeriveItem).to.place);
    for (const volume of await this.volumes.all())
      if (await this.volumes.isOnline(volume))
        for (const place of places)
          await clearTemporaries(this.disk, await this.volumes.resolve(volume, place), job.id);
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const data = item.data as DeriveItem;
    const { into } = job.params as DeriveParams;
    const frame = await this.reading.manager.findOneBy(Frame, { id: data.id!, state: 'here' });
    if (!frame) return { state: 'failed', reason: `${data.path} is no longer in the archive.` };
    // A run that was killed after it was written down.
    if (await this.reading.manager.existsBy(Frame, { id: data.copy })) return { state: 'done' };
    const files: Parameters<FrameStore['derive']>[3][number][] = [];
    for (const file of data.files) {
      const made = await this.copyFile(job, file, context);
      if (typeof made === 'string') return { state: 'failed', reason: made };
      files.push({ of: file.assetId, at: file.to, ...made });
    }
    await this.copyTexts(job, data, context);
    const to = { ...data.to, shootId: into, id: data.copy };
    return { state: 'done', commit: (manager) => this.store.derive(manager, frame, to, files) };
  }

  async finish(job: Job): Promise<DeriveResult> {
    const { into } = job.params as DeriveParams;
    await this.work.write(async (manager) => {
      const revision = await this.shoots.touch(manager, into);
      this.happenings.after(manager, 'frames', { shootId: into, revision, ids: null });
      this.happenings.after(manager, 'shoots', { shootId: into });
    });
    const shoot = await this.shoots.get(into);
    const problems = await this.texts.writeAll(shoot, await this.volumes.all(), job.id);
    const missing = await this.missing(job);
    if (missing > 0)
      problems.push(
        `${missing} of the copied files are missing on a drive that has the first ones: make the missing copies in Files.`,
      );
    return {
      copied: job.filesDone,
      failed: job.filesFailed,
      reason: problems.length > 0 ? problems.join(' ') : null,
    };
  }

  /** Files of the copies that fewer drives hold than the files they are copies of. */
  private async missing(job: Job): Promise<number> {
    let missing = 0;
    for await (const item of this.items.walk(job.id, ['done'])) {
      const { copy, files } = item.data as DeriveItem;
      const made = await this.archive.ofFrame(copy);
      for (const { assetId, to } of files) {
        const its = made.find(({ at }) => at === to);
        const wanted = (await this.archive.copiesOf(assetId)).length;
        if (its && (await this.archive.copiesOf(its.id)).length < wanted) missing += 1;
      }
    }
    return missing;
  }

  /** Copies one file to its place on every drive here that has it. Words about what stands in the way where none could take it. */
  private async copyFile(
    job: Job,
    { assetId, from, to }: DeriveItem['files'][number],
    { signal, onBytes }: ItemContext,
  ): Promise<{ sha256: string; copies: Map<string, Verified> } | string> {
    const asset = await this.archive.asset(assetId);
    if (!asset) return `${from} is no longer in the archive.`;
    const here: { volume: Volume; at: string }[] = [];
    const away: string[] = [];
    for (const { copy, volume } of await this.archive.copiesOf(assetId))
      if (await this.volumes.isOnline(volume)) here.push({ volume, at: copy.at });
      else away.push(`“${volume.name}”`);
    if (here.length === 0)
      throw new WaitForOutside(
        `${away.join(' and ')} with ${from} is not there. Plug it in: copying carries on where it stopped.`,
      );
    const targets = await Promise.all(
      here.map(async ({ volume }) => ({ id: volume.id, final: await this.volumes.resolve(volume, to) })),
    );
    let trouble = '';
    for (const { volume, at } of here) {
      let copied: CopyResult;
      try {
        const source = await this.volumes.resolve(volume, at);
        const expected = asset.sha256 ?? undefined;
        copied = await verifiedCopy(this.disk, source, targets, { job: job.id, signal, onBytes, expected });
      } catch (error) {
        if (signal.aborted || !(error instanceof SourceError)) throw error;
        trouble = wordsOf(error.reason, volume, at, asset.size);
        continue;
      }
      const copies = new Map<string, Verified>();
      for (const target of copied.targets) {
        if (target.ok) copies.set(target.id, { verifiedAt: this.clock.now(), pastCache: target.pastCache });
        else
          trouble = wordsOf(
            target.error,
            here.find((one) => one.volume.id === target.id)!.volume,
            to,
            asset.size,
          );
      }
      if (copies.size > 0) return { sha256: copied.sha256, copies };
    }
    return `${from} could not be copied: ${trouble}`;
  }

  /** What stands beside the frame goes along: its sidecars, with what other programs wrote into them, and their settings. */
  private async copyTexts(job: Job, data: DeriveItem, { signal }: ItemContext): Promise<void> {
    const before = `${data.from.place}/${data.from.name}`;
    const after = `${data.to.place}/${data.to.name}`;
    const own = new Set(data.files.map((file) => file.from));
    const endings = sidecarEndings(data.files.map((file) => file.from));
    const { from } = job.params as DeriveParams;
    // Its own files that are copied already are nobody's settings.
    const copied = new Set(data.files.map((file) => file.to));
    const ways: Way[] = (await this.companions.of(data, from)).filter((way) => !copied.has(way.from));
    for (const volume of await this.drivesOf(data))
      for (const way of await this.ways.sidecars(volume, before, after, endings))
        if (!own.has(way.from)) ways.push(way);
    for (const way of ways) {
      if (!(await this.ways.there(way, 'from'))) continue;
      const source = await this.volumes.resolve(way.volume, way.from);
      const final = await this.volumes.resolve(way.volume, way.to);
      // A text that is there already was put there by a run that was killed; the frame's own is written anew in any case.
      await verifiedCopy(this.disk, source, [{ id: way.volume.id, final }], { job: job.id, signal });
    }
  }

  private async drivesOf(data: DeriveItem): Promise<Volume[]> {
    const drives = new Map<string, Volume>();
    for (const { assetId } of data.files)
      for (const { volume } of await this.archive.copiesOf(assetId))
        if (await this.volumes.isOnline(volume)) drives.set(volume.id, volume);
    return [...drives.values()];
  }
}

function wordsOf(error: unknown, volume: Volume, file: string, size: number): string {
  if (error instanceof ArkivError) return `${error.message} ${error.body().next}`;
  if (diskErrorCode(error) === null) return (error as Error).message;
  const shown = volumeError(error, volume, file, size, 0);
  return `${shown.message} ${shown.body().next}`;
}
