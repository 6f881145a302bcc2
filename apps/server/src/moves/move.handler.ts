import { Injectable, type OnModuleInit } from '@nestjs/common';
import { ArkivError, collisionKey } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { Asset } from '../frames/asset.entity';
import { Frame } from '../frames/frame.entity';
import { FramesService } from '../frames/frames.service';
import { FrameStore } from '../frames/frameStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import type { Job, JobItem } from '../jobs/job.entity';
import { WaitForOutside, type ItemOutcome, type JobHandler, type ShownSubjects } from '../jobs/jobHandler';
import { JobStore } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { SidecarsService } from '../sidecars/sidecars.service';
import { ArrivalLedger, type MovedFrame } from '../ledger/arrivalLedger';
import { FollowFrames } from '../ledger/followFrames';
import { FollowingPasses } from '../passes/followingPasses';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { RostersService } from '../vocabulary/rosters.service';
import { VolumesService } from '../volumes/volumes.service';
import { Companions } from './companions';
import { FileWays, sidecarEndings, type Way } from './fileWays';
import { LatePlaces } from './latePlaces.service';
import { mayFollow, shootsOf, type MoveItem, type MoveParams } from './moveParams';
import { TakeIn } from './takeIn.service';

export interface MoveResult {
  moved: number;
  left: number;
  reason: string | null;
}

/** Frames whose files are redirected in one transaction: some milliseconds of the writer. */
const PART = 100;

/**
 * Moves frames between folders on every volume that holds them: each file gets its new name by a link before the old
 * one goes, never over another file; the archive learns of a frame when all its files have moved.
 */
@Injectable()
export class MoveHandler implements JobHandler, OnModuleInit {
  readonly kind = 'move';
  readonly inFlight = 1;
  /** where each frame was before is written down nowhere else */
  readonly keepsItems = true;

  constructor(
    private readonly ways: FileWays,
    private readonly companions: Companions,
    private readonly late: LatePlaces,
    private readonly takeIn: TakeIn,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly archive: FramesService,
    private readonly store: FrameStore,
    private readonly ledger: ArrivalLedger,
    private readonly outgoing: FollowFrames,
    private readonly passes: FollowingPasses,
    private readonly rosters: RostersService,
    private readonly openJobs: OpenJobs,
    private readonly volumes: VolumesService,
    private readonly shoots: ShootsService,
    private readonly texts: OwnTextsService,
    private readonly shootTexts: ShootTextsService,
    private readonly sidecars: SidecarsService,
    private readonly happenings: Happenings,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: false, way: null, first: false };
  }

  shown(job: Job): ShownSubjects {
    const { from, kind, adopted } = job.params as MoveParams;
    return { fromShootId: from, deed: adopted?.back ? 'back' : kind };
  }

  async again(job: Job): Promise<void> {
    for (const id of shootsOf(job.params as MoveParams))
      if (await this.openJobs.onShoots([id], { but: job.id }))
        throw new ArkivError('move.busy', { shoot: (await this.shoots.get(id)).title });
  }

  /** Sidecars that are due are written first, so that none is being written while it moves. */
  async begin(): Promise<void> {
    this.companions.forget();
    await this.sidecars.flush();
  }

  async runItem(job: Job, item: JobItem): Promise<ItemOutcome> {
    const data = item.data as MoveItem;
    // Rejects go aside whatever drive is away; it follows when it returns.
    const away = mayFollow((job.params as MoveParams).kind) ? 'left' : 'waited';
    const ways = await this.ways.of(data, away);
    const beside = await this.companions.of(data, data.fromShoot);
    const lying = away === 'left' ? await this.onAwayDrives(data, ways) : [];
    let trouble: string | null = null;
    // Written sidecars of this frame would come back under the old name: they wait until its move is written down.
    await this.sidecars.without(async () => {
      try {
        await this.ways.go([...ways, ...beside], () =>
          this.work.write((manager) => this.noted(manager, data, lying)),
        );
      } catch (error) {
        trouble = await this.troubleOf(error, data, away);
      }
    });
    if (trouble !== null) return { state: 'failed', reason: trouble };
    this.companions.moved(data, beside);
    return { state: 'done' };
  }

  async finish(job: Job): Promise<MoveResult> {
    const { from, into, made, kind, undoes } = job.params as MoveParams;
    const all = shootsOf(job.params as MoveParams);
    /** the one that a made shoot's frames came from, or come back to */
    const origin = undoes === null ? from : into;
    const done: MoveItem[] = [];
    for await (const item of this.items.walk(job.id, ['done'])) done.push(item.data as MoveItem);
    const moved = done.flatMap(({ id, from: old, to }) => (id === null ? [] : [{ id, from: old, to }]));
    await this.work.inParts(moved, PART, (manager, part) => this.ledger.redirect(manager, part));
    await this.work.write(async (manager) => {
      if (kind === 'merge')
        await this.ledger.redirect(manager, await this.bringLate(manager, from, into, done));
      if (from !== into) {
        await this.store.takeLooseEdits(manager, from, into);
        await this.outgoing.follow(manager, all);
        for (const [its, there] of sharing(done)) await this.rosters.carry(manager, its, there);
      }
      for (const id of all) {
        const left = await manager.countBy(Asset, { shootId: id });
        const other = id !== from && id !== into ? origin : id === from ? into : from;
        // A shoot that has nothing left is not listed any more; what comes back to it brings it back.
        const mergedInto =
          left === 0 && id !== other && (id === from ? kind === 'merge' || made : made) ? other : null;
        await manager.update(Shoot, { id }, { mergedInto });
        const revision = await this.shoots.touch(manager, id);
        this.happenings.after(manager, 'frames', { shootId: id, revision, ids: null });
      }
      this.happenings.after(manager, 'shoots', { shootId: into });
    });
    if (from !== into) await this.passes.follow(all);
    if (kind === 'takeIn')
      await this.takeIn.finish(job.params as MoveParams, done, job.filesTotal - done.length);
    const problems: string[] = [];
    const volumes = await this.volumes.all();
    for (const id of all)
      problems.push(...(await this.shootTexts.writeAll(await this.shoots.get(id), volumes, job.id)));
    for (const id of all) {
      // A shoot that has nothing left leaves what its folders hold, such as receipts, and no empty folder.
      const { mergedInto, folders } = await this.shoots.get(id);
      if (mergedInto !== null) await this.shootTexts.leaveNoEmptyFolders(folders, volumes);
    }
    return {
      moved: done.length,
      left: job.filesTotal - done.length,
      reason: problems.length > 0 ? problems.join(' ') : null,
    };
  }

  /** Copies of the frame on drives that are not here: they stay where they are for now. */
  private async onAwayDrives(
    data: MoveItem,
    ways: readonly Way[],
  ): Promise<{ assetId: string; volumeId: string; at: string; to: string }[]> {
    const here = new Set(ways.map(({ volume }) => volume.id));
    const lying = [];
    for (const { assetId, to } of data.files)
      for (const { volumeId, at } of await this.archive.copies(assetId))
        if (!here.has(volumeId)) lying.push({ assetId, volumeId, at, to });
    return lying;
  }

  /** The archive learns where the frame is now. */
  private async noted(
    manager: EntityManager,
    data: MoveItem,
    lying: Parameters<LatePlaces['owe']>[2],
  ): Promise<void> {
    const { id, to, toShoot: shootId } = data;
    await this.store.relocate(manager, id, { ...to, shootId }, data.files);
    if (id === null) return;
    if (shootId !== data.fromShoot) await this.outgoing.copies(manager, id, shootId);
    await this.late.owe(manager, id, lying);
    const old = `${data.from.place}/${data.from.name}`;
    const now = `${to.place}/${to.name}`;
    if (old !== now)
      for (const ending of sidecarEndings(data.files.map((file) => file.from)))
        await this.texts.renamed(manager, old + ending, now + ending);
  }

  /**
   * Frames that an intake could not copy yet go along with a merge: they will come where the others of their folder went,
   * under a name that is free there.
   */
  private async bringLate(
    manager: EntityManager,
    from: string,
    into: string,
    moved: readonly MoveItem[],
  ): Promise<MovedFrame[]> {
    const places = new Map(moved.map((data) => [data.from.place, data.to] as const));
    const late = await manager.findBy(Frame, { shootId: from, state: 'arriving' });
    const shoot = await manager.findOneByOrFail(Shoot, { id: into });
    const folders = new Set(shoot.folders);
    const taken = new Set(
      (await manager.findBy(Frame, { shootId: into })).map((f) => collisionKey(`${f.place}/${f.name}`)),
    );
    const ways: MovedFrame[] = [];
    for (const frame of late) {
      const { folder, place } = places.get(frame.place) ?? frame;
      let { name } = frame;
      for (let n = 2; taken.has(collisionKey(`${place}/${name}`)); n++) name = `${frame.name}_${n}`;
      taken.add(collisionKey(`${place}/${name}`));
      folders.add(folder);
      await this.store.relocate(manager, frame.id, { shootId: into, folder, place, name }, []);
      ways.push({ id: frame.id, from: { place: frame.place, name: frame.name }, to: { place, name } });
    }
    // Files of no frame that are still to come keep their place, in a folder that belongs to the shoot that lives on.
    if (await this.ledger.expectsLoose(manager, from))
      for (const folder of (await manager.findOneByOrFail(Shoot, { id: from })).folders) folders.add(folder);
    await manager.update(Shoot, { id: into }, { folders: [...folders] });
    return ways;
  }

  private async troubleOf(error: unknown, data: MoveItem, away: 'waited' | 'left'): Promise<string> {
    if (error instanceof WaitForOutside) throw error;
    for (const { assetId } of away === 'waited' ? data.files : [])
      for (const { volume } of await this.archive.copiesOf(assetId)) await this.ways.present(volume);
    return this.ways.troubleOf(
      error,
      data.path,
      data.files.map(({ assetId }) => assetId),
    );
  }
}

/** From which shoot frames came into which, each once. */
function sharing(done: readonly MoveItem[]): [from: string, into: string][] {
  const ways = new Map(
    done.filter(({ id }) => id !== null).map((item) => [`${item.fromShoot} ${item.toShoot}`, item]),
  );
  return [...ways.values()].map(({ fromShoot, toShoot }) => [fromShoot, toShoot]);
}
