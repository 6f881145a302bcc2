import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, collisionKey, sidecarOf, type MovePlan } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { FramesService } from '../frames/frames.service';
import { FrameStore } from '../frames/frameStore';
import { OwnTextsService } from '../frames/ownTexts.service';
import { SettingsService } from '../settings/settings.service';
import { Shoot } from '../shoots/shoot.entity';
import { ShootTextsService } from '../shoots/shootTexts.service';
import { SidecarsService } from '../sidecars/sidecars.service';
import { VolumesService } from '../volumes/volumes.service';
import type { AsAdopted, MoveItem, MoveParams } from './moveParams';
import type { MoveRequest } from './moveRequest';

/** Frames marked as due in one transaction. */
const PART = 500;

/** A shoot of an adopted folder becomes the archive's own, in dated folders, and is put back where it lay. */
@Injectable()
export class TakeIn {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly archive: FramesService,
    private readonly store: FrameStore,
    private readonly texts: OwnTextsService,
    private readonly shootTexts: ShootTextsService,
    private readonly sidecars: SidecarsService,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
  ) {}

  /** The shoot as it will be: named and laid out as the studio does it now. */
  async destination({ pattern, seqStart }: MoveRequest, from: Shoot): Promise<Shoot> {
    if (from.keptIn === null)
      throw new ArkivError('move.nothing', {
        reason: 'its files lie in folders of the archive’s own already',
      });
    const studio = await this.settings.all();
    return {
      ...from,
      ...{ plan: studio.folders, pattern: pattern ?? studio.pattern, nextSeq: seqStart ?? 1 },
    };
  }

  /** Ids of frames beside which no sidecar lies on any drive: one that comes there is ours alone. */
  async bare({ moves }: MovePlan): Promise<Set<string>> {
    const there = new Set<string>();
    const places = new Set(moves.map(({ from }) => from.place));
    for (const volume of await this.volumes.all()) {
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const place of places) {
        const folder = await this.volumes.resolve(volume, place);
        if ((await this.disk.facts(folder))?.kind !== 'folder') continue;
        for (const name of await this.disk.names(folder))
          there.add(collisionKey(path.posix.join(place, String(name))));
      }
    }
    return new Set(
      moves.flatMap(({ id, from }) =>
        id === null || there.has(collisionKey(sidecarOf(from.place, from.name))) ? [] : [id],
      ),
    );
  }

  /**
   * An adopted folder holds all of a shoot or none: frames that came into it since, or lie elsewhere by now, would be left in folders of
   * which nothing is told any more.
   */
  async mayGoBack(shootId: string, back: readonly MoveItem[]): Promise<void> {
    const { keptIn } = await this.reading.manager.findOneByOrFail(Shoot, { id: shootId });
    // Where some of it could not be taken in, the rest goes back to that.
    if (keptIn !== null) return;
    const ids = new Set(back.map(({ id }) => id));
    const frames: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM frame WHERE "shootId" = ? AND state IN ('here', 'arriving')`,
      [shootId],
    );
    if (frames.some(({ id }) => !ids.has(id)))
      throw new ArkivError('move.undone', {
        reason: 'frames came into the shoot since, or were moved or named anew',
      });
  }

  /** All its frames lie where they were put: it is the archive's own from now on, or an adopted folder's again. Can be repeated. */
  async finish({ into: id, adopted }: MoveParams, done: readonly MoveItem[], left: number): Promise<void> {
    const { as, own, back } = adopted!;
    if (back) return this.putBack(id, as, done);
    // As long as some of it lies in the adopted folder, nothing is written beside it.
    if (left > 0) return;
    await this.work.write(async (manager) => {
      const folders = await this.foldersOf(id);
      await manager.update(Shoot, { id }, { keptIn: null, sidecars: true, plan: own, folders });
    });
    const frames = (await this.archive.ofShoot(id)).map((frame) => frame.id);
    await this.work.inParts(frames, PART, (manager, part) => this.store.due(manager, part));
  }

  private async putBack(id: string, adopted: AsAdopted, done: readonly MoveItem[]): Promise<void> {
    if (done.length === 0) return;
    await this.sidecars.without(async () => {
      await this.work.write(async (manager) => {
        const folders = await this.foldersOf(id);
        await manager.update(Shoot, { id }, { ...adopted, folders });
      });
      if (adopted.sidecars) return;
      // What is written beside pictures of the archive's own does not stay where nothing may be written.
      for (const volume of await this.volumes.all())
        if (await this.volumes.isOnline(volume))
          for (const { isBare, to } of done)
            if (isBare) await this.texts.remove(volume, sidecarOf(to.place, to.name), 'sidecar');
    });
    const { folders } = await this.reading.manager.findOneByOrFail(Shoot, { id });
    const its = new Set(folders);
    for (const folder of new Set(done.map(({ from }) => from.folder)))
      if (!its.has(folder)) await this.shootTexts.leave(folder, await this.volumes.all());
  }

  private async foldersOf(shootId: string): Promise<string[]> {
    const rows: { folder: string }[] = await this.reading.source.query(
      `SELECT DISTINCT folder FROM frame WHERE "shootId" = ? AND state IN ('here', 'arriving') ORDER BY folder`,
      [shootId],
    );
    return rows.map(({ folder }) => folder);
  }
}
