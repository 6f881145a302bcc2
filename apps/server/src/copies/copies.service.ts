import { Injectable } from '@nestjs/common';
import { ArkivError, countDevices, UNKNOWN_DEVICE } from '@arkiv/core';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { Shoot } from '../shoots/shoot.entity';
import { Ids } from '../system/ids';
import { SettingsService } from '../settings/settings.service';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { refuseWhileMoving, type CopiesAsked } from './whileMoving';
import type { CopyItem } from './copy.handler';
import type { VerifyParams } from './verify.handler';

interface CopyRow extends CopyItem {
  size: number;
  shootId: string;
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
      `SELECT v.id AS "volumeId", COUNT(c."assetId") AS files, COALESCE(SUM(a.size), 0) AS bytes,
         MIN(c."verifiedAt") AS "verifiedSince",
         (SELECT COUNT(*) FROM asset x JOIN damage d ON d."assetId" = x.id AND d."volumeId" = v.id
          WHERE x."shootId" = ?) AS damaged
       FROM volume v LEFT JOIN (asset a JOIN copy c ON c."assetId" = a.id AND a."shootId" = ?) ON c."volumeId" = v.id
       WHERE v.role <> 'edit' GROUP BY v.id ORDER BY v."addedAt"`,
      [shootId, shootId],
    );
  }

  /** Starts reading every copy that is meant again. */
  async verify(asked: CopiesAsked): Promise<{ jobId: string }> {
    const title = await this.title(asked);
    const total = { files: 0, bytes: 0 };
    const on: string[] = [];
    const away: string[] = [];
    for (const { volume, files, bytes } of await this.held(asked)) {
      if (files === 0) continue;
      if (await this.volumes.isOnline(volume)) {
        on.push(volume.id);
        total.files += files;
        total.bytes += bytes;
      } else away.push(volume.name);
    }
    if (on.length === 0)
      throw new ArkivError('copies.none', {
        reason: away.length > 0 ? `${away.join(', ')} is not there` : 'it holds none yet',
      });
    await refuseWhileMoving(this.reading, this.openJobs, asked);
    const params: VerifyParams = { ...asked, on, away };
    const shootId = asked.shootId ?? null;
    const jobId = this.ids.newId();
    await this.work.write((manager) =>
      this.jobs.create(
        manager,
        { id: jobId, kind: 'verify', title, shootId, params, total, ahead: shootId ?? '' },
        [],
      ),
    );
    this.jobs.start(jobId);
    return { jobId };
  }

  /** What each volume holds of what is meant, damaged copies too. */
  private async held(asked: CopiesAsked): Promise<{ volume: Volume; files: number; bytes: number }[]> {
    const volumes = (await this.volumes.all()).filter(
      ({ id }) => asked.volumeId === undefined || id === asked.volumeId,
    );
    if (asked.shootId === undefined)
      return volumes.map((volume) => ({
        volume,
        files: volume.files + volume.damaged,
        bytes: volume.bytes,
      }));
    const rows: { id: string; files: number; bytes: number }[] = await this.reading.source.query(
      `SELECT p."volumeId" AS id, COUNT(*) AS files, SUM(a.size) AS bytes FROM asset a
       JOIN (SELECT "assetId", "volumeId" FROM copy UNION ALL SELECT "assetId", "volumeId" FROM damage) p
         ON p."assetId" = a.id WHERE a."shootId" = ? GROUP BY 1`,
      [asked.shootId],
    );
    return volumes.map((volume) => {
      const { files, bytes } = rows.find(({ id }) => id === volume.id) ?? { files: 0, bytes: 0 };
      return { volume, files, bytes };
    });
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
    await refuseWhileMoving(this.reading, this.openJobs, asked);
    const jobId = this.ids.newId();
    const shootId = asked.shootId ?? null;
    await this.work.write((manager) =>
      this.jobs.create(
        manager,
        { id: jobId, kind: 'copy', title, shootId, params: asked },
        items.map(({ size, shootId: its, ...data }) => ({ size, name: data.path, shootId: its, data })),
      ),
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

  /** Which copies have to be made where: damaged ones at their place, others on drives that hold none yet. */
  private async missing(asked: CopiesAsked): Promise<{ items: CopyRow[]; nowhere: number }> {
    const { shootId = null, volumeId = null } = asked;
    const { requiredCopies } = await this.settings.all();
    const here: Volume[] = [];
    for (const { volume, online, readOnly } of await this.volumes.list())
      if (online && !readOnly && volume.role !== 'edit') here.push(volume);
    const rows: {
      assetId: string;
      sha256: string;
      size: number;
      shootId: string;
      path: string;
      volumes: string | null;
      damaged: string | null;
    }[] = await this.reading.source.query(
      // Only shoots that miss any are looked through, and what was found damaged: in this order, whatever is guessed.
      `SELECT a.id AS "assetId", a.sha256, a.size, a."shootId", a."at" AS path,
         (SELECT group_concat(c."volumeId") FROM copy c WHERE c."assetId" = a.id AND c."verifiedAt" IS NOT NULL) AS volumes,
         (SELECT group_concat(d."volumeId") FROM damage d WHERE d."assetId" = a.id) AS damaged
       FROM (
         SELECT x.id FROM shoot s CROSS JOIN asset x ON x."shootId" = s.id AND x.devices < ?
         WHERE s."missingCopies" > 0 AND (? IS NULL OR s.id = ?)
         UNION SELECT d."assetId" FROM damage d CROSS JOIN asset x ON x.id = d."assetId" WHERE ? IS NULL OR x."shootId" = ?) m
       CROSS JOIN asset_at a ON a.id = m.id
       WHERE a.sha256 IS NOT NULL AND (? IS NULL
           OR EXISTS (SELECT 1 FROM copy c WHERE c."assetId" = a.id AND c."volumeId" = ?)
           OR EXISTS (SELECT 1 FROM damage d WHERE d."assetId" = a.id AND d."volumeId" = ?))
       ORDER BY a."at"`,
      [requiredCopies, shootId, shootId, shootId, shootId, volumeId, volumeId, volumeId],
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
