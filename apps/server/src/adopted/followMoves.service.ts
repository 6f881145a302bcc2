import { Injectable } from '@nestjs/common';
import { ArkivError, keptCapture, shootDay, shootOfFolder, sidecarOf, type CardFrame } from '@arkiv/core';
import type { Forgotten } from '../bin/binStore';
import { Strayed } from '../bin/strayed.service';
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

/** A file as it was known. */
type Lying = Pick<KnownInFolder, 'at' | 'size' | 'ends'>;

/** Finds frames again that somebody else gave another name or folder. Nothing on the drive is changed. */
@Injectable()
export class FollowMoves {
  constructor(
    private readonly disk: Disk,
    private readonly work: UnitOfWork,
    private readonly store: AdoptedStore,
    private readonly strayed: Strayed,
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
   * Whether these files are a frame's that is known and lies there no more: then it lies here from now on, and is forgotten still where it
   * was. `known`, `forgotten`: files of the drive that are as the one that shows it.
   */
  async follow(
    where: AdoptedPlace,
    group: CardFrame,
    files: readonly FoundFile[],
    { known, forgotten }: { known: readonly KnownInFolder[]; forgotten: readonly Forgotten[] },
  ): Promise<boolean> {
    const { volume } = where;
    for (const { at, frameId } of known) {
      const pairs = await this.pairs(volume, at, files, () => this.store.filesOf(volume.id, frameId));
      if (!pairs) continue;
      await this.relocate(where, group.base, frameId, pairs);
      return true;
    }
    for (const { at, frameId } of forgotten) {
      const pairs = await this.pairs(volume, at, files, () => this.strayed.filesOf(volume.id, frameId));
      if (!pairs) continue;
      const { path: place } = where.there;
      const moved = pairs.map(({ was, is }) => ({ was, at: is.at }));
      await this.strayed.moved(volume.id, { folder: place, place, name: group.base }, moved);
      return true;
    }
    return false;
  }

  /** A frame's files with what they are now; null where it did not move. `at`: where the one lay that is as the one that shows it. */
  private async pairs<T extends Lying>(
    volume: Volume,
    at: string,
    files: readonly FoundFile[],
    all: () => Promise<T[]>,
  ): Promise<{ was: T; is: FoundFile }[] | null> {
    if (await this.isThere(volume, at)) return null;
    const pairs = (await all()).map((was) => ({
      was,
      is: files.find(({ size, ends }) => size === was.size && ends === was.ends) ?? null,
    }));
    // A frame of which something stayed behind did not move: what came is a copy of a part of it.
    for (const { was, is } of pairs) if (is === null && (await this.isThere(volume, was.at))) return null;
    return pairs.flatMap(({ was, is }) => (is ? [{ was, is }] : []));
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
      // What other programs wrote beside single files of it.
      for (const { was, is } of pairs)
        await this.texts.renamed(manager, `${was.at}.xmp`, `${is.at}.xmp`, volume.id);
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
