import { Injectable } from '@nestjs/common';
import { ArkivError } from '@arkiv/core';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import { Shoot } from '../shoots/shoot.entity';
import { Ids } from '../system/ids';
import { SPARE_BYTES, VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { MissingCopies } from './missingCopies.service';
import { PreviewsAlong } from './previewsAlong.service';
import { refuseWhileMoving, type CopiesAsked } from './whileMoving';
import type { VerifyParams } from './verify.handler';

/** What “copy now” would do, before it is done. */
export interface CopyPlan {
  files: number;
  bytes: number;
  /** where they go */
  volumes: string[];
  /** files that no drive which is here can take */
  nowhere: number;
  /** frames of which previews alone go there */
  previews: number;
}

/** A shoot's copies on one volume. */
export interface KeptOn {
  volumeId: string;
  files: number;
  bytes: number;
  damaged: number;
  verifiedSince: number | null;
}

/** Priority of what nobody waits for. */
export const LAST = -1;

@Injectable()
export class CopiesService {
  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly volumes: VolumesService,
    private readonly missing: MissingCopies,
    private readonly along: PreviewsAlong,
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
    const job = { id: jobId, kind: 'verify' as const, title, shootId, params, total, ahead: shootId ?? '' };
    await this.jobs.begin([{ job, items: [] }]);
    return { jobId };
  }

  /** Starts reading what was found on a drive and never read since, after everything else. False: there is nothing, or it is being read. */
  async readFirst(volume: Volume): Promise<boolean> {
    const open = await this.openJobs.ofKind('verify');
    if (open.some(({ params }) => (params as VerifyParams).on?.includes(volume.id))) return false;
    const [total]: [{ files: number; bytes: number }] = await this.reading.source.query(
      `SELECT COUNT(*) AS files, COALESCE(SUM(a.size), 0) AS bytes FROM copy c JOIN asset a ON a.id = c."assetId"
       WHERE c."volumeId" = ? AND c."verifiedAt" IS NULL`,
      [volume.id],
    );
    if (total.files === 0) return false;
    const params: VerifyParams = { volumeId: volume.id, on: [volume.id], away: [], unread: true };
    const id = this.ids.newId();
    const job = { id, kind: 'verify' as const, title: volume.name, shootId: null, params, total, ahead: '' };
    await this.jobs.begin([{ job: { ...job, priority: LAST }, items: [] }]);
    return true;
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
    await this.checkTarget(asked);
    const { copies, nowhere } = await this.missing.all(asked);
    const names = new Set<string>();
    for (const id of new Set(copies.map((copy) => copy.volumeId)))
      names.add((await this.volumes.get(id)).name);
    return {
      files: copies.length,
      bytes: copies.reduce((sum, copy) => sum + copy.size, 0),
      volumes: [...names],
      nowhere,
      previews: (await this.previews(asked, copies.length)).files,
    };
  }

  /** Starts making the copies that are missing, and those anew that were found damaged. */
  async copyNow(asked: CopiesAsked): Promise<{ jobId: string }> {
    const title = await this.title(asked);
    await this.checkTarget(asked);
    const { copies, nowhere } = await this.missing.all(asked);
    const previews = await this.previews(asked, copies.length);
    if (copies.length === 0 && previews.files === 0)
      throw new ArkivError('copies.none', {
        reason: nowhere > 0 ? `no further drive is here for ${nowhere} files` : 'nothing is missing',
      });
    const bytes = new Map<string, number>();
    for (const { volumeId, size } of copies) bytes.set(volumeId, (bytes.get(volumeId) ?? 0) + size);
    if (asked.to !== undefined) bytes.set(asked.to, (bytes.get(asked.to) ?? 0) + previews.bytes);
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
    const total = {
      files: copies.length + previews.files,
      bytes: copies.reduce((sum, { size }) => sum + size, previews.bytes),
    };
    const job = {
      id: jobId,
      kind: 'copy' as const,
      title,
      shootId,
      params: asked,
      total,
      ahead: shootId ?? '',
    };
    await this.jobs.begin([{ job, items: [] }]);
    return { jobId };
  }

  /** Frames of which previews alone go to a drive: those of a shoot of which a file is there, or comes, as what is said of it is. */
  private async previews(asked: CopiesAsked, copies: number): Promise<{ files: number; bytes: number }> {
    const on = asked.shootId === undefined ? [] : await this.kept(asked.shootId);
    if (copies === 0 && !on.some(({ volumeId, files }) => volumeId === asked.to && files > 0))
      return { files: 0, bytes: 0 };
    return this.along.total(asked);
  }

  /** Refuses a drive that cannot take a shoot: one that is away, read only, or for editing, where copies are no archive's. */
  private async checkTarget({ shootId, to }: CopiesAsked): Promise<void> {
    if (to === undefined) return;
    const refuse = (reason: string) => new ArkivError('copies.none', { reason });
    if (shootId === undefined) throw refuse('no shoot is named that is to go there');
    const known = (await this.volumes.list()).find(({ volume }) => volume.id === to);
    if (!known) throw new ArkivError('not-found', { what: 'drive', id: to });
    if (!known.online) throw refuse(`“${known.volume.name}” is not there`);
    if (known.readOnly) throw refuse(`“${known.volume.name}” can only be read`);
    if (known.volume.role === 'edit')
      throw refuse(`“${known.volume.name}” is for editing: hand-off goes there`);
  }

  private async title({ shootId, volumeId }: CopiesAsked): Promise<string> {
    if (volumeId !== undefined) return (await this.volumes.get(volumeId)).name;
    if (shootId === undefined) return 'All shoots';
    const shoot = await this.reading.manager.findOneBy(Shoot, { id: shootId });
    if (!shoot) throw new ArkivError('not-found', { what: 'shoot', id: shootId });
    return shoot.title;
  }
}
