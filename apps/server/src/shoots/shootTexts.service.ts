import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ArkivError, manifestText, SHOOT_FOLDER } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { readOwnBytes, removeEmptyFolders } from '../disk/place';
import { DueTexts } from '../frames/dueTexts.service';
import { Journal } from '../journal/journal';
import { OwnTextsService } from '../frames/ownTexts.service';
import { SettingsService } from '../settings/settings.service';
import { volumeError, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { textsApart, Shoot, textFolders } from './shoot.entity';

/**
 * A shoot's copies in one of its folders on a volume; parameters: shoot, volume, length and text of the folder with its
 * slash. Read by the shoot, so that it costs by the shoot's size and not by the drive's.
 */
export const COPIES_IN_FOLDER = `SELECT c.sha256, c."at" AS path FROM copy_at c
  WHERE c."shootId" = ? AND c."volumeId" = ? AND c.sha256 IS NOT NULL AND substr(c."at", 1, ?) = ? ORDER BY c."at"`;

/** Keeps what a shoot's folders say of themselves true: its facts and the manifest of its originals. */
@Injectable()
export class ShootTextsService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly volumes: VolumesService,
    private readonly texts: OwnTextsService,
    private readonly settings: SettingsService,
    private readonly work: UnitOfWork,
    private readonly journal: Journal,
    private readonly due: DueTexts,
  ) {
    due.register('shoot', (volume, shootId) => this.catchUp(volume, shootId));
    due.register('history', (volume, shootId) => this.writeHistory(volume, shootId));
  }

  /** In every folder of the shoot on every volume that is there. Says what could not be written; nothing is thrown. */
  async writeAll(shoot: Shoot, volumes: readonly Volume[], job: string): Promise<string[]> {
    const problems: string[] = [];
    for (const volume of volumes) {
      if (!(await this.volumes.isOnline(volume))) {
        await this.owe(shoot.id, volume.id);
        continue;
      }
      const homes = await this.homesOn(volume, shoot);
      for (const folder of homes) {
        try {
          await this.write(shoot, volume, folder, job);
        } catch (error) {
          problems.push(this.problem(error, volume, folder));
        }
      }
      await this.leaveApart(shoot, volume, homes);
    }
    return problems;
  }

  /** A drive that is away and holds anything of the shoot gets what it missed when it is back. */
  private async owe(shootId: string, volumeId: string): Promise<void> {
    await this.work.write(async (manager) => {
      const [holds]: unknown[] = await manager.query(
        `SELECT 1 FROM shoot_volume WHERE "shootId" = ? AND "volumeId" = ?`,
        [shootId, volumeId],
      );
      if (holds) await this.due.owe(manager, [volumeId], 'shoot', shootId);
    });
  }

  private async catchUp(volume: Volume, shootId: string): Promise<void> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: shootId });
    if (!shoot) return;
    const homes = await this.homesOn(volume, shoot);
    for (const folder of homes) await this.write(shoot, volume, folder, 'texts');
    await this.leaveApart(shoot, volume, homes);
  }

  /**
   * The folders that hold what is said of a shoot on a volume: its own, but where another shoot's texts lie in one of them already (two
   * archives made the same folder, and one came home to the other), a folder apart.
   */
  async homesOn(volume: Volume, shoot: Shoot): Promise<string[]> {
    const homes = new Set<string>();
    for (const folder of textFolders(shoot))
      homes.add((await this.isAnothers(volume, folder, shoot)) ? textsApart(shoot.id) : folder);
    return [...homes];
  }

  private async isAnothers(volume: Volume, folder: string, { id, keptIn }: Shoot): Promise<boolean> {
    if (keptIn !== null) return false;
    const file = await this.volumes.resolve(volume, `${folder}/${SHOOT_FOLDER}/shoot.json`);
    const other = idIn(await readOwnBytes(this.disk, file));
    if (other === null || other === id) return false;
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: other });
    return shoot !== null && shoot.mergedInto === null && textFolders(shoot).includes(folder);
  }

  /** A shoot that has its own folders by now leaves the one apart. */
  private async leaveApart({ id, keptIn }: Shoot, volume: Volume, homes: readonly string[]): Promise<void> {
    const apart = textsApart(id);
    if (keptIn === null && !homes.includes(apart)) await this.leave(apart, [volume]);
  }

  /** What was decided in the shoot, an operation a line, in each of its folders that this volume has. */
  private async writeHistory(volume: Volume, shootId: string): Promise<void> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: shootId });
    if (!shoot) return;
    const lines: string[] = [];
    for await (const operation of this.journal.numbered(shootId))
      lines.push(`${JSON.stringify(operation)}\n`);
    if (lines.length === 0) return;
    for (const folder of await this.homesOn(volume, shoot)) {
      const place = `${folder}/${SHOOT_FOLDER}`;
      if (
        folder !== textsApart(shoot.id) &&
        !(await this.disk.facts(await this.volumes.resolve(volume, folder)))
      )
        continue;
      await this.texts.keepTrue(volume, `${place}/history.jsonl`, lines.join(''), 'history');
    }
  }

  /** The texts of a shoot that lies elsewhere by now go from a folder, on each volume that is there; what somebody changed stays. */
  async leave(folder: string, volumes: readonly Volume[]): Promise<void> {
    for (const volume of volumes) {
      if (!(await this.volumes.isOnline(volume))) continue;
      try {
        const home = `${folder}/${SHOOT_FOLDER}`;
        if (!(await this.disk.facts(await this.volumes.resolve(volume, home)))) continue;
        for (const place of [`${home}/record`, home]) {
          const there = await this.volumes.resolve(volume, place);
          if ((await this.disk.facts(there))?.kind !== 'folder') continue;
          for (const name of await this.disk.names(there))
            if (/\.(jsonl?|sha256)$/.test(String(name)))
              await this.texts.remove(volume, `${place}/${String(name)}`, 'history');
        }
      } catch (error) {
        // A text that stays is older than those of the shoot's own folders, and no harm.
        if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
      }
    }
    await this.leaveNoEmptyFolders([folder], volumes);
  }

  /** Takes away what of these folders is empty, on each volume that is there. What holds anything stays. */
  async leaveNoEmptyFolders(folders: readonly string[], volumes: readonly Volume[]): Promise<void> {
    for (const volume of volumes) {
      if (!(await this.volumes.isOnline(volume))) continue;
      for (const folder of folders) {
        try {
          await removeEmptyFolders(this.disk, await this.volumes.resolve(volume, folder));
        } catch (error) {
          // An empty folder that stays is no harm, and the drive says by itself what is wrong with it.
          if (diskErrorCode(error) === null && !(error instanceof ArkivError)) throw error;
        }
      }
    }
  }

  /** What went wrong with our texts in a folder, in words. Throws what is no trouble of a disk. */
  problem(error: unknown, volume: Volume, folder: string): string {
    if (!(error instanceof ArkivError) && diskErrorCode(error) === null) throw error;
    const shown = volumeError(error, volume, `${folder}/${SHOOT_FOLDER}`, 0, 0);
    return `${folder}/${SHOOT_FOLDER} is not up to date on ${volume.name}: ${shown.message} ${shown.body().next}`;
  }

  /** `shoot.json` and `manifest.sha256`: the shoot as it is now in this folder of this volume. */
  async write(shoot: Shoot, volume: Volume, folder: string, job: string): Promise<void> {
    // A shoot of fifty thousand frames is read for some time.
    const within = folder === textsApart(shoot.id) ? '' : `${folder}/`;
    const copies = await this.long.rows<{ sha256: string; path: string }>(COPIES_IN_FOLDER, [
      ...[shoot.id, volume.id, within.length, within],
    ]);
    const place = await this.volumes.resolve(volume, `${folder}/${SHOOT_FOLDER}`);
    // A volume that never got anything of this folder has nothing to say about it.
    const isOwn = shoot.keptIn === null;
    if (isOwn && copies.length === 0 && !(await this.disk.facts(place))) return;
    const manifest = manifestText(
      copies.map(({ sha256, path: full }) => ({ sha256, path: path.posix.relative(folder, full) })),
    );
    const { id, title, date, client, place: where, folders, plan, pattern, zoneMinutes } = shoot;
    const { chosenLeads, folderLeads } = shoot;
    const clocks: { body: string; millis: number }[] = await this.reading.source.query(
      `SELECT DISTINCT body, "correctionMillis" AS millis FROM frame
       WHERE "shootId" = ? AND body IS NOT NULL AND "correctionMillis" <> 0 ORDER BY body`,
      [shoot.id],
    );
    const facts = {
      schema: 1,
      archive: await this.settings.archive(),
      clocks,
      id,
      title,
      date,
      client,
      place: where,
      folders,
      plan,
      pattern,
      zoneMinutes,
      ...(chosenLeads ? { leads: chosenLeads } : {}),
      ...(folderLeads ? { folderLeads } : {}),
    };
    await this.texts.keepTrue(volume, `${folder}/${SHOOT_FOLDER}/manifest.sha256`, manifest, job);
    await this.texts.keepTrue(
      volume,
      `${folder}/${SHOOT_FOLDER}/shoot.json`,
      `${JSON.stringify(facts, null, 1)}\n`,
      job,
    );
  }
}

/** The shoot that a `shoot.json` is of; null: it is none that can be read. */
function idIn(bytes: Buffer | null): string | null {
  try {
    const { id } = JSON.parse(bytes?.toString('utf8') ?? '{}') as { id?: unknown };
    return typeof id === 'string' ? id : null;
  } catch {
    return null;
  }
}
