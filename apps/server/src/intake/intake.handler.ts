import { Injectable, type OnModuleInit } from '@nestjs/common';
import { advance, ArkivError, fateOf, type FileProgress } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { clearTemporaries } from '../disk/place';
import { unreadableRanges, type ByteRange } from '../disk/unreadable';
import { hashFile, SourceError, verifiedCopy, type CopyTarget } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import type { CopyAt } from '../frames/copy.entity';
import { FramesService } from '../frames/frames.service';
import type { Job, JobItem } from '../jobs/job.entity';
import {
  WaitForOutside,
  type ItemContext,
  type ItemOutcome,
  type JobHandler,
  type ShownSubjects,
} from '../jobs/jobHandler';
import { JobsService } from '../jobs/jobs.service';
import { JobStore } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import type { Arrival, ArrivalFile } from '../ledger/arrival.entity';
import { ArrivalLedger } from '../ledger/arrivalLedger';
import { cardPath } from '../readers/cardScan';
import { ReadersService } from '../readers/readers.service';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { Clock } from '../system/clock';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { IntakeFrames } from './intakeFrames.service';
import type { IntakeParams, IntakeResult } from './intake.types';
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
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly ledger: ArrivalLedger,
    private readonly archive: FramesService,
    private readonly openJobs: OpenJobs,
    private readonly frames: IntakeFrames,
    private readonly readers: ReadersService,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly receipts: ReceiptsService,
    private readonly texts: ShootTextsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(job: Job): Lane {
    return { bulk: true, way: `reader ${(job.params as IntakeParams).readerId}`, first: true };
  }

  shown(job: Job): ShownSubjects {
    const { readerId, card } = job.params as IntakeParams;
    return { readerId, card };
  }

  async again(job: Job): Promise<void> {
    // Stopped before anything was proven, its shoot went with it.
    if (job.shootId === null && job.state === 'cancelled')
      throw new ArkivError('job.state', { state: 'stopped with nothing copied', action: 'tried again' });
    const homes =
      job.shootId === null ? [] : [job.shootId, await this.frames.homeOf(await this.arrival(job), null)];
    const moving = await this.openJobs.onShoots(homes, { deed: 'moves' });
    if (moving) throw new ArkivError('move.busy', { shoot: moving.title });
  }

  /** The card was never begun: its frames, files and a shoot that was made for it go. The numbers it took stay taken. */
  async undo(job: Job): Promise<void> {
    await this.frames.neverBegun(job);
    while (await this.work.write((manager) => this.ledger.forget(manager, job.id)));
  }

  async begin(job: Job): Promise<void> {
    const arrival = await this.arrival(job);
    await this.clearTemporaries(arrival);
    this.claims.set(job.id, new Map());
    await this.work.write((manager) =>
      this.ledger.started(manager, job.id, job.startedAt ?? this.clock.now()),
    );
    if ((await this.items.count(job.id, ['todo', 'doing'])) === 0) return;
    const reader = await this.readers.get(arrival.readerId);
    if (!reader.card)
      throw new WaitForOutside(
        `The card is not in “${reader.name}”. Insert it again: copying carries on where it stopped.`,
      );
    const { fingerprint } = await this.readers.files(arrival.readerId);
    if (fingerprint !== arrival.fingerprint) {
      throw new WaitForOutside(
        `Another card is in “${reader.name}”. Insert “${arrival.card}” again: copying carries on where it stopped.`,
      );
    }
  }

  async runItem(job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const arrival = await this.arrival(job);
    const file = await this.ledger.file(job.id, item.seq);
    const missing = arrival.targets.filter((id) => file.progress.targets[id]?.state !== 'verified');
    const volumes = await Promise.all(missing.map((id) => this.volumes.get(id)));
    let progress = advance(file.progress, { type: 'retry' });
    const ready: { volume: Volume; target: CopyTarget }[] = [];
    for (const volume of volumes) {
      try {
        await this.volumes.check(volume);
        ready.push({ volume, target: { id: volume.id, final: await this.volumes.resolve(volume, file.to) } });
      } catch (error) {
        progress = this.targetFailed(progress, volume, error, file, 0);
      }
    }
    if (file.known && missing.length === arrival.targets.length)
      progress = await this.compare(arrival, file, progress, context);
    if (ready.length > 0 && progress.alreadyHere === null && progress.sourceError === null)
      progress = await this.copy(arrival, file, progress, ready, context);
    return this.outcome(arrival, file, progress);
  }

  /**
   * Frames of which some files have arrived are finished while the card is there; where it is not, they are shown with
   * what is proven of them. Nothing is taken away: what was copied is in the receipt.
   */
  async cancelled(job: Job, runItem: (item: JobItem) => Promise<void>): Promise<void> {
    if (job.shootId === null) return;
    const begun = await this.frames.halfArrived(job.id);
    try {
      await this.begin(job);
      if (begun.size > 0)
        for await (const item of this.items.walk(job.id, ['todo'])) {
          const { frameId } = await this.ledger.file(job.id, item.seq);
          if (begun.has(frameId ?? '')) await runItem(item);
        }
    } catch (error) {
      if (!(error instanceof WaitForOutside) && !(error instanceof ArkivError)) throw error;
    }
    await this.frames.show(begun);
    const arrival = await this.arrival(job);
    const empty = await this.frames.dropEmpty(arrival);
    if (empty) {
      const volumes = await Promise.all(arrival.targets.map((id) => this.volumes.get(id)));
      await this.texts.leaveNoEmptyFolders(empty, volumes);
    } else if ((await this.ledger.counts(job.id)).of('copied') > 0) {
      const { written } = await this.receipts.write(arrival);
      await this.close(job, [...arrival.receipts, ...written]);
    }
    this.claims.delete(job.id);
    this.happenings.tell('shoots', { shootId: job.shootId });
  }

  async finish(job: Job): Promise<IntakeResult> {
    const arrival = await this.arrival(job);
    const { files, bytes, of } = await this.ledger.counts(job.id);
    const nothingNew = of('already-here') === files;
    const receipts = nothingNew ? { written: [], problems: [] } : await this.receipts.write(arrival);
    await this.frames.dropKnown(arrival, nothingNew);
    if (!nothingNew) receipts.problems.push(...(await this.tellHome(arrival)));
    await this.close(job, receipts.written);
    this.claims.delete(job.id);
    this.happenings.tell('shoots', { shootId: job.shootId });
    this.happenings.tell('volumes', {});
    return {
      files,
      copied: of('copied'),
      alreadyHere: of('already-here'),
      partly: of('partly'),
      failed: of('failed'),
      bytes,
      receipts: receipts.written,
      reason: receipts.problems.length > 0 ? receipts.problems.join(' ') : null,
    };
  }

  private async arrival(job: Job): Promise<Arrival> {
    const arrival = await this.ledger.get(job.id);
    if (!arrival) throw new ArkivError('not-found', { what: 'arrival', id: job.id });
    return arrival;
  }

  private async close(job: Job, receipts: string[]): Promise<void> {
    const finishedAt = this.clock.now();
    await this.work.write((manager) => this.ledger.finished(manager, job.id, { finishedAt, receipts }));
  }

  /** Late files of a shoot that was merged stand in the manifest of the shoot that lives on. */
  private async tellHome(arrival: Arrival): Promise<string[]> {
    const home = await this.frames.homeOf(arrival, null);
    if (home === arrival.shootId) return [];
    return this.texts.writeAll(await this.shoots.get(home), await this.volumes.all(), arrival.id);
  }

  private async copy(
    arrival: Arrival,
    data: ArrivalFile,
    start: FileProgress,
    ready: { volume: Volume; target: CopyTarget }[],
    context: ItemContext,
  ): Promise<FileProgress> {
    let progress = start;
    let here: string | null = null;
    let settleClaim: (path: string | null) => void = () => undefined;
    try {
      const { root } = await this.readers.rootOf(arrival.readerId);
      const result = await verifiedCopy(
        this.disk,
        cardPath(root, data.from),
        ready.map((r) => r.target),
        {
          job: arrival.id,
          signal: context.signal,
          onBytes: context.onBytes,
          wanted: async (sha256) => {
            here =
              (await this.sameNow(arrival.id, sha256, data)) ??
              (await this.alreadyHere(sha256, data, arrival.targets));
            if (here !== null) return false;
            const claim = new Promise<string | null>((resolve) => (settleClaim = resolve));
            this.claims.get(arrival.id)?.set(sha256, claim);
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
        else progress = this.targetFailed(progress, volume, target.error, data, await this.freeOn(volume));
      }
      if (fateOf(progress) === 'copied') settleClaim(data.to);
      return progress;
    } catch (error) {
      if (context.signal.aborted) throw error;
      const reader = await this.readers.get(arrival.readerId);
      if (!reader.card) {
        throw new WaitForOutside(
          `The card went away while ${data.from} was read. Insert it again in “${reader.name}”: copying carries on where it stopped.`,
        );
      }
      if (!(error instanceof SourceError)) throw error;
      const unreadable = await this.unreadable(arrival, data, error.position);
      return advance(progress, {
        type: 'source-failed',
        unreadable,
        reason: `${data.from} cannot be read ${rangesIn(unreadable, data.size, error.position)}: ${(error.reason as Error).message}. Try another reader; the other files go on.`,
      });
    } finally {
      settleClaim(null);
    }
  }

  /** Reads a file that is probably archived, and settles it by its checksum; nothing is written. */
  private async compare(
    arrival: Arrival,
    data: ArrivalFile,
    progress: FileProgress,
    context: ItemContext,
  ): Promise<FileProgress> {
    const { root } = await this.readers.rootOf(arrival.readerId);
    try {
      const { sha256 } = await hashFile(this.disk, cardPath(root, data.from), context.signal);
      const hashed = advance(progress, { type: 'hashed', sha256 });
      const here =
        (await this.sameNow(arrival.id, sha256, data)) ??
        (await this.archived(sha256, data, arrival.targets));
      if (here === null) return hashed;
      context.onBytes(data.size);
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
    data: ArrivalFile,
    targets: readonly string[],
  ): Promise<string | null> {
    const everywhere = await this.alreadyHere(sha256, data, targets);
    if (everywhere !== null) return everywhere;
    for (const asset of await this.archive.ofContent(sha256))
      for (const { copy, volume } of await this.archive.copiesOf(asset.id))
        if ((await this.volumes.isOnline(volume)) && (await this.stillThere([copy]))) return asset.at;
    return null;
  }

  private async unreadable(arrival: Arrival, data: ArrivalFile, position: number): Promise<ByteRange[]> {
    try {
      const { root } = await this.readers.rootOf(arrival.readerId);
      return await unreadableRanges(this.disk, cardPath(root, data.from), data.size, position);
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
    data: ArrivalFile,
    free: number,
  ): FileProgress {
    const shown = volumeError(error, volume, data.to, data.size, free);
    return advance(progress, {
      type: 'target-failed',
      target: volume.id,
      reason: `${data.to}: ${shown.message} ${shown.body().next}`,
    });
  }

  /** The path of equal content that another lane of this job is copying at this moment, once that is proven. */
  private async sameNow(id: string, sha256: string, data: ArrivalFile): Promise<string | null> {
    if (!isPicture(data)) return null;
    return (await this.claims.get(id)?.get(sha256)) ?? null;
  }

  /** The path of equal content that has a copy on every target already, under another name. */
  private async alreadyHere(
    sha256: string,
    data: ArrivalFile,
    targets: readonly string[],
  ): Promise<string | null> {
    for (const asset of await this.archive.ofContent(sha256)) {
      if (asset.at === data.to) continue;
      // Small files of equal content belong to many frames: they are known only at their own place on the card.
      if (!isPicture(data) && asset.cardPath !== data.from) continue;
      const copies = (await this.archive.copies(asset.id)).filter((copy) => targets.includes(copy.volumeId));
      if (copies.length === targets.length && (await this.stillThere(copies))) return asset.at;
    }
    return null;
  }

  private async stillThere(copies: readonly CopyAt[]): Promise<boolean> {
    for (const copy of copies) {
      const file = await this.volumes.resolve(await this.volumes.get(copy.volumeId), copy.at);
      if ((await this.disk.facts(file))?.kind !== 'file') return false;
    }
    return true;
  }

  private outcome(arrival: Arrival, file: ArrivalFile, progress: FileProgress): ItemOutcome {
    const fate = fateOf(progress);
    const reasons = Object.values(progress.targets).flatMap((t) => (t.reason ? [t.reason] : []));
    const reason = progress.sourceError ?? (reasons.length > 0 ? reasons.join(' ') : undefined);
    const state = fate === 'already-here' ? 'skipped' : fate === 'copied' ? 'done' : 'failed';
    return { state, reason, commit: (manager) => this.frames.record(manager, arrival, file, progress) };
  }

  /** Removes what a killed run of this job left under temporary names; nothing else is touched. */
  private async clearTemporaries(arrival: Arrival): Promise<void> {
    const folders = await this.ledger.folders(arrival.id);
    for (const id of arrival.targets) {
      const volume = await this.volumes.get(id);
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of folders) {
        const place = await this.volumes.resolve(volume, folder);
        try {
          await clearTemporaries(this.disk, place, arrival.id);
        } catch (error) {
          throw volumeError(error, volume, folder, 0, 0);
        }
      }
    }
  }
}

/** Content that stands for itself; other small files of equal content may belong to many frames. */
const isPicture = ({ role }: ArrivalFile): boolean => ['original', 'clip', 'note'].includes(role);

/** Where a file cannot be read, in words. Ranges count bytes from 0, both ends included. */
function rangesIn(ranges: readonly ByteRange[], size: number, position: number): string {
  if (ranges.length === 0) return `at byte ${position} of ${size}`;
  const shown = ranges.slice(0, 3).map(({ from, to }) => `${from}–${to - 1}`);
  const more = ranges.length > 3 ? ` and ${ranges.length - 3} more places` : '';
  return `at bytes ${shown.join(', ')}${more} of ${size}`;
}
