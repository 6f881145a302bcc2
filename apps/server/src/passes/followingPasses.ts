import { Injectable } from '@nestjs/common';
import { placesOfText, placesText, regrouped, standingSql } from '@arkiv/core';
import { In } from 'typeorm';
import { insertRows } from '../db/insertRows';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { SettingsService } from '../settings/settings.service';
import { Pass } from './pass.entity';
import { PassPart } from './passPart.entity';

/**
 * A pass goes with its frames into another shoot, and back with them: otherwise it would stay with one that nobody sees any more, and could
 * neither be gone on with nor be taken back.
 */
@Injectable()
export class FollowingPasses {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly settings: SettingsService,
    private readonly happenings: Happenings,
  ) {}

  /** After frames have moved between these shoots. Each pass in a transaction of its own; done twice, it is done once. */
  async follow(shootIds: readonly string[]): Promise<void> {
    const its = await this.reading.manager.findBy(PassPart, { shootId: In([...shootIds]) });
    for (const id of new Set(its.map(({ passId }) => passId))) await this.followOne(id);
  }

  private async followOne(id: string): Promise<void> {
    const { frames } = await this.reading.manager.findOneByOrFail(Pass, { id });
    const rows: { id: string; shootId: string }[] = await this.reading.source.query(
      `SELECT f.id, f."shootId" FROM json_each(?) w JOIN frame_here f ON f.id = w.value`,
      [JSON.stringify(frames)],
    );
    const shoots = new Map(rows.map((row) => [row.id, row.shootId]));
    const { rules } = await this.settings.all();
    const { keeper, reject } = standingSql(rules, 'f');
    await this.work.write(async (manager) => {
      // Read here: somebody may be at it.
      const pass = await manager.findOneByOrFail(Pass, { id });
      const parts = await manager.find(PassPart, { where: { passId: id }, order: { ordinal: 'ASC' } });
      const now = regrouped(
        { frames: pass.frames, stretches: parts, seen: placesOfText(pass.seen, pass.total) },
        (frame) => shoots.get(frame),
      );
      if (!now) return;
      const counted: Record<string, { kept: number | null; rejected: number | null }> = {};
      let from = 0;
      for (const { shootId, frames: length } of now.stretches) {
        const [row]: { kept: number | null; rejected: number | null }[] = await manager.query(
          `SELECT SUM(${keeper.where}) AS kept, SUM(${reject.where}) AS rejected
           FROM json_each(?) w JOIN frame_here f ON f.id = w.value`,
          [
            ...[...keeper.parameters, ...reject.parameters],
            JSON.stringify(now.frames.slice(from, (from += length))),
          ],
        );
        counted[shootId] = row!;
      }
      const made = now.stretches.map(({ shootId, frames: length }, ordinal) => ({
        ...{ passId: id, shootId, ordinal, frames: length },
        ...{ kept: counted[shootId]!.kept ?? 0, rejected: counted[shootId]!.rejected ?? 0 },
      }));
      const sum = (key: 'kept' | 'rejected') => made.reduce((all, part) => all + part[key], 0);
      await manager.delete(PassPart, { passId: id });
      await manager.update(
        Pass,
        { id },
        {
          ...{ shootId: made[0]!.shootId, frames: [...now.frames], seen: placesText(now.seen) },
          ...{ arranged: pass.arranged + 1, kept: sum('kept'), rejected: sum('rejected') },
        },
      );
      await insertRows(manager, PassPart, made);
      for (const { shootId } of [...parts, ...made]) this.happenings.after(manager, 'passes', { shootId });
    });
  }
}
