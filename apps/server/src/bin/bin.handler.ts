import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, BIN_FOLDER, inBin, type PlannedMove } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import type { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { CopyStore } from '../frames/copyStore';
import { LeavingFrames } from '../frames/leavingFrames';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Job, JobItem } from '../jobs/job.entity';
import type { ItemOutcome, JobHandler, ShownSubjects } from '../jobs/jobHandler';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { Companions } from '../moves/companions';
import { FileWays, sidecarEndings, type Way } from '../moves/fileWays';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { SidecarsService } from '../sidecars/sidecars.service';
import { Clock } from '../system/clock';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { Bin, BinnedCopy } from './binned.entity';
import { BinStore } from './binStore';
import { BinTexts } from './binTexts.service';

/**
 * `delete`: into the bin and out of it in one go; `bring-back`: to where it lay, from the bin or from being forgotten;
 * `empty`: what lies in the bin is deleted.
 */
export type BinJobDeed = 'bin' | 'forget' | 'delete' | 'bring-back' | 'empty';

export interface BinParams {
  deed: BinJobDeed;
  shootIds: string[];
  binIds: string[];
}

/** One frame, with all its files. */
export interface BinItem {
  frameId: string;
  binId: string;
  /** for the report: where it lay */
  path: string;
  /** `bring-back`: where it comes to */
  to?: { folder: string; place: string; name: string };
  files?: { assetId: string; to: string }[];
}

export interface BinResult {
  frames: number;
  left: number;
  reason: string | null;
}

/** Takes frames out of the archive and back into it, a frame at a time: on all drives that are here, or on none. */
@Injectable()
export class BinHandler implements JobHandler, OnModuleInit {
  readonly kind = 'bin';
  readonly inFlight = 1;

  constructor(
    private readonly disk: Disk,
    private readonly ways: FileWays,
    private readonly companions: Companions,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly archive: FramesService,
    private readonly copyStore: CopyStore,
    private readonly leaving: LeavingFrames,
    private readonly bins: BinStore,
    private readonly binTexts: BinTexts,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly shootTexts: ShootTextsService,
    private readonly texts: OwnTextsService,
    private readonly sidecars: SidecarsService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  shown(job: Job): ShownSubjects {
    return { deed: (job.params as BinParams).deed };
  }

  async again(job: Job): Promise<void> {
    for (const id of (job.params as BinParams).shootIds)
      if (await this.openJobs.onShoots([id], { but: job.id }))
        throw new ArkivError('move.busy', { shoot: (await this.shoots.get(id)).title });
  }

  /** Sidecars that are due are written first, so that none is being written while it moves. */
  async begin(): Promise<void> {
    this.companions.forget();
    await this.sidecars.flush();
  }

  async runItem(job: Job, item: JobItem): Promise<ItemOutcome> {
    const data = item.data as BinItem;
    const { deed } = job.params as BinParams;
    let trouble: string | null = null;
    await this.sidecars.without(async () => {
      try {
        if (deed === 'bring-back') await this.back(data);
        else if (deed === 'empty') await this.empty(data);
        else {
          await this.out(data, deed === 'delete');
          if (deed === 'delete') await this.empty(data);
        }
      } catch (error) {
        trouble = await this.ways.troubleOf(error, data.path, []);
      }
    });
    return trouble === null ? { state: 'done' } : { state: 'failed', reason: trouble };
  }

  async finish(job: Job): Promise<BinResult> {
    const { shootIds, binIds } = job.params as BinParams;
    await this.work.write(async (manager) => {
      for (const id of shootIds) {
        // A shoot that had nothing left, and was put away with a merge, is listed again with what came back.
        await this.shoots.listWhereAny(manager, id);
        const revision = await this.shoots.touch(manager, id);
        this.happenings.after(manager, 'frames', { shootId: id, revision, ids: null });
        this.happenings.after(manager, 'shoots', { shootId: id });
      }
      this.happenings.after(manager, 'bin', {});
    });
    const problems: string[] = [];
    const volumes = await this.volumes.all();
    for (const id of shootIds)
      problems.push(...(await this.shootTexts.writeAll(await this.shoots.get(id), volumes, job.id)));
    for (const id of binIds) await this.binTexts.owe(id);
    await this.binTexts.write();
    const left = job.filesFailed;
    return {
      ...{ frames: job.filesTotal - left, left },
      reason: problems.length > 0 ? problems.join(' ') : null,
    };
  }

  /** Out of the archive: into the bin of each drive that is here, or left where it lies. */
  private async out({ frameId, binId }: BinItem, isDeleted: boolean): Promise<void> {
    const frame = await this.archive.frame(frameId);
    if (frame?.state !== 'here') return;
    const bin = (await this.bins.bin(binId))!;
    const move = await this.moveInto(bin, frame);
    const ways = bin.deed === 'bin' ? await this.ways.of(move, 'left') : [];
    const beside = bin.deed === 'bin' && !isDeleted ? await this.companions.of(move, frame.shootId) : [];
    const gone = new Map(ways.map(({ volume, from, to }) => [`${volume.id}/${from}`, to]));
    await this.ways.go([...ways, ...beside], () =>
      this.work.write(async (manager) => {
        const state = bin.deed === 'bin' ? ('binned' as const) : ('forgotten' as const);
        const taken = await this.leaving.takeOut(manager, frameId, state);
        if (!taken) return;
        await this.bins.put(manager, bin, taken, (volumeId, at) => gone.get(`${volumeId}/${at}`));
        await this.renamed(manager, ways);
      }),
    );
    this.companions.moved(move, beside);
  }

  private async moveInto(bin: Bin, { id, name, folder, place }: Frame): Promise<PlannedMove> {
    const files = await this.archive.ofFrame(id);
    return {
      ...{ id, from: { name, folder, place }, to: { name, folder, place: inBin(bin.folder, place) } },
      files: files.map(({ id: assetId, at }) => ({ assetId, from: at, to: inBin(bin.folder, at) })),
    };
  }

  /** What other programs kept beside a frame, on one drive, from the bin to where it lay or comes to. */
  private async companionsOf(
    bin: Bin,
    { id, name, folder, place }: Frame,
    to: { place: string; name: string },
    volume: Volume,
    copies: readonly BinnedCopy[],
  ): Promise<Way[]> {
    const move: PlannedMove = {
      ...{ id, from: { name, folder, place: inBin(bin.folder, place) }, to: { ...to, folder } },
      files: copies.map(({ assetId, path }) => ({ assetId, from: path, to: path })),
    };
    return this.companions.outOf(volume, move, () => this.bins.names(bin.id));
  }

  /** Into the archive again. Each copy is read whole first: what lay in the bin proved nothing. */
  private async back({ frameId, path, to, files }: BinItem): Promise<void> {
    const bin = await this.bins.binOf(frameId);
    const frame = await this.archive.frame(frameId);
    if (!bin || !frame || !to || !files) return;
    const targets = new Map(files.map(({ assetId, to: target }) => [assetId, target]));
    const known = await this.bins.files(frameId);
    const copies = (await this.bins.copies(frameId)).filter(({ assetId }) => targets.has(assetId));
    const here: { copy: BinnedCopy; way: Way }[] = [];
    const later: BinnedCopy[] = [];
    const stayed: BinnedCopy[] = [];
    const volumes = new Map<string, Volume>();
    for (const copy of copies) {
      const volume = await this.volumes.get(copy.volumeId);
      const target = targets.get(copy.assetId)!;
      if (copy.due === 'bin') stayed.push(copy);
      else if (!(await this.volumes.isOnline(volume))) later.push(copy);
      else {
        const way = { volume, from: copy.path, to: target, sha256: copy.sha256 };
        // What somebody took out of a bin by hand is not there to come back; the other drives have it.
        if (!(await this.ways.there(way, 'from')) && !(await this.ways.there(way, 'to'))) continue;
        here.push({ copy, way });
        volumes.set(volume.id, volume);
      }
    }
    if (here.length === 0 && stayed.length === 0)
      throw new ArkivError('bin.away', { file: path, volumes: await this.named(later) });
    const ways = here.map(({ way }) => way).filter(({ from, to: target }) => from !== target);
    const endings = sidecarEndings(known.map(({ at }) => at));
    if (bin.deed === 'bin')
      for (const volume of volumes.values()) {
        const lay = `${inBin(bin.folder, frame.place)}/${frame.name}`;
        const beside = await this.ways.sidecars(volume, lay, `${to.place}/${to.name}`, endings);
        ways.push(...beside.filter(({ from }) => !copies.some((copy) => copy.path === from)));
        for (const way of await this.companionsOf(bin, frame, to, volume, copies))
          // Settings for which another program's stand there by now stay in the bin.
          if (!(await this.ways.isTaken(way))) ways.push(way);
      }
    await this.ways.go(ways, async () => {
      const read: { copy: BinnedCopy; sum: string | null }[] = [];
      for (const { copy, way } of here) {
        const place = await this.volumes.resolve(way.volume, way.to);
        read.push({ copy, sum: (await hashFile(this.disk, place)).sha256 });
      }
      await this.work.write(async (manager) => {
        const returning = known.map(({ frameId: _, at, ...file }) => ({
          ...file,
          id: file.assetId,
          to: targets.get(file.assetId) ?? at,
        }));
        await this.leaving.bringBack(manager, frameId, to, returning);
        const now = this.clock.now();
        for (const { copy, sum } of read) {
          const { assetId, volumeId, sha256 } = copy;
          const how = { verifiedAt: now, pastCache: false };
          const reason = 'it changed while it lay in the bin';
          if (sha256 === null || sum === sha256)
            await this.copyStore.verified(manager, assetId, volumeId, how);
          else await this.copyStore.damaged(manager, assetId, volumeId, { found: sum, reason, at: now });
        }
        for (const { assetId, volumeId, verifiedAt, pastCache, path: place } of stayed) {
          // It never went into the bin: what was proven of it holds as it did.
          if (verifiedAt === null) continue;
          await this.copyStore.verified(manager, assetId, volumeId, { verifiedAt, pastCache });
          if (place !== targets.get(assetId)) await this.copyStore.liesAt(manager, assetId, volumeId, place);
        }
        await this.bins.leave(manager, frameId, later, 'back');
        await this.renamed(manager, ways);
      });
    });
  }

  /** Deletes what lies in the bin; a drive that is away follows when it returns. */
  private async empty({ frameId }: BinItem): Promise<void> {
    const bin = await this.bins.binOf(frameId);
    const frame = await this.archive.frame(frameId);
    if (bin?.deed !== 'bin' || !frame) return;
    const copies = await this.bins.copies(frameId);
    const later: BinnedCopy[] = [];
    const volumes = new Map<string, Volume>();
    for (const copy of copies) {
      const volume = await this.volumes.get(copy.volumeId);
      if (copy.due !== null || !(await this.volumes.isOnline(volume))) later.push(copy);
      else {
        await this.binTexts.deleteCopy(copy, volume);
        volumes.set(volume.id, volume);
      }
    }
    const endings = sidecarEndings((await this.bins.files(frameId)).map(({ at }) => at));
    const sidecars = [...endings].map((end) => `${inBin(bin.folder, frame.place)}/${frame.name}${end}`);
    for (const volume of volumes.values()) {
      for (const sidecar of sidecars) await this.binTexts.deleteText(volume, sidecar, frameId);
      // Nobody but another program knows what is in its files: they are not deleted, and lie again where they lay.
      for (const way of await this.companionsOf(bin, frame, frame, volume, copies))
        if (!(await this.ways.isTaken(way))) await this.ways.go([way], () => Promise.resolve());
    }
    await this.work.write(async (manager) => {
      await this.leaving.forget(manager, frameId);
      await this.bins.leave(manager, frameId, later, 'delete');
      for (const volume of volumes.values())
        for (const sidecar of sidecars) await this.texts.forgotten(manager, sidecar, volume.id);
    });
  }

  private async renamed(manager: EntityManager, ways: readonly Way[]): Promise<void> {
    for (const { volume, from, to, sha256 } of ways)
      if (sha256 === null) await this.texts.renamed(manager, from, to, volume.id);
  }

  private async named(copies: readonly BinnedCopy[]): Promise<string> {
    const names = new Set<string>();
    for (const { volumeId } of copies) names.add(`“${(await this.volumes.get(volumeId)).name}”`);
    return [...names].join(' or ') || BIN_FOLDER;
  }
}
