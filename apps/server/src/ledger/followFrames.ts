import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Happenings } from '../events/domainEvents';
import { Handed } from './handoff.entity';

/** What went out of a shoot, and the frames that it was about. */
const OUT = [
  { table: 'delivery', files: 'delivery_file', key: 'deliveryId' },
  { table: 'gallery', files: 'gallery_frame', key: 'galleryId' },
  { table: 'handoff', files: 'handoff_file', key: 'handoffId' },
] as const;

/** Longest row of sets of which each brings the one before up to date: more than a set was ever remade. */
const MOST_REMADE = 1000;

/**
 * What went out goes with its frames into another shoot, and back with them: a set, a gallery or a hand-off once all of its frames
 * that are here are in one other shoot, a copy that lies with editing with its own frame. Otherwise it would be looked for where nothing
 * is any more: what editors write in their copies would not be heard, and a gallery brought up to date would lose its pictures.
 */
@Injectable()
export class FollowFrames {
  constructor(private readonly happenings: Happenings) {}

  /** Copies of a frame that lie with editing are those of its shoot. Within the transaction that moves it there. */
  async copies(manager: EntityManager, frameId: string, shootId: string): Promise<void> {
    await manager.update(Handed, { frameId }, { shootId });
  }

  /** After frames have moved between these shoots. Within the caller's transaction. */
  async follow(manager: EntityManager, shootIds: readonly string[]): Promise<void> {
    const all = JSON.stringify(shootIds);
    const among = 'IN (SELECT value FROM json_each(?))';
    for (const { table, files, key } of OUT) {
      const its = `FROM ${files} x JOIN frame_here f ON f.id = x."frameId" WHERE x."${key}" = o.id`;
      await manager.query(
        `UPDATE ${table} AS o SET "shootId" = (SELECT MIN(f."shootId") ${its})
         WHERE o."shootId" ${among}
           AND (SELECT COUNT(DISTINCT f."shootId") = 1 AND MIN(f."shootId") <> o."shootId" ${its})`,
        [all],
      );
    }
    // Sets that bring one up to date stay with it, sets that were sent with what was sent, and messages with the gallery of which they tell.
    for (let n = 0; n < MOST_REMADE; n++) {
      const changed: unknown[] = await manager.query(
        `UPDATE delivery AS o SET "shootId" = d."shootId" FROM delivery d
         WHERE d.id = o.follows AND d."shootId" <> o."shootId" AND o."shootId" ${among} RETURNING id`,
        [all],
      );
      if (changed.length === 0) break;
    }
    await manager.query(
      `UPDATE sent AS o SET "shootId" = d."shootId" FROM delivery d
       WHERE d.id = o."deliveryId" AND d."shootId" <> o."shootId" AND o."shootId" ${among}`,
      [all],
    );
    await manager.query(
      `UPDATE message AS o SET "shootId" = g."shootId" FROM gallery g
       WHERE g.id = o."galleryId" AND g."shootId" <> o."shootId" AND o."shootId" ${among}`,
      [all],
    );
    for (const shootId of shootIds) {
      this.happenings.after(manager, 'posted', { shootId });
      this.happenings.after(manager, 'sent', { shootId });
    }
  }
}
