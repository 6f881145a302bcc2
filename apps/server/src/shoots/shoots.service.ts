import { Injectable } from '@nestjs/common';
import { ArkivError, toSql } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { FramesService, type FrameColumns } from '../frames/frames.service';
import { SettingsService } from '../system/settings.service';
import { Shoot } from './shoot.entity';

export interface ShootCounts {
  frames: number;
  keepers: number;
  rejects: number;
}

export interface ShootSummary extends ShootCounts {
  shoot: Shoot;
  /** SHA-256 of the pictures of up to six frames that stand for the shoot */
  leads: string[];
}

@Injectable()
export class ShootsService {
  constructor(
    private readonly reading: Reading,
    private readonly frames: FramesService,
    private readonly settings: SettingsService,
  ) {}

  async get(id: string): Promise<Shoot> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  async list(): Promise<ShootSummary[]> {
    const shoots = await this.reading.manager.find(Shoot, { order: { date: 'DESC', createdAt: 'DESC' } });
    return Promise.all(shoots.map((shoot) => this.summary(shoot)));
  }

  async summary(shoot: Shoot): Promise<ShootSummary> {
    const { rules } = await this.settings.all();
    const keeper = toSql(rules.keeper);
    const reject = toSql(rules.reject);
    const [row]: ShootCounts[] = await this.reading.source.query(
      `SELECT COUNT(*) AS frames, COALESCE(SUM(${keeper.where}), 0) AS keepers, COALESCE(SUM(${reject.where}), 0) AS rejects
       FROM frame f WHERE f."shootId" = ? AND f.state = 'here'`,
      [...keeper.parameters, ...reject.parameters, shoot.id],
    );
    return { shoot, ...row!, leads: await this.leads(shoot.id) };
  }

  async columns(id: string): Promise<FrameColumns> {
    const shoot = await this.get(id);
    return this.frames.columns(id, shoot.revision);
  }

  /** Counts a change; every change that windows must learn of goes through here, in the change's transaction. */
  async touch(manager: EntityManager, id: string): Promise<number> {
    await manager.increment(Shoot, { id }, 'revision', 1);
    return (await manager.findOneByOrFail(Shoot, { id })).revision;
  }

  /** Six pictures spread over the shoot: the best marked of each sixth, so that the strip tells its course. */
  private async leads(shootId: string): Promise<string[]> {
    const rows: { picture: string }[] = await this.reading.source.query(
      `WITH six AS (
         SELECT f.id, NTILE(6) OVER (ORDER BY f.instant, f.name) AS part,
           (f.verdict = 'keep') * 10 + f.stars - (f.verdict = 'reject') * 20 AS merit, f.instant, f.name,
           (SELECT sha256 FROM asset a WHERE a."frameId" = f.id AND a.role IN ('jpeg', 'raw') ORDER BY a.role LIMIT 1) AS picture
         FROM frame f WHERE f."shootId" = ? AND f.state = 'here'),
       best AS (SELECT picture, part, ROW_NUMBER() OVER (PARTITION BY part ORDER BY merit DESC, instant, name) AS place
         FROM six WHERE picture IS NOT NULL)
       SELECT picture FROM best WHERE place = 1 ORDER BY part`,
      [shootId],
    );
    return rows.map((row) => row.picture);
  }
}
