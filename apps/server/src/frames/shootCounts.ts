import { Injectable } from '@nestjs/common';
import { standingOf, standingSql, type KeeperRules } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Happenings } from '../events/domainEvents';
import { SettingsService } from '../settings/settings.service';
import type { Frame } from './frame.entity';
import { queryFrame } from './queryFrame';

/** What the kept numbers of a shoot are counted by. */
interface Basis {
  rules: KeeperRules;
  required: number;
  /** the same in one text, which is kept with each shoot's numbers */
  text: string;
}

/** By how much a shoot's kept numbers change. */
export interface CountChange {
  frames?: number;
  keepers?: number;
  rejects?: number;
  files?: number;
  missingCopies?: number;
}

/** What a frame is counted by, and where. */
type Stood = Pick<Frame, 'state' | 'shootId'> & Parameters<typeof queryFrame>[0];

/**
 * The kept numbers of shoots: changed in the same transaction as what they count. Where the studio's rules have changed
 * since, a shoot is counted anew.
 */
@Injectable()
export class ShootCounts {
  private known: Promise<Basis> | null = null;

  constructor(
    private readonly settings: SettingsService,
    happenings: Happenings,
  ) {
    happenings.on('settings', () => (this.known = null));
  }

  /** What is counted by now. Writes go one after the other: within one, it does not change. */
  basis(): Promise<Basis> {
    this.known ??= this.settings.all().then(({ rules, requiredCopies: required }) => ({
      rules,
      required,
      text: JSON.stringify([rules.keeper, rules.reject, required]),
    }));
    return this.known;
  }

  /** A frame was one thing and is another; null: not there, before or after. */
  frame(manager: EntityManager, before: Stood | null, after: Stood | null): Promise<void> {
    return this.frames(manager, [[before, after]]);
  }

  /** Each of these frames was one thing and is another. */
  async frames(
    manager: EntityManager,
    changed: readonly (readonly [before: Stood | null, after: Stood | null])[],
  ): Promise<void> {
    const { rules } = await this.basis();
    const changes = new Map<string, Required<Pick<CountChange, 'frames' | 'keepers' | 'rejects'>>>();
    const count = (frame: Stood | null, by: 1 | -1): void => {
      if (frame?.state !== 'here') return;
      const standing = standingOf(rules, queryFrame(frame));
      const change = changes.get(frame.shootId) ?? { frames: 0, keepers: 0, rejects: 0 };
      change.frames += by;
      if (standing === 'keeper') change.keepers += by;
      if (standing === 'reject') change.rejects += by;
      changes.set(frame.shootId, change);
    };
    for (const [before, after] of changed) {
      count(before, -1);
      count(after, 1);
    }
    for (const [shootId, change] of changes) await this.change(manager, shootId, change);
  }

  async change(manager: EntityManager, shootId: string, change: CountChange): Promise<void> {
    const { frames = 0, keepers = 0, rejects = 0, files = 0, missingCopies = 0 } = change;
    const by = [frames, keepers, rejects, files, missingCopies];
    if (by.every((n) => n === 0)) return;
    await manager.query(
      `UPDATE shoot SET frames = frames + ?, keepers = keepers + ?, rejects = rejects + ?, files = files + ?,
         "missingCopies" = "missingCopies" + ? WHERE id = ?`,
      [...by, shootId],
    );
  }

  /** A shoot's numbers from its rows, as of one moment. */
  async counted(manager: EntityManager, shootId: string): Promise<Required<CountChange>> {
    const { rules, required } = await this.basis();
    const { keeper, reject } = standingSql(rules, 'f');
    const [row]: [Required<CountChange>] = await manager.query(
      `SELECT f.*, a.* FROM
         (SELECT COUNT(*) AS frames, COALESCE(SUM(${keeper.where}), 0) AS keepers, COALESCE(SUM(${reject.where}), 0) AS rejects
          FROM frame_here f WHERE f."shootId" = ?) f,
         (SELECT COUNT(*) AS files, COALESCE(SUM(devices < ?), 0) AS "missingCopies" FROM asset WHERE "shootId" = ?) a`,
      [...keeper.parameters, ...reject.parameters, shootId, required, shootId],
    );
    return row;
  }
}
