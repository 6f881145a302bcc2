import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Happenings } from '../events/domainEvents';
import { DEVICES } from '../volumes/volumes.service';
import { Asset } from './asset.entity';
import { Copy } from './copy.entity';
import { Damage } from './damage.entity';
import { ShootCounts } from './shootCounts';
import { TrailStore } from './trailStore';
import { changeVolume } from './volumeCounts';

export interface Verified {
  verifiedAt: number;
  pastCache: boolean;
}

export interface Found {
  /** checksum of what lies there; null: nothing, or nothing readable */
  found: string | null;
  reason: string;
  at: number;
  /** how it is told: the drive did not keep it, it is not there, or another program wrote there; missing: the first */
  as?: 'damaged' | 'missing' | 'changed';
}

/**
 * Writes which drive holds a good copy of a file, and which a damaged one. Each method belongs in the caller's transaction and keeps the
 * numbers of shoots and volumes in step with the rows it changes.
 */
@Injectable()
export class CopyStore {
  constructor(
    private readonly counts: ShootCounts,
    private readonly happenings: Happenings,
    private readonly trail: TrailStore,
  ) {}

  /** A copy that was read and is good: a new one, or one that was there or was damaged. */
  async verified(manager: EntityManager, assetId: string, volumeId: string, how: Verified): Promise<void> {
    const { affected } = await manager.delete(Damage, { volumeId, assetId });
    if (affected) {
      await changeVolume(manager, volumeId, { damaged: -1 });
      await this.trail.ofCopy(manager, 'repaired', { assetId, volumeId });
    }
    const known = await manager.findOneBy(Copy, { assetId, volumeId });
    const { verifiedAt, pastCache } = how;
    if (known) {
      await manager.update(Copy, { assetId, volumeId }, { verifiedAt, pastCache });
      if (known.verifiedAt === null) await this.judge(manager, [assetId]);
      return;
    }
    const { size, devices, shootId } = await manager.findOneByOrFail(Asset, { id: assetId });
    await manager.insert(Copy, { assetId, volumeId, path: null, size, mtime: null, verifiedAt, pastCache });
    await manager.query(`INSERT OR IGNORE INTO shoot_volume VALUES (?, ?)`, [shootId, volumeId]);
    await changeVolume(manager, volumeId, { files: 1, bytes: size, onlyHere: devices <= 1 ? 1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A copy that has just been made; one that is known stays as it is, whatever was found of it since. */
  async verifiedOnce(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    how: Verified,
  ): Promise<void> {
    const known =
      (await manager.existsBy(Copy, { assetId, volumeId })) ||
      (await manager.existsBy(Damage, { assetId, volumeId }));
    if (!known) await this.verified(manager, assetId, volumeId, how);
  }

  /** A copy is not what it should be: it is none until it is found good again. */
  async damaged(manager: EntityManager, assetId: string, volumeId: string, found: Found): Promise<void> {
    const copy = await manager.findOneBy(Copy, { assetId, volumeId });
    const known = await manager.findOneBy(Damage, { assetId, volumeId });
    const path = copy?.path ?? known?.path ?? null;
    const { as = 'damaged', ...its } = found;
    await manager.save(Damage, { volumeId, assetId, path, ...its });
    if (!known) {
      await changeVolume(manager, volumeId, { damaged: 1 });
      await this.trail.ofCopy(manager, as, { assetId, volumeId }, { path, reason: found.reason });
    }
    if (!copy) return;
    const { devices, size } = await manager.findOneByOrFail(Asset, { id: assetId });
    await manager.delete(Copy, { assetId, volumeId });
    await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere: devices <= 1 ? -1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A copy was taken off its drive, and is missed there by nobody: others are proven. */
  async released(manager: EntityManager, assetId: string, volumeId: string): Promise<void> {
    const copy = await manager.findOneBy(Copy, { assetId, volumeId });
    if (!copy) return;
    await this.trail.ofCopy(manager, 'taken-off', { assetId, volumeId }, copy);
    await manager.delete(Copy, { assetId, volumeId });
    const { devices, size } = await manager.findOneByOrFail(Asset, { id: assetId });
    await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere: devices <= 1 ? -1 : 0 });
    await this.judge(manager, [assetId]);
    this.happenings.after(manager, 'copied', { assetId });
  }

  /** A copy lies elsewhere, as its drive was away when its frame was given its place; null: at its place again. */
  async liesAt(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    path: string | null,
  ): Promise<void> {
    await manager.update(Copy, { assetId, volumeId }, { path });
  }

  /** When a copy was changed last, as its drive says: by that another file in its place is seen without reading it. */
  async seenAs(
    manager: EntityManager,
    assetId: string,
    volumeId: string,
    mtimeMillis: number,
  ): Promise<void> {
    await manager.update(Copy, { assetId, volumeId }, { mtime: Math.round(mtimeMillis) });
  }

  /** On how many devices files are kept, after copies or devices have changed. */
  async judge(manager: EntityManager, assetIds: readonly string[]): Promise<void> {
    const { required } = await this.counts.basis();
    const rows: { id: string; shootId: string; before: number; now: number }[] = await manager.query(
      `SELECT a.id, a."shootId", a.devices AS before,
         (SELECT ${DEVICES} FROM copy c JOIN volume v ON v.id = c."volumeId" AND v.role <> 'edit'
          WHERE c."assetId" = a.id AND c."verifiedAt" IS NOT NULL) AS now
       FROM asset a WHERE a.id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(assetIds)],
    );
    const missing = new Map<string, number>();
    for (const { id, shootId, before, now } of rows) {
      if (before === now) continue;
      await manager.update(Asset, { id }, { devices: now });
      const by = Number(now < required) - Number(before < required);
      missing.set(shootId, (missing.get(shootId) ?? 0) + by);
      const onlyHere = Number(now <= 1) - Number(before <= 1);
      if (onlyHere === 0) continue;
      for (const { volumeId } of await manager.findBy(Copy, { assetId: id }))
        await changeVolume(manager, volumeId, { onlyHere });
    }
    for (const [shootId, missingCopies] of missing)
      await this.counts.change(manager, shootId, { missingCopies });
  }
}
