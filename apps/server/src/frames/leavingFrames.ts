import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Happenings } from '../events/domainEvents';
import { Asset, keptName, type PlacedAsset } from './asset.entity';
import { Copy } from './copy.entity';
import { Damage } from './damage.entity';
import { Frame } from './frame.entity';
import { BY_OTHERS, type NewPlace } from './frameStore';
import { ShootCounts } from './shootCounts';
import { TrailStore } from './trailStore';
import { changeVolume } from './volumeCounts';

/** What the archive knew of a frame that left it. */
export interface TakenOut {
  frameId: string;
  shootId: string;
  files: PlacedAsset[];
  copies: {
    assetId: string;
    volumeId: string;
    at: string;
    /** null: what lies there is damaged */
    size: number | null;
    verifiedAt: number | null;
    pastCache: boolean;
  }[];
}

/** A file that comes back into the archive, under the id it had. */
export type ReturningFile = Omit<Asset, 'shootId' | 'frameId' | 'name' | 'devices'> & { to: string };

/**
 * Takes frames out of the archive with their files and copies, and brings them back. Each method belongs in the caller's transaction and
 * keeps the numbers of shoots and volumes in step with the rows it changes.
 */
@Injectable()
export class LeavingFrames {
  constructor(
    private readonly counts: ShootCounts,
    private readonly happenings: Happenings,
    private readonly trail: TrailStore,
  ) {}

  /**
   * A frame leaves the archive with all its files; its marks stay with its row. What lies on the drives counts and proves
   * nothing from then on. Null where it was not here.
   */
  async takeOut(
    manager: EntityManager,
    frameId: string,
    state: 'binned' | 'forgotten',
  ): Promise<TakenOut | null> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    if (frame.state !== 'here') return null;
    const files: PlacedAsset[] = await manager.query(`SELECT * FROM asset_at WHERE "frameId" = ?`, [frameId]);
    const copies: TakenOut['copies'] = [];
    const { required } = await this.counts.basis();
    for (const { id: assetId, at, size, devices } of files) {
      for (const damage of await manager.findBy(Damage, { assetId })) {
        const { volumeId, path } = damage;
        copies.push({ assetId, volumeId, at: path ?? at, size: null, verifiedAt: null, pastCache: false });
        await changeVolume(manager, volumeId, { damaged: -1 });
      }
      for (const copy of await manager.findBy(Copy, { assetId })) {
        const { volumeId, path, verifiedAt, pastCache } = copy;
        copies.push({ assetId, volumeId, at: path ?? at, size: copy.size ?? size, verifiedAt, pastCache });
        const onlyHere = devices <= 1 ? -1 : 0;
        await changeVolume(manager, volumeId, { files: -1, bytes: -size, onlyHere });
      }
      await manager.delete(Damage, { assetId });
      await manager.delete(Copy, { assetId });
      await manager.delete(Asset, { id: assetId });
      const missingCopies = devices < required ? -1 : 0;
      await this.counts.change(manager, frame.shootId, { files: -1, missingCopies });
    }
    await manager.update(Frame, { id: frameId }, { state });
    const from = `${frame.place}/${frame.name}`;
    await this.trail.note(manager, { kind: state, shootId: frame.shootId, frameId, from });
    await this.counts.frame(manager, frame, { ...frame, state });
    const known = files.map((file) => ({ ...file, raw: Boolean(file.raw) }));
    return { frameId, shootId: frame.shootId, files: known, copies };
  }

  /** A frame that was taken out is here again, with its files and without copies: these follow. Its sidecar is due. */
  async bringBack(
    manager: EntityManager,
    frameId: string,
    { folder, place, name }: Omit<NewPlace, 'shootId'>,
    files: readonly ReturningFile[],
  ): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const now = { ...frame, ...{ folder, place, name }, state: 'here' as const };
    const sidecarDue = frame.sidecarDue + 1;
    await manager.update(Frame, { id: frameId }, { folder, place, name, state: 'here', sidecarDue });
    const { shootId } = frame;
    const { required } = await this.counts.basis();
    for (const { to, ...file } of files) {
      const kept = keptName(to, { place, name });
      await manager.insert(Asset, { ...file, shootId, frameId, name: kept, devices: 0 });
      await this.counts.change(manager, shootId, { files: 1, missingCopies: required > 0 ? 1 : 0 });
    }
    await this.counts.frame(manager, frame, now);
    await this.trail.note(manager, { kind: 'brought-back', shootId, frameId, to: `${place}/${name}` });
    this.happenings.after(manager, 'due', {});
  }

  /** A frame that was taken out with its files left where they lay has another place by now: somebody else gave it to it. */
  async strayed(
    manager: EntityManager,
    frameId: string,
    { folder, place, name }: Omit<NewPlace, 'shootId'>,
  ): Promise<void> {
    const frame = await manager.findOneByOrFail(Frame, { id: frameId });
    const [from, to] = [`${frame.place}/${frame.name}`, `${place}/${name}`];
    await manager.update(Frame, { id: frameId }, { folder, place, name });
    const kind = frame.place === place ? 'renamed' : 'moved';
    const { shootId } = frame;
    if (from !== to) await this.trail.note(manager, { kind, shootId, frameId, from, to, reason: BY_OTHERS });
  }

  /** The files of a frame that was binned are deleted: the archive knows no more than that it was here. */
  async forget(manager: EntityManager, frameId: string): Promise<void> {
    const frame = await manager.findOneBy(Frame, { id: frameId, state: 'binned' });
    if (!frame) return;
    await manager.update(Frame, { id: frameId }, { state: 'forgotten' });
    const from = `${frame.place}/${frame.name}`;
    await this.trail.note(manager, { kind: 'deleted', shootId: frame.shootId, frameId, from });
  }
}
