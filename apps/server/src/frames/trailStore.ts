import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { PlacedAsset } from './asset.entity';
import { insertRows } from '../db/insertRows';
import { Clock } from '../system/clock';
import { Trail, type TrailKind } from './trail.entity';

export type NewTrail = Pick<Trail, 'kind' | 'shootId'> &
  Partial<Omit<Trail, 'seq' | 'at' | 'kind' | 'shootId'>>;

/** What became of files, line by line; written in the transaction that changes their rows, and never changed. */
@Injectable()
export class TrailStore {
  constructor(private readonly clock: Clock) {}

  async note(manager: EntityManager, ...lines: readonly NewTrail[]): Promise<void> {
    const none = { frameId: null, volumeId: null, from: null, to: null, reason: null };
    const at = this.clock.now();
    await insertRows(
      manager,
      Trail,
      lines.map((line) => ({ ...none, ...line, at })),
    );
  }

  /** What became of one copy of a file, or (`volumeId` null) of the file. `path`: where it lies when that is not the archive's place for it. */
  async ofCopy(
    manager: EntityManager,
    kind: TrailKind,
    { assetId, volumeId }: { assetId: string; volumeId: string | null },
    { path = null, reason = null }: { path?: string | null; reason?: string | null } = {},
  ): Promise<void> {
    const [file]: PlacedAsset[] = await manager.query(`SELECT * FROM asset_at WHERE id = ?`, [assetId]);
    if (!file) return;
    const { shootId, frameId, at } = file;
    await this.note(manager, { kind, shootId, frameId, volumeId, from: path ?? at, reason });
  }
}
