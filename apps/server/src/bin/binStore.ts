import { Injectable } from '@nestjs/common';
import { IsNull, Not, type EntityManager } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Reading } from '../db/unitOfWork';
import { MOST_ALIKE } from '../frames/alike';
import type { TakenOut } from '../frames/leavingFrames';
import { Bin, BinnedCopy, BinnedFile, BinnedFrameRow } from './binned.entity';

/** A file that was forgotten and left where it lay. */
export interface Forgotten {
  assetId: string;
  frameId: string;
  binId: string;
  /** below the drive */
  at: string;
  size: number;
  ends: string | null;
}

const FORGOTTEN = `b."assetId", b."frameId", c."binId", c.path AS "at", b.size, b.ends`;

/** The only writer of what is in the bin or forgotten. */
@Injectable()
export class BinStore {
  constructor(private readonly reading: Reading) {}

  async open(manager: EntityManager, bin: Bin): Promise<void> {
    await manager.insert(Bin, bin);
  }

  /**
   * Keeps what the archive knew of a frame that was taken out of it. `lies`: where what lay at a place of a drive lies in its bin by now;
   * undefined: it is not there.
   */
  async put(
    manager: EntityManager,
    bin: Bin,
    { frameId, files, copies }: TakenOut,
    lies: (volumeId: string, at: string) => string | undefined,
  ): Promise<void> {
    await manager.insert(BinnedFrameRow, { frameId, binId: bin.id });
    await insertRows(
      manager,
      BinnedFile,
      files.map(({ id: assetId, role, format, raw, sha256, ends, picture, size, cardPath, at }) => ({
        ...{ assetId, frameId, role, format, raw, sha256, ends, picture, size, cardPath, at },
      })),
    );
    const sums = new Map(files.map(({ id, sha256 }) => [id, sha256]));
    const rows = copies.map(({ assetId, volumeId, at, size, verifiedAt, pastCache }) => {
      const inItsBin = lies(volumeId, at);
      return {
        ...{ assetId, volumeId, frameId, binId: bin.id, size, verifiedAt, pastCache },
        path: inItsBin ?? at,
        sha256: sums.get(assetId) ?? null,
        due: bin.deed === 'bin' && inItsBin === undefined ? ('bin' as const) : null,
      };
    });
    // A file that was damaged once and is good again is one copy.
    for (const row of rows) await manager.upsert(BinnedCopy, row, ['assetId', 'volumeId']);
  }

  /**
   * A frame is here again, or its files are deleted: nothing of it is known here any more but copies on drives that are
   * away, with what is to become of them.
   */
  async leave(
    manager: EntityManager,
    frameId: string,
    later: readonly BinnedCopy[],
    due: 'back' | 'delete',
  ): Promise<void> {
    await manager.delete(BinnedCopy, { frameId });
    for (const copy of later) await manager.insert(BinnedCopy, { ...copy, due });
    await manager.delete(BinnedFile, { frameId });
    await manager.delete(BinnedFrameRow, { frameId });
  }

  /** What was due of a copy is done: it lies in the bin. */
  async lies(manager: EntityManager, { assetId, volumeId }: BinnedCopy, path: string): Promise<void> {
    await manager.update(BinnedCopy, { assetId, volumeId }, { path, due: null });
  }

  /** Another archive laid it elsewhere on its drive; what is due of it is due there. */
  async liesElsewhere(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    path: string,
  ): Promise<void> {
    await manager.update(BinnedCopy, { assetId, volumeId }, { path });
  }

  /** What was due of a copy is done, and there is no more to know of it here. */
  async settled(manager: EntityManager, { assetId, volumeId }: BinnedCopy): Promise<void> {
    await manager.delete(BinnedCopy, { assetId, volumeId });
  }

  /**
   * Files that were forgotten and left on a drive, and are as these by length and both ends. What is due there is somebody's errand
   * still.
   */
  async forgottenAlike(volumeId: string, ends: readonly string[]): Promise<Forgotten[]> {
    return this.reading.source.query(
      `SELECT ${FORGOTTEN} FROM json_each(?) m CROSS JOIN binned_file b ON b.ends = m.value
       JOIN binned_copy c ON c."assetId" = b."assetId" AND c."volumeId" = ? JOIN bin t ON t.id = c."binId"
       WHERE t.deed = 'forget' AND c.due IS NULL ORDER BY b."assetId" LIMIT ?`,
      [JSON.stringify(ends), volumeId, MOST_ALIKE * ends.length],
    );
  }

  /** What the frames of one time of binning that are still in the bin are called. */
  async names(binId: string): Promise<Set<string>> {
    const rows: { name: string }[] = await this.reading.source.query(
      `SELECT f.name FROM binned_frame b JOIN frame f ON f.id = b."frameId" WHERE b."binId" = ?`,
      [binId],
    );
    return new Set(rows.map(({ name }) => name));
  }

  /** All files of a frame that were forgotten and left on a drive. */
  async forgottenOf(volumeId: string, frameId: string): Promise<Forgotten[]> {
    return this.reading.source.query(
      `SELECT ${FORGOTTEN} FROM binned_file b JOIN binned_copy c ON c."assetId" = b."assetId" AND c."volumeId" = ?
       WHERE b."frameId" = ? AND c.due IS NULL`,
      [volumeId, frameId],
    );
  }

  /** A file that was forgotten has another place on a drive by now. */
  async strayed(manager: EntityManager, volumeId: string, assetId: string, at: string): Promise<void> {
    await manager.update(BinnedFile, { assetId }, { at });
    await manager.update(BinnedCopy, { assetId, volumeId }, { path: at });
  }

  bin(id: string): Promise<Bin | null> {
    return this.reading.manager.findOneBy(Bin, { id });
  }

  /** When and with what a frame went; null: it is not in the bin, nor forgotten with its files left. */
  async binOf(frameId: string): Promise<Bin | null> {
    const row = await this.reading.manager.findOneBy(BinnedFrameRow, { frameId });
    return row && this.bin(row.binId);
  }

  files(frameId: string): Promise<BinnedFile[]> {
    return this.reading.manager.find(BinnedFile, { where: { frameId }, order: { at: 'ASC' } });
  }

  copies(frameId: string): Promise<BinnedCopy[]> {
    return this.reading.manager.findBy(BinnedCopy, { frameId });
  }

  /** What a drive that was away has to catch up with. */
  due(volumeId: string): Promise<BinnedCopy[]> {
    return this.reading.manager.findBy(BinnedCopy, { volumeId, due: Not(IsNull()) });
  }

  /** The drives that hold anything of it. */
  async volumesOf(binId: string): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT "volumeId" AS id FROM binned_copy WHERE "binId" = ?`,
      [binId],
    );
    return rows.map(({ id }) => id);
  }
}
