import path from 'node:path';
import { Injectable } from '@nestjs/common';
import { ARCHIVE_FOLDER, ArkivError, BIN_FOLDER, isoTime } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { readOwnBytes, removeEmptyFolders } from '../disk/place';
import { hashFile } from '../disk/verifiedCopy';
import { DueTexts } from '../frames/dueTexts.service';
import { OwnTextsService } from '../frames/ownTexts.service';
import { Shoot } from '../shoots/shoot.entity';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { Bin, BinnedCopy } from './binned.entity';
import { BinStore } from './binStore';

interface Line {
  frame: string;
  name: string;
  at: string;
  path: string;
  sha256: string | null;
  size: number | null;
}

/**
 * What the bin of a drive says of itself: each time has an open list of what lies in it and where that lay, and what was
 * forgotten has one in the archive's own folder. A drive that was away gets its lists when it returns.
 */
@Injectable()
export class BinTexts {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: OwnTextsService,
    private readonly due: DueTexts,
    private readonly bins: BinStore,
  ) {
    due.register('bin', (volume, binId) => this.writeOne(volume, binId));
  }

  /** The lists of one time are to be written anew on every drive. */
  owe(binId: string): Promise<void> {
    return this.work.write((manager) => this.oweWithin(manager, binId));
  }

  /** Within the caller's transaction; they are written when it is quiet, unless somebody does that before. */
  async oweWithin(manager: EntityManager, binId: string): Promise<void> {
    const ids = (await this.volumes.all()).filter(({ role }) => role !== 'edit').map(({ id }) => id);
    const holding = new Set([...(await this.bins.volumesOf(binId)), ...ids]);
    await this.due.owe(manager, [...holding], 'bin', binId);
    this.due.soon();
  }

  /** Writes the lists that are due, on drives that are here. */
  write(): Promise<void> {
    return this.due.flush('bin');
  }

  private async writeOne(volume: Volume, binId: string): Promise<void> {
    const bin = await this.bins.bin(binId);
    if (!bin) return;
    const list = listOf(bin);
    const lines: Line[] = await this.reading.source.query(
      `SELECT f.id AS frame, f.name, b."at", c.path, c.sha256, c.size FROM binned_frame n
       JOIN frame f ON f.id = n."frameId" JOIN binned_file b ON b."frameId" = n."frameId"
       JOIN binned_copy c ON c."assetId" = b."assetId" AND c."volumeId" = ?
       WHERE n."binId" = ? AND c.due IS NULL ORDER BY b."at"`,
      [volume.id, binId],
    );
    if (lines.length > 0) {
      const shoot = await this.reading.manager.findOneByOrFail(Shoot, { id: bin.shootId });
      const facts = {
        ...{ schema: 1, deed: bin.deed, at: isoTime(bin.at), shoot: { id: shoot.id, title: shoot.title } },
        files: lines,
      };
      return this.texts.keepTrue(volume, list, `${JSON.stringify(facts, null, 1)}\n`, 'bin');
    }
    // Nothing of it lies here any more: its list goes, and the folders that hold nothing.
    const file = await this.volumes.resolve(volume, list);
    await this.texts.remove(volume, list, 'bin');
    if (bin.deed !== 'bin') return;
    await removeEmptyFolders(this.disk, path.dirname(file));
    await this.disk.removeEmptyFolder(await this.volumes.resolve(volume, BIN_FOLDER)).catch(() => false);
  }

  /**
   * Deletes a file that lies in the bin, if it is the one that was put there; one that lies elsewhere, on a drive that
   * was away, is read whole first. What is another file by now stays, and is named.
   */
  async deleteCopy(copy: BinnedCopy, volume: Volume): Promise<void> {
    const file = await this.volumes.resolve(volume, copy.path);
    const facts = await this.disk.facts(file);
    if (!facts) return;
    const inBin = copy.path.startsWith(`${BIN_FOLDER}/`);
    const same =
      copy.size === null
        ? inBin
        : facts.kind === 'file' &&
          facts.size === copy.size &&
          (inBin || (copy.sha256 !== null && (await hashFile(this.disk, file)).sha256 === copy.sha256));
    if (!same) throw new ArkivError('bin.changed', { file: copy.path, volume: volume.name });
    await this.disk.unlink(file);
    await this.disk.syncFolder(path.dirname(file));
  }

  /** Whether a sidecar may be a frame’s: another one may have come to its place while the drive was away. */
  async mayBeOf(volume: Volume, relative: string, frameId: string): Promise<boolean> {
    const bytes = await readOwnBytes(this.disk, await this.volumes.resolve(volume, relative));
    const named = bytes && FRAME_NAMED.exec(bytes.toString('utf8'))?.[1];
    return !named || named === frameId;
  }

  /** Deletes a frame’s sidecar. */
  async deleteText(volume: Volume, relative: string, frameId: string): Promise<void> {
    const file = await this.volumes.resolve(volume, relative);
    if (!(await this.disk.facts(file)) || !(await this.mayBeOf(volume, relative, frameId))) return;
    await this.disk.unlink(file);
    await this.disk.syncFolder(path.dirname(file));
  }
}

/** The frame that a sidecar of ours is about. */
const FRAME_NAMED = /arkiv:frame(?:="|>)([0-9A-Z]{26})/;

const listOf = ({ deed, folder }: Bin): string =>
  deed === 'bin' ? `${BIN_FOLDER}/${folder}/bin.json` : `${ARCHIVE_FOLDER}/forgotten/${folder}.json`;
