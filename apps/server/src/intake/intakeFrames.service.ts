import { Injectable, type OnApplicationBootstrap } from '@nestjs/common';
import { pictureOf } from '@arkiv/core';
import { In, Not, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { EventsService } from '../events/events.service';
import { Asset } from '../frames/asset.entity';
import { Copy } from '../frames/copy.entity';
import { Frame } from '../frames/frame.entity';
import { Job, NOT_OVER, type JobItem } from '../jobs/job.entity';
import { SidecarsService } from '../marks/sidecars.service';
import { PreviewsService } from '../previews/previews.service';
import { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Ids } from '../system/ids';
import type { IntakeItem, IntakeParams } from './intake.types';

/** Writes down what an intake brings: its files and their copies, and when a frame is whole enough to be shown. */
@Injectable()
export class IntakeFrames implements OnApplicationBootstrap {
  /** items still to do for each frame, by job */
  private readonly open = new Map<string, Map<string, number>>();

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly shoots: ShootsService,
    private readonly previews: PreviewsService,
    private readonly sidecars: SidecarsService,
    private readonly events: EventsService,
    private readonly ids: Ids,
  ) {}

  /** A server that ended while a cancelled intake's last frames were finished shows what is proven of them. */
  async onApplicationBootstrap(): Promise<void> {
    await this.show(await this.halfArrived(null));
  }

  begin(job: Job, items: readonly JobItem[]): void {
    const left = new Map<string, number>();
    for (const item of items) {
      const { frameId } = item.data as IntakeItem;
      if (frameId && item.state === 'todo') left.set(frameId, (left.get(frameId) ?? 0) + 1);
    }
    this.open.set(job.id, left);
  }

  forget(job: Job): void {
    this.open.delete(job.id);
  }

  /** Frames not shown yet of which some files are proven: of a job, or of all intakes that are over. */
  async halfArrived(jobId: string | null): Promise<Set<string>> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT f.id FROM frame f WHERE f.state = 'arriving' AND EXISTS (SELECT 1 FROM asset a WHERE a."frameId" = f.id)
         AND f.id IN (SELECT json_extract(i.data, '$.frameId') FROM job_item i JOIN job j ON j.id = i."jobId"
           WHERE j.kind = 'intake' AND (j.id = ? OR (? IS NULL AND j.state NOT IN (SELECT value FROM json_each(?)))))`,
      [jobId, jobId, JSON.stringify(NOT_OVER)],
    );
    return new Set(rows.map(({ id }) => id));
  }

  async show(frameIds: Iterable<string>): Promise<void> {
    const ids = [...frameIds];
    if (ids.length === 0) return;
    await this.work.write(async (manager) => {
      for (const id of ids) await this.showOne(manager, id);
    });
  }

  /** Rows of a file that was copied or found, in the transaction of its item. */
  async record(manager: EntityManager, job: Job, data: IntakeItem, size: number): Promise<void> {
    const { progress } = data;
    const verified = Object.entries(progress.targets).filter(([, t]) => t.state === 'verified');
    if (progress.sha256 && progress.alreadyHere === null && verified.length > 0) {
      const shootId = await this.homeOf(job, data.frameId, manager);
      const known = await manager.findOneBy(Asset, { shootId, path: data.to });
      const asset = known ?? {
        id: this.ids.newId(),
        shootId,
        frameId: data.frameId,
        role: data.role,
        format: data.format,
        raw: data.raw,
        sha256: progress.sha256,
        size,
        path: data.to,
        cardPath: data.from,
      };
      if (!known) await manager.insert(Asset, asset);
      for (const [volumeId, target] of verified) {
        if (await manager.existsBy(Copy, { volumeId, path: data.to })) continue;
        await manager.insert(Copy, {
          id: this.ids.newId(),
          assetId: asset.id,
          volumeId,
          path: data.to,
          verifiedAt: target.verifiedAt!,
          pastCache: target.pastCache ?? false,
        });
      }
    }
    if (data.frameId) await this.step(manager, job, data.frameId);
  }

  /** The shoot that a file comes to: its frame's by now, or the one that the intake's shoot was merged into. */
  async homeOf(job: Job, frameId: string | null, manager = this.reading.manager): Promise<string> {
    const frame = frameId === null ? null : await manager.findOneBy(Frame, { id: frameId });
    if (frame) return frame.shootId;
    for (let id = job.shootId!; ;) {
      const shoot = await manager.findOneBy(Shoot, { id });
      if (!shoot?.mergedInto) return id;
      id = shoot.mergedInto;
    }
  }

  /** Frames whose every file was in the archive before are not shown twice; a shoot that got nothing new goes. */
  async dropKnown(job: Job, items: readonly JobItem[], nothingNew: boolean): Promise<void> {
    const states = new Map<string, boolean>();
    for (const item of items) {
      const { frameId } = item.data as IntakeItem;
      if (frameId) states.set(frameId, (states.get(frameId) ?? true) && item.state === 'skipped');
    }
    const known = [...states].filter(([, skipped]) => skipped).map(([id]) => id);
    await this.work.write(async (manager) => {
      for (const id of known) await manager.delete(Frame, { id, state: 'arriving' });
      // Frames that only seemed to be known took numbers after the last.
      const used = items
        .map((item) => item.data as IntakeItem)
        .filter((data) => data.seq !== undefined && !known.includes(data.frameId ?? ''));
      const next = used.reduce((max, data) => Math.max(max, data.seq! + 1), 0);
      if (next > 0) {
        const shoot = await manager.findOneBy(Shoot, { id: job.shootId! });
        if (shoot && shoot.nextSeq < next) await manager.update(Shoot, { id: shoot.id }, { nextSeq: next });
      }
      // A shoot that was there before stays, whatever this card held.
      if (!nothingNew || (job.params as IntakeParams).intoExisting) return;
      await manager.delete(Shoot, { id: job.shootId! });
      await manager.update(Job, { id: job.id }, { shootId: null });
    });
  }

  /**
   * A shoot that this intake made and that got nothing is none: its row goes, and so do the frames that never arrived.
   * Null where it stays, because it has files, was there before, or waits for another card. Else its folders.
   */
  async dropEmpty(job: Job): Promise<string[] | null> {
    const { intoExisting } = job.params as IntakeParams;
    if (job.shootId === null || intoExisting) return null;
    return this.work.write(async (manager) => {
      const shoot = await manager.findOneBy(Shoot, { id: job.shootId! });
      const others = await manager.countBy(Job, {
        shootId: job.shootId!,
        id: Not(job.id),
        state: In(NOT_OVER),
      });
      if (!shoot || others > 0 || (await manager.countBy(Asset, { shootId: shoot.id })) > 0) return null;
      await manager.delete(Frame, { shootId: shoot.id, state: 'arriving' });
      if ((await manager.countBy(Frame, { shootId: shoot.id })) > 0) return null;
      await manager.delete(Shoot, { id: shoot.id });
      await manager.update(Job, { id: job.id }, { shootId: null });
      return shoot.folders;
    });
  }

  /** After a frame's last file. */
  private async step(manager: EntityManager, job: Job, frameId: string): Promise<void> {
    const left = this.open.get(job.id);
    const rest = (left?.get(frameId) ?? 1) - 1;
    left?.set(frameId, rest);
    if (rest <= 0) await this.showOne(manager, frameId);
  }

  /** A frame is here when a picture or clip of it is proven. */
  private async showOne(manager: EntityManager, frameId: string): Promise<void> {
    const assets = await manager.findBy(Asset, { frameId });
    const picture = pictureOf(assets);
    if (!picture) return;
    const { shootId, sidecarDue } = await manager.findOneByOrFail(Frame, { id: frameId });
    await manager.update(Frame, { id: frameId }, { state: 'here', sidecarDue: sidecarDue + 1 });
    const revision = await this.shoots.touch(manager, shootId);
    this.previews.later(picture.sha256);
    this.sidecars.soon();
    this.events.publish('frames', { shootId, revision });
  }
}
