import { Injectable } from '@nestjs/common';
import { ArkivError, keptCapture, shootDay, shootOfFolder, sidecarOf, type CardFrame } from '@arkiv/core';
import { UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { Happenings } from '../events/domainEvents';
import { DueTexts } from '../frames/dueTexts.service';
import { FoundFrames, type FoundFile } from '../frames/foundFrames';
import { Frame } from '../frames/frame.entity';
import { OwnTextsService } from '../frames/ownTexts.service';
import { SettingsService } from '../settings/settings.service';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { localDay } from '../system/localDay';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import { below, homeOf, type AdoptedPlace } from './adoptedPlace';
import { AdoptedStore, type KnownInFolder } from './adoptedStore';

/** Finds frames again that somebody else gave another name or folder. Nothing on the drive is changed. */
@Injectable()
export class FollowMoves {
  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly store: AdoptedStore,
    private readonly found: FoundFrames,
    private readonly texts: OwnTextsService,
    private readonly due: DueTexts,
    private readonly shoots: ShootsService,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
  ) {}

  /**
   * Whether these files are a frame's that is known and lies there no more: then it lies here from now on. `likes`: files that are
   * known on the drive and are as the one that shows it.
   */
  async follow(
    where: AdoptedPlace,
    group: CardFrame,
    files: readonly FoundFile[],
    likes: readonly KnownInFolder[],
  ): Promise<boolean> {
    const { volume } = where;
    for (const like of likes) {
      if (await this.isThere(volume, like.at)) continue;
      const own = await this.store.filesOf(volume.id, like.frameId);
      const pairs = own.map((was) => ({
        was,
        is: files.find(({ size, ends }) => size === was.size && ends === was.ends) ?? null,
      }));
      // A frame of which something stayed behind did not move: what came is a copy of a part of it.
      const stayed = await Promise.all(
        pairs.map(({ was, is }) => is === null && this.isThere(volume, was.at)),
      );
      if (stayed.some(Boolean)) continue;
      await this.relocate(
        where,
        group.base,
        like.frameId,
        pairs.flatMap(({ was, is }) => (is ? [{ was, is }] : [])),
      );
      return true;
    }
    return false;
  }

  private async relocate(
    where: AdoptedPlace,
    name: string,
    frameId: string,
    pairs: readonly { was: KnownInFolder; is: FoundFile }[],
  ): Promise<void> {
    const { adopted, volume, there } = where;
    const { dayStartHour } = await this.settings.all();
    await this.work.write(async (manager) => {
      const frame = await manager.findOneByOrFail(Frame, { id: frameId });
      const capture = keptCapture(frame);
      const day = capture ? shootDay(capture, dayStartHour) : localDay(pairs[0]!.is.mtimeMillis);
      const its = shootOfFolder(adopted.rule, below(adopted.path, there.path), day);
      const home = homeOf(where, its, this.clock.now());
      // By days a frame stays in its day's shoot wherever it lies.
      const shootId =
        adopted.rule === 'day'
          ? frame.shootId
          : await this.store.shootFor(manager, adopted, its, { ...home, firstDay: day });
      await this.found.moved(
        manager,
        frameId,
        volume.id,
        { shootId, folder: home.folder, place: there.path, name },
        pairs.map(({ was, is }) => ({
          ...{ assetId: was.assetId, from: was.at, at: is.at, size: is.size, mtimeMillis: is.mtimeMillis },
        })),
      );
      await this.texts.renamed(
        manager,
        sidecarOf(frame.place, frame.name),
        sidecarOf(there.path, name),
        volume.id,
      );
      await this.store.extend(manager, shootId, [home.folder]);
      for (const id of new Set([frame.shootId, shootId])) {
        const revision = await this.shoots.touch(manager, id);
        await this.due.oweOfShoot(manager, 'shoot', id);
        this.happenings.after(manager, 'frames', { shootId: id, revision, ids: [frameId] });
        this.happenings.after(manager, 'shoots', { shootId: id });
      }
    });
  }

  private async isThere(volume: Volume, at: string): Promise<boolean> {
    try {
      return (await this.disk.facts(await this.volumes.resolve(volume, at))) !== null;
    } catch (error) {
      if (error instanceof ArkivError) return false;
      if (diskErrorCode(error) === null) throw error;
      // What cannot be looked at is not known to be gone.
      return true;
    }
  }
}
