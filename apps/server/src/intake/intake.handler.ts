import path from 'node:path';
import { Injectable, type OnModuleInit } from '@nestjs/common';
import { advance, ArkivError, fateOf, type FileProgress } from '@arkiv/core';
import { In } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { clearTemporaries } from '../disk/place';
import { unreadableRanges, type ByteRange } from '../disk/unreadable';
import { hashFile, SourceError, verifiedCopy, type CopyTarget } from '../disk/verifiedCopy';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemContext, type ItemOutcome, type JobHandler } from '../jobs/jobHandler';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { cardPath } from '../readers/cardScan';
import { ReadersService } from '../readers/readers.service';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { IntakeFrames } from './intakeFrames.service';
import type { IntakeItem, IntakeParams, IntakeResult } from './intake.types';
import { ReceiptsService } from './receipts.service';

/** Copies a card's files, each in one reading to all targets, and proves them. */
@Injectable()
export class IntakeHandler implements JobHandler, OnModuleInit {
  readonly kind = 'intake';
  /** Two files at once keep two cores at their checksums: 0.59–0.65 of the shell’s time (4.2 GB, five rounds). */
  readonly inFlight = 2;
  /** by job and checksum, while a job runs: the path under which that content is being copied, null if it fails */
  private readonly claims = new Map<string, Map<string, Promise<string | null>>>();

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly frames: IntakeFrames,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly receipts: ReceiptsService,
    private readonly texts: ShootTextsService,
    private readonly events: EventsService,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  async again(job: Job): Promise<void> {
    // Stopped before anything was proven, its shoot went with it.
    if (job.shootId === null && job.state === 'cancelled')
      throw new ArkivError('job.state', { state: 'stopped with nothing copied', action: 'tried again' });
    const homes = job.shootId === null ? [] : [job.shootId, await this.frames.homeOf(job, null)];
    const moving = await this.openJobs.onShoots(homes, { kinds: ['move'] });
    if (moving) throw new ArkivError('move.busy', { shoot: moving.title });
  }

  async begin(job: Job, items: readonly JobItem[]): Promise<void> {
    const params = job.params as IntakeParams;
    await this.clearTemporaries(job.id, params.targets, items);
    this.frames.begin(job, items);
    this.claims.set(job.id, new Map());
    if (!items.some((item) => item.state === 'todo')) return;
    const reader = await this.readers.get(params.readerId);
    if (!reader.card)
      throw new WaitForOutside(
        `The card is not in “${reader.name}”. Insert it again: copying carries on where it stopped.`,
      );
    const { fingerprint } = await this.readers.files(params.readerId);
    if (fingerprint !== params.fingerprint) {
      throw new WaitForOutside(
        `Another card is in “${reader.name}”. Insert “${params.card}” again: copying carries on where it stopped.`,
      );
    }
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const params = job.params as IntakeParams;
    const data = item.data as IntakeItem;
    const missing = params.targets.filter((id) => data.progress.targets[id]?.state !== 'verified');
    const volumes = await Promise.all(missing.map((id) => this.volumes.get(id)));
    let progress = advance(data.progress, { type: 'retry' });
    const ready: { volume: Volume; target: CopyTarget }[] = [];
    for (const volume of volumes) {
      try {
        await this.volumes.check(volume);
        ready.push({ volume, target: { id: volume.id, final: await this.volumes.resolve(volume, data.to) } });
      } catch (error) {
        progress = this.targetFailed(progress, volume, error, data, item.size, 0);
      }
    }
    if (data.known && missing.length === params.targets.length)
      progress = await this.compare(job, params, item, data, progress, context);
    if (ready.length > 0 && progress.alreadyHere === null && progress.sourceError === null)
      progress = await this.copy(job, params, item, data, progress, ready, context);
    return this.outcome(job, item, { ...data, progress });
  }

  /**
   * Frames of which some files have arrived are finished while the card is there; where it is not, they are shown with
   * what is proven of them. Nothing is taken away: what was copied is in the receipt.
   */
  async cancelled(
    job: Job,
    items: readonly JobItem[],
    runItem: (item: JobItem) => Promise<void>,
  ): Promise<void> {
    if (job.shootId === null) return;
    const begun = await this.frames.halfArrived(job.id);
    try {
      await this.begin(job, items);
      for (const item of items)
        if (item.state === 'todo' && begun.has((item.data as IntakeItem).frameId ?? '')) await runItem(item);
    } catch (error) {
      if (!(error instanceof WaitForOutside) && !(error instanceof ArkivError)) throw error;
    }
    await this.frames.show(begun);
    const empty = await this.frames.dropEmpty(job);
    if (empty) {
      const { targets } = job.params as IntakeParams;
      const volumes = await Promise.all(targets.map((id) => this.volumes.get(id)));
      await this.texts.leaveNoEmptyFolders(empty, volumes);
      this.forget(job);
      this.events.publish('shoots', { shootId: job.shootId });
      return;
    }
    const now = await this.jobs.items(job.id);
    if (now.some((item) => fateOf((item.data as IntakeItem).progress) === 'copied'))
      await this.receipts.write(job, now);
    this.forget(job);
    this.events.publish('shoots', { shootId: job.shootId });
  }

  async finish(job: Job, items: readonly JobItem[]): Promise<IntakeResult> {
    const nothingNew = items.every((item) => item.state === 'skipped');
    const receipts = nothingNew ? { written: [], problems: [] } : await this.receipts.write(job, items);
    await this.frames.dropKnown(job, items, nothingNew);
    if (!nothingNew) receipts.problems.push(...(await this.tellHome(job)));
    this.forget(job);
    this.events.publish('shoots', { shootId: job.shootId });
    this.events.publish('volumes', {});
    const fates = items.map((item) => fateOf((item.data as IntakeItem).progress));
    const count = (fate: string) => fates.filter((f) => f === fate).length;
    return {
      files: items.length,
      copied: count('copied'),
      alreadyHere: count('already-here'),
      partly: count('partly'),
      failed: count('failed'),
      bytes: items.reduce((sum, item) => sum + item.size, 0),
      receipts: receipts.written,
      reason: receipts.problems.length > 0 ? receipts.problems.join(' ') : null,
    };
  }

  private forget(job: Job): void {
    this.frames.forget(job);
    this.claims.delete(job.id);
  }

  /** Late files of a shoot that was merged stand in the manifest of the shoot that lives on. */
  private async tellHome(job: Job): Promise<string[]> {
    const home = await this.frames.homeOf(job, null);
    if (home === job.shootId) return [];
    return this.texts.writeAll(await this.shoots.get(home), await this.volumes.all(), job.id);
  }

  private async copy(
    job: Job,
    params: IntakeParams,
    item: JobItem,
    data: IntakeItem,
    start: FileProgress,
    ready: { volume: Volume; target: CopyTarget }[],
    context: ItemContext,
  ): Promise<FileProgress> {
    let progress = start;
    let here: string | null = null;
    let settleClaim: (path: string | null) => void = () => undefined;
    try {
      const { root } = await this.readers.rootOf(params.readerId);
      const result = await verifiedCopy(
        this.disk,
        cardPath(root, data.from),
        ready.map((r) => r.target),
        {
          job: job.id,
          signal: context.signal,
          onBytes: context.onBytes,
          wanted: async (sha256) => {
            here =
              (await this.sameNow(job, sha256, data)) ??
              (await this.alreadyHere(sha256, data, params.targets));
            if (here !== null) return false;
            const claim = new Promise<string | null>((resolve) => (settleClaim = resolve));
            this.claims.get(job.id)?.set(sha256, claim);
            return true;
          },
        },
      );
      progress = advance(progress, { type: 'hashed', sha256: result.sha256 });
      if (here !== null) return advance(progress, { type: 'already-here', path: here });
      for (const target of result.targets) {
        const { volume } = ready.find((r) => r.volume.id === target.id)!;
        if (target.ok)
          progress = advance(progress, {
            type: 'verified',
            target: target.id,
            at: this.clock.now(),
            pastCache: target.pastCache,
          });
        else
          progress = this.targetFailed(
            progress,
            volume,
            target.error,
            data,
            item.size,
            await this.freeOn(volume),
          );
      }
      if (fateOf(progress) === 'copied') settleClaim(data.to);
      return progress;
    } catch (error) {
      if (context.signal.aborted) throw error;
      const reader = await this.readers.get(params.readerId);
      if (!reader.card) {
        throw new WaitForOutside(
          `The card went away while ${data.from} was read. Insert it again in “${reader.name}”: copying carries on where it stopped.`,
        );
      }
      if (!(error instanceof SourceError)) throw error;
      const unreadable = await this.unreadable(params, data, item.size, error.position);
      return advance(progress, {
        type: 'source-failed',
        unreadable,
        reason: `${data.from} cannot be read ${rangesIn(unreadable, item.size, error.position)}: ${(error.reason as Error).message}. Try another reader; the other files go on.`,
      });
    } finally {
      settleClaim(null);
    }
  }

  /** Reads a file that is probably archived, and settles it by its checksum; nothing is written. */
  private async compare(
    job: Job,
    params: IntakeParams,
    item: JobItem,
    data: IntakeItem,
    progress: FileProgress,
    context: ItemContext,
  ): Promise<FileProgress> {
    const { root } = await this.readers.rootOf(params.readerId);
    try {
      const { sha256 } = await hashFile(this.disk, cardPath(root, data.from), context.signal);
      const hashed = advance(progress, { type: 'hashed', sha256 });
      const here =
        (await this.sameNow(job, sha256, data)) ?? (await this.archived(sha256, data, params.targets));
      if (here === null) return hashed;
      context.onBytes(item.size);
      return advance(hashed, { type: 'already-here', path: here });
    } catch (error) {
      if (context.signal.aborted || diskErrorCode(error) === null) throw error;
      // Copying meets the same trouble, and knows what to say of it.
      return progress;
    }
  }

  /**
   * The path of equal content that is archived and still there, be it once: a second copy that is missing is made of
   * that one, and until then the card is not safe to clear.
   */
  private async archived(
    sha256: string,
    data: IntakeItem,
    targets: readonly string[],
  ): Promise<string | null> {
    const everywhere = await this.alreadyHere(sha256, data, targets);
    if (everywhere !== null) return everywhere;
    for (const asset of await this.reading.manager.findBy(Asset, { sha256 })) {
      for (const copy of await this.reading.manager.findBy(Copy, { assetId: asset.id })) {
        const online = await this.volumes.isOnline(await this.volumes.get(copy.volumeId));
        if (online && (await this.stillThere([copy]))) return asset.path;
      }
    }
    return null;
  }

  private async unreadable(
    params: IntakeParams,
    data: IntakeItem,
    size: number,
    position: number,
  ): Promise<ByteRange[]> {
    try {
      const { root } = await this.readers.rootOf(params.readerId);
      return await unreadableRanges(this.disk, cardPath(root, data.from), size, position);
    } catch (error) {
      if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
      return [];
    }
  }

  private async freeOn(volume: Volume): Promise<number> {
    return (await this.volumes.status(volume)).space?.free ?? 0;
  }

  private targetFailed(
    progress: FileProgress,
    volume: Volume,
    error: unknown,
    data: IntakeItem,
    needed: number,
    free: number,
  ): FileProgress {
    const shown = volumeError(error, volume, data.to, needed, free);
    return advance(progress, {
      type: 'target-failed',
      target: volume.id,
      reason: `${data.to}: ${shown.message} ${shown.body().next}`,
    });
  }

  /** The path of equal content that another lane of this job is copying at this moment, once that is proven. */
  private async sameNow(job: Job, sha256: string, data: IntakeItem): Promise<string | null> {
    if (!isPicture(data)) return null;
    return (await this.claims.get(job.id)?.get(sha256)) ?? null;
  }

  /** The path of equal content that has a copy on every target already, under another name. */
  private async alreadyHere(
    sha256: string,
    data: IntakeItem,
    targets: readonly string[],
  ): Promise<string | null> {
    for (const asset of await this.reading.manager.findBy(Asset, { sha256 })) {
      if (asset.path === data.to) continue;
      // Small files of equal content belong to many frames: they are known only at their own place on the card.
      if (!isPicture(data) && asset.cardPath !== data.from) continue;
      const copies = await this.reading.manager.findBy(Copy, {
        assetId: asset.id,
        volumeId: In([...targets]),
      });
      if (copies.length === targets.length && (await this.stillThere(copies))) return asset.path;
    }
    return null;
  }

  private async stillThere(copies: readonly Copy[]): Promise<boolean> {
    for (const copy of copies) {
      const file = await this.volumes.resolve(await this.volumes.get(copy.volumeId), copy.path);
      if ((await this.disk.facts(file))?.kind !== 'file') return false;
    }
    return true;
  }

  private outcome(job: Job, item: JobItem, data: IntakeItem): ItemOutcome {
    const fate = fateOf(data.progress);
    const reasons = Object.values(data.progress.targets).flatMap((t) => (t.reason ? [t.reason] : []));
    const reason = data.progress.sourceError ?? (reasons.length > 0 ? reasons.join(' ') : undefined);
    const state = fate === 'already-here' ? 'skipped' : fate === 'copied' ? 'done' : 'failed';
    return { state, reason, data, commit: (manager) => this.frames.record(manager, job, data, item.size) };
  }

  /** Removes what a killed run of this job left under temporary names; nothing else is touched. */
  private async clearTemporaries(
    job: string,
    targets: readonly string[],
    items: readonly JobItem[],
  ): Promise<void> {
    const folders = new Set(items.map((item) => path.posix.dirname((item.data as IntakeItem).to)));
    for (const id of targets) {
      const volume = await this.volumes.get(id);
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of folders) {
        const place = await this.volumes.resolve(volume, folder);
        try {
          await clearTemporaries(this.disk, place, job);
        } catch (error) {
          throw volumeError(error, volume, folder, 0, 0);
        }
      }
    }
  }
}

/** Content that stands for itself; other small files of equal content may belong to many frames. */
const isPicture = ({ role }: IntakeItem): boolean => ['original', 'clip', 'note'].includes(role);

/** Where a file cannot be read, in words. Ranges count bytes from 0, both ends included. */
function rangesIn(ranges: readonly ByteRange[], size: number, position: number): string {
  if (ranges.length === 0) return `at byte ${position} of ${size}`;
  const shown = ranges.slice(0, 3).map(({ from, to }) => `${from}–${to - 1}`);
  const more = ranges.length > 3 ? ` and ${ranges.length - 3} more places` : '';
  return `at bytes ${shown.join(', ')}${more} of ${size}`;
}
