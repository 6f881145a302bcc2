import { Injectable } from '@nestjs/common';
import { ArkivError, countDevices, UNKNOWN_DEVICE } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { Shoot } from '../shoots/shoot.entity';
import { Ids } from '../system/ids';
import { SettingsService } from '../system/settings.service';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { refuseWhileMoving } from './whileMoving';
import type { CopyItem } from './copy.handler';
import type { VerifyItem, VerifyParams } from './verify.handler';

/** Which copies are meant: those of one shoot, those on one volume, or both; of the whole archive without either. */
export interface CopiesAsked {
  shootId?: string;
  volumeId?: string;
}

interface CopyRow extends VerifyItem {
  size: number;
}

/** What “copy now” would do, before it is done. */
export interface CopyPlan {
  files: number;
  bytes: number;
  /** where they go */
  volumes: string[];
  /** files that no drive which is here can take */
  nowhere: number;
}

/** A shoot's copies on one volume. */
export interface KeptOn {
  volumeId: string;
  files: number;
  bytes: number;
  damaged: number;
  verifiedSince: number | null;
}

@Injectable()
export class CopiesService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly volumes: VolumesService,
    private readonly settings: SettingsService,
    private readonly ids: Ids,
  ) {}

  async kept(shootId: string): Promise<KeptOn[]> {
    return this.reading.source.query(
      `SELECT v.id AS "volumeId", COUNT(c.id) AS files, COALESCE(SUM(a.size), 0) AS bytes, MIN(c."verifiedAt") AS "verifiedSince",
         (SELECT COUNT(*) FROM damage d JOIN asset x ON x.id = d."assetId" WHERE d."volumeId" = v.id AND x."shootId" = ?) AS damaged
       FROM volume v LEFT JOIN (copy c JOIN asset a ON a.id = c."assetId" AND a."shootId" = ?) ON c."volumeId" = v.id
       WHERE v.role <> 'edit' GROUP BY v.id ORDER BY v."addedAt"`,
      [shootId, shootId],
    );
  }

  /** Starts reading every copy that is meant again. */
  async verify(asked: CopiesAsked): Promise<{ jobId: string }> {
    const title = await this.title(asked);
    const rows = await this.copies(asked);
    const here = new Map<string, boolean>();
    const away = new Set<string>();
    for (const { volumeId } of rows) {
      if (here.has(volumeId)) continue;
      const volume = await this.volumes.get(volumeId);
      here.set(volumeId, await this.volumes.isOnline(volume));
      if (!here.get(volumeId)) away.add(volume.name);
    }
    const readable = rows.filter((row) => here.get(row.volumeId));
    if (readable.length === 0)
      throw new ArkivError('copies.none', {
        reason: away.size > 0 ? `${[...away].join(', ')} is not there` : 'it holds none yet',
      });
    const params: VerifyParams = { away: [...away] };
    return this.create('verify', title, asked.shootId ?? null, params, readable);
  }

  async plan(asked: CopiesAsked): Promise<CopyPlan> {
    const { items, nowhere } = await this.missing(asked);
    const names = new Set<string>();
    for (const id of new Set(items.map((item) => item.volumeId)))
      names.add((await this.volumes.get(id)).name);
    return {
      files: items.length,
      bytes: items.reduce((sum, item) => sum + item.size, 0),
      volumes: [...names],
      nowhere,
    };
  }

  /** Starts making the copies that are missing, and those anew that were found damaged. */
  async copyNow(asked: CopiesAsked): Promise<{ jobId: string }> {
    const title = await this.title(asked);
    const { items, nowhere } = await this.missing(asked);
    if (items.length === 0)
      throw new ArkivError('copies.none', {
        reason: nowhere > 0 ? `no further drive is here for ${nowhere} files` : 'nothing is missing',
      });
    const bytes = new Map<string, number>();
    for (const { volumeId, size } of items) bytes.set(volumeId, (bytes.get(volumeId) ?? 0) + size);
    for (const [id, sum] of bytes) {
      const volume = await this.volumes.get(id);
      const { free } = await this.disk.space(volume.root);
      if (free < sum + SPARE_BYTES)
        throw new ArkivError('volume.full', {
          volume: volume.name,
          needed: sum + SPARE_BYTES,
          free,
          file: '',
        });
    }
    return this.create('copy', title, asked.shootId ?? null, {}, items);
  }

  private async create(
    kind: 'verify' | 'copy',
    title: string,
    shootId: string | null,
    params: object,
    rows: readonly (CopyItem & { size: number })[],
  ): Promise<{ jobId: string }> {
    await refuseWhileMoving(
      this.reading,
      this.openJobs,
      rows.map((row) => row.assetId),
    );
    const jobId = this.ids.newId();
    const items = rows.map(({ size, ...data }) => ({ size, data }));
    await this.work.write((manager) =>
      this.jobs.create(manager, { id: jobId, kind, title, shootId, params }, items),
    );
    this.jobs.start(jobId);
    return { jobId };
  }

  private async title({ shootId, volumeId }: CopiesAsked): Promise<string> {
    if (volumeId !== undefined) return (await this.volumes.get(volumeId)).name;
    if (shootId === undefined) return 'All shoots';
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: shootId });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id: shootId });
    return shoot.title;
  }

  /** Copies that are meant, damaged ones too: those may prove good after all. In the order in which drives hold them. */
  private copies({
    shootId = null,
    volumeId = null,
  }: {
    shootId?: string | null;
    volumeId?: string | null;
  }): Promise<CopyRow[]> {
    return this.reading.source.query(
      `SELECT p.path, p."volumeId", p."assetId", a.sha256, a.size FROM (
         SELECT path, "volumeId", "assetId" FROM copy UNION SELECT path, "volumeId", "assetId" FROM damage) p
       JOIN asset a ON a.id = p."assetId"
       WHERE (? IS NULL OR a."shootId" = ?) AND (? IS NULL OR p."volumeId" = ?) ORDER BY p.path, p."volumeId"`,
      [shootId, shootId, volumeId, volumeId],
    );
  }

  /** Which copies have to be made where: damaged ones at their place, others on drives that hold none yet. */
  private async missing(asked: CopiesAsked): Promise<{ items: CopyRow[]; nowhere: number }> {
    const { requiredCopies } = await this.settings.all();
    const here: Volume[] = [];
    for (const { volume, online, readOnly } of await this.volumes.list())
      if (online && !readOnly && volume.role !== 'edit') here.push(volume);
    const rows: {
      assetId: string;
      sha256: string;
      size: number;
      path: string;
      volumes: string | null;
      damaged: string | null;
    }[] = await this.reading.source.query(
      `SELECT a.id AS "assetId", a.sha256, a.size, a.path,
           (SELECT group_concat(DISTINCT c."volumeId") FROM copy c WHERE c."assetId" = a.id) AS volumes,
           (SELECT group_concat(DISTINCT d."volumeId") FROM damage d WHERE d."assetId" = a.id) AS damaged
         FROM asset a WHERE (? IS NULL OR a."shootId" = ?)
           AND (? IS NULL OR EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id AND c."volumeId" = ?)
                          OR EXISTS (SELECT 1 FROM damage d WHERE d."assetId" = a.id AND d."volumeId" = ?))
         ORDER BY a.path`,
      [
        asked.shootId ?? null,
        asked.shootId ?? null,
        asked.volumeId ?? null,
        asked.volumeId ?? null,
        asked.volumeId ?? null,
      ],
    );
    const device = new Map((await this.volumes.all()).map((v) => [v.id, v.device]));
    const items: CopyRow[] = [];
    let nowhere = 0;
    for (const { volumes, damaged, ...asset } of rows) {
      const has = volumes?.split(',') ?? [];
      const devices = new Set(has.map((id) => device.get(id) ?? UNKNOWN_DEVICE));
      const broken = new Set(damaged?.split(',') ?? []);
      const chosen = here.filter((v) => broken.has(v.id));
      for (const volume of chosen) devices.add(volume.device);
      for (const volume of here) {
        if (countDevices(devices) >= requiredCopies) break;
        // A drive that may be the same disk as another brings no copy more.
        const more = new Set(devices).add(volume.device);
        if (countDevices(more) === countDevices(devices)) continue;
        devices.add(volume.device);
        chosen.push(volume);
      }
      if (countDevices(devices) < requiredCopies) nowhere += 1;
      if (has.length > 0) items.push(...chosen.map((volume) => ({ ...asset, volumeId: volume.id })));
    }
    return { items, nowhere };
  }
}
