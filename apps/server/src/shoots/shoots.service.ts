import { Injectable } from '@nestjs/common';
import { ArkivError, pictureOrder, toSql, type ClockCorrection, type KeeperRules } from '@arkiv/core';
import { Subject } from 'rxjs';
import { IsNull, type EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { EventsService } from '../events/events.service';
import { FramesService, type FrameColumns } from '../frames/frames.service';
import { SettingsService } from '../system/settings.service';
import { DEVICES, VolumesService } from '../volumes/volumes.service';
import { Shoot } from './shoot.entity';
import { ShootTextsService } from './shootTexts.service';

export interface ShootCounts {
  frames: number;
  keepers: number;
  rejects: number;
}

/** How the shoot's files are kept. */
export interface ShootCopies {
  files: number;
  /** files with fewer verified copies on distinct devices than the studio asks for */
  missingCopies: number;
}

/** What was done with the shoot's keepers, counted in finished jobs. */
export interface ShootSteps {
  handoffs: number;
  deliveries: number;
}

export interface ShootSummary extends ShootCounts, ShootCopies, ShootSteps {
  shoot: Shoot;
  /** SHA-256 of the pictures of up to six frames that stand for the shoot */
  leads: string[];
}

@Injectable()
export class ShootsService {
  private readonly kept = new Map<string, { state: string; seen: ShootCounts & { leads: string[] } }>();
  private keptFiled: {
    required: number;
    filed: Promise<[Map<string, ShootCopies>, Map<string, ShootSteps>]>;
  } | null = null;

  /** ids of shoots whose frames a window has asked for */
  readonly opened = new Subject<string>();

  constructor(
    private readonly reading: Reading,
    private readonly frames: FramesService,
    private readonly settings: SettingsService,
    private readonly work: UnitOfWork,
    private readonly volumes: VolumesService,
    private readonly texts: ShootTextsService,
    private readonly events: EventsService,
  ) {
    events.stream.subscribe(({ type }) => {
      if (type === 'job' || type === 'frames' || type === 'volumes') this.keptFiled = null;
    });
  }

  async get(id: string): Promise<Shoot> {
    const shoot = await this.reading.manager.findOneBy(Shoot, { id });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id });
    return shoot;
  }

  async list(): Promise<ShootSummary[]> {
    return this.summaries(
      await this.reading.manager.find(Shoot, {
        where: { mergedInto: IsNull() },
        order: { date: 'DESC', createdAt: 'DESC' },
      }),
    );
  }

  async summary(shoot: Shoot): Promise<ShootSummary> {
    return (await this.summaries([shoot]))[0]!;
  }

  private async summaries(shoots: readonly Shoot[]): Promise<ShootSummary[]> {
    const { rules, requiredCopies } = await this.settings.all();
    const only = shoots.length === 1 ? shoots[0]!.id : null;
    const [copies, steps] = await this.filed(requiredCopies, only);
    return Promise.all(
      shoots.map(async (shoot) => ({
        shoot,
        ...(await this.seen(shoot, rules)),
        ...(copies.get(shoot.id) ?? { files: 0, missingCopies: 0 }),
        ...(steps.get(shoot.id) ?? { handoffs: 0, deliveries: 0 }),
      })),
    );
  }

  /** Counts and leads; they change only with the shoot's revision and the studio's rules, and are kept till then. */
  private async seen(shoot: Shoot, rules: KeeperRules): Promise<ShootCounts & { leads: string[] }> {
    const state = `${shoot.revision} ${JSON.stringify(rules)}`;
    const kept = this.kept.get(shoot.id);
    if (kept?.state === state) return kept.seen;
    const seen = { ...(await this.counts(shoot, rules)), leads: await this.leads(shoot.id) };
    this.kept.set(shoot.id, { state, seen });
    return seen;
  }

  /** Copies and steps of one shoot, or of all; of all they are kept until a job or a volume changes something. */
  private async filed(
    required: number,
    only: string | null,
  ): Promise<[Map<string, ShootCopies>, Map<string, ShootSteps>]> {
    if (only !== null) return Promise.all([this.copies(required, only), this.steps(only)]);
    if (this.keptFiled?.required !== required)
      this.keptFiled = { required, filed: Promise.all([this.copies(required, null), this.steps(null)]) };
    return this.keptFiled.filed;
  }

  /** By shoot, for one or for all. Volumes on one device count as one copy. */
  private async copies(required: number, shootId: string | null): Promise<Map<string, ShootCopies>> {
    const rows: ({ id: string } & ShootCopies)[] = await this.reading.source.query(
      `SELECT id, COUNT(*) AS files, SUM(devices < ?) AS "missingCopies" FROM (
         SELECT a."shootId" AS id, ${DEVICES} AS devices FROM asset a
         LEFT JOIN copy c ON c."assetId" = a.id LEFT JOIN volume v ON v.id = c."volumeId" AND v.role <> 'edit'
         WHERE ? IS NULL OR a."shootId" = ? GROUP BY a.id)
       GROUP BY id`,
      [required, shootId, shootId],
    );
    return new Map(rows.map(({ id, files, missingCopies }) => [id, { files, missingCopies }]));
  }

  private async steps(shootId: string | null): Promise<Map<string, ShootSteps>> {
    const rows: ({ id: string } & ShootSteps)[] = await this.reading.source.query(
      `SELECT "shootId" AS id, SUM(kind = 'handoff') AS handoffs, SUM(kind = 'delivery') AS deliveries
       FROM job WHERE state = 'done' AND "shootId" IS NOT NULL AND (? IS NULL OR "shootId" = ?) GROUP BY "shootId"`,
      [shootId, shootId],
    );
    return new Map(rows.map(({ id, handoffs, deliveries }) => [id, { handoffs, deliveries }]));
  }

  private async counts(shoot: Shoot, rules: KeeperRules): Promise<ShootCounts> {
    const keeper = toSql(rules.keeper);
    const reject = toSql(rules.reject);
    const [row]: ShootCounts[] = await this.reading.source.query(
      `SELECT COUNT(*) AS frames, COALESCE(SUM(${keeper.where}), 0) AS keepers, COALESCE(SUM(${reject.where}), 0) AS rejects
       FROM frame f WHERE f."shootId" = ? AND f.state = 'here'`,
      [...keeper.parameters, ...reject.parameters, shoot.id],
    );
    return row!;
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

  /**
   * Corrects the clocks of bodies after their frames are here: the frames' order changes, the camera's own times and
   * the files' names do not. Bodies that are not named keep theirs.
   */
  async correctClocks(id: string, corrections: readonly ClockCorrection[]): Promise<void> {
    const shoot = await this.get(id);
    await this.work.write(async (manager) => {
      for (const { body, millis } of corrections)
        await manager.query(
          `UPDATE frame SET instant = instant - "correctionMillis" + ?, "correctionMillis" = ?, "sidecarDue" = "sidecarDue" + 1
           WHERE "shootId" = ? AND body = ? AND local IS NOT NULL AND "correctionMillis" <> ?`,
          [millis, millis, shoot.id, body, millis],
        );
      await this.touch(manager, shoot.id);
    });
    const { revision } = await this.get(id);
    this.events.publish('frames', { shootId: id, revision });
    await this.texts.writeAll(shoot, await this.volumes.all(), 'clocks');
  }

  /** Six pictures spread over the shoot: the best marked of each sixth, so that the strip tells its course. */
  private async leads(shootId: string): Promise<string[]> {
    const rows: { picture: string }[] = await this.reading.source.query(
      `WITH six AS (
         SELECT f.id, NTILE(6) OVER (ORDER BY f.instant, f.name) AS part,
           (f.verdict = 'keep') * 10 + f.stars - (f.verdict = 'reject') * 20 AS merit, f.instant, f.name,
           (SELECT sha256 FROM asset a WHERE a."frameId" = f.id AND a.role = 'original' ORDER BY ${pictureOrder('a')}, a.path LIMIT 1) AS picture
         FROM frame f WHERE f."shootId" = ? AND f.state = 'here'),
       best AS (SELECT picture, part, ROW_NUMBER() OVER (PARTITION BY part ORDER BY merit DESC, instant, name) AS place
         FROM six WHERE picture IS NOT NULL)
       SELECT picture FROM best WHERE place = 1 ORDER BY part`,
      [shootId],
    );
    return rows.map((row) => row.picture);
  }
}
