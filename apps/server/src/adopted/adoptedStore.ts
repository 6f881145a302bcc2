import { Injectable } from '@nestjs/common';
import { ArkivError, titleOfFolder, type ShootOfFolder } from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Happenings } from '../events/domainEvents';
import { byEnds, MOST_ALIKE } from '../frames/alike';
import { SettingsService } from '../settings/settings.service';
import { livingShoot } from '../shoots/livingShoot';
import { textsApart, Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Ids } from '../system/ids';
import { Adopted, AdoptedShoot } from './adopted.entity';

/** A file of a frame that is known to lie in a folder of a drive. */
export interface KnownInFolder {
  assetId: string;
  frameId: string;
  /** below the drive */
  at: string;
  /** the file's own, whatever lies there */
  size: number;
  /** as seen there last; null: nobody has looked */
  mtime: number | null;
  ends: string | null;
  /** what lies there is not what it should be, or nothing does */
  damaged: boolean;
  /** other drives hold a copy of it */
  elsewhere: boolean;
}

export interface AdoptedCounts {
  shoots: number;
  frames: number;
  /** files that were not read whole yet */
  unread: number;
}

/** The rows of adopted folders and of which shoots they are. The only writer of them. */
@Injectable()
export class AdoptedStore {
  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly shoots: ShootsService,
    private readonly settings: SettingsService,
    private readonly ids: Ids,
    private readonly happenings: Happenings,
  ) {}

  all(): Promise<Adopted[]> {
    return this.reading.manager.find(Adopted, { order: { createdAt: 'ASC', id: 'ASC' } });
  }

  find(id: string): Promise<Adopted | null> {
    return this.reading.manager.findOneBy(Adopted, { id });
  }

  async get(id: string): Promise<Adopted> {
    const adopted = await this.find(id);
    if (!adopted) throw new ArkivError('not-found', { what: 'adopted folder', id });
    return adopted;
  }

  async add(adopted: Adopted): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.insert(Adopted, adopted);
      this.happenings.after(manager, 'adopted', {});
    });
  }

  /** Its shoots and frames stay as they are. */
  async remove(id: string): Promise<void> {
    await this.work.write(async (manager) => {
      await manager.delete(AdoptedShoot, { adoptedId: id });
      await manager.delete(Adopted, { id });
      this.happenings.after(manager, 'adopted', {});
    });
  }

  /** Whether sidecars may be written beside its pictures, from now on. */
  async setSidecars(id: string, sidecars: boolean): Promise<string[]> {
    const shoots = await this.shootsOf(id);
    await this.work.write(async (manager) => {
      await manager.update(Adopted, { id }, { sidecars });
      for (const shootId of shoots) await manager.update(Shoot, { id: shootId }, { sidecars });
      this.happenings.after(manager, 'adopted', {});
    });
    return shoots;
  }

  /** Shoots that it became, where they were not merged into others or taken in as the archive's own. */
  async shootsOf(id: string): Promise<string[]> {
    const rows: { id: string }[] = await this.reading.source.query(
      `SELECT DISTINCT s.id FROM adopted_shoot a JOIN shoot s ON s.id = a."shootId"
       WHERE a."adoptedId" = ? AND s."mergedInto" IS NULL AND s."keptIn" IS NOT NULL ORDER BY s.date, s.id`,
      [id],
    );
    return rows.map((row) => row.id);
  }

  async counts(id: string): Promise<AdoptedCounts> {
    const [row]: [AdoptedCounts] = await this.reading.source.query(
      `SELECT COUNT(*) AS shoots, COALESCE(SUM(s.frames), 0) AS frames,
         COALESCE(SUM((SELECT COUNT(*) FROM asset a WHERE a."shootId" = s.id AND a.sha256 IS NULL)), 0) AS unread
       FROM shoot s WHERE s.frames > 0 AND s."keptIn" IS NOT NULL AND s.id IN (SELECT "shootId" FROM adopted_shoot WHERE "adoptedId" = ?)`,
      [id],
    );
    return row;
  }

  /** The shoot of pictures of a folder; made where there is none yet. `firstDay`: of its first picture, YYYY-MM-DD. */
  async shootFor(
    manager: EntityManager,
    adopted: Adopted,
    its: ShootOfFolder,
    { root, firstDay, zoneMinutes }: { root: string; firstDay: string; zoneMinutes: number },
  ): Promise<string> {
    const known = await manager.findOneBy(AdoptedShoot, { adoptedId: adopted.id, key: its.key });
    const now = known && (await livingShoot(manager, known.shootId));
    // One that is the archive's own has its texts beside its files: nothing that lies here becomes a part of it.
    if (now && now.keptIn !== null) return now.id;
    const { pattern, folders: plan, seqBy } = await this.settings.all();
    const id = this.ids.newId();
    await this.shoots.create(manager, {
      ...{
        id,
        title: titleOfFolder(its, adopted.rule, root),
        date: its.date ?? firstDay,
        client: '',
        place: '',
      },
      ...{ folders: [], plan, pattern, seqBy, nextSeq: 1, zoneMinutes },
      ...{ keptIn: textsApart(id), sidecars: adopted.sidecars },
    });
    await manager.save(AdoptedShoot, { adoptedId: adopted.id, key: its.key, shootId: id });
    return id;
  }

  /** A shoot has frames in these folders too. */
  async extend(manager: EntityManager, shootId: string, folders: readonly string[]): Promise<void> {
    const shoot = await manager.findOneByOrFail(Shoot, { id: shootId });
    const all = [...new Set([...shoot.folders, ...folders])];
    if (all.length !== shoot.folders.length) await manager.update(Shoot, { id: shootId }, { folders: all });
    await this.shoots.listWhereAny(manager, shootId);
  }

  /** What is known of a folder of a drive. */
  async known(volumeId: string, folder: string): Promise<KnownInFolder[]> {
    const rows: (Omit<KnownInFolder, 'damaged' | 'elsewhere'> & { damaged: number; elsewhere: number })[] =
      await this.reading.source.query(
        `SELECT a.id AS "assetId", a."frameId", COALESCE(c.path, d.path, a."at") AS "at", COALESCE(c.size, a.size) AS size,
           c.mtime, a.ends, c."assetId" IS NULL AS damaged,
           EXISTS (SELECT 1 FROM copy o WHERE o."assetId" = a.id AND o."volumeId" <> ?) AS elsewhere
         FROM frame f CROSS JOIN asset_at a ON a."frameId" = f.id
         LEFT JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ?
         LEFT JOIN damage d ON d."assetId" = a.id AND d."volumeId" = ?
         WHERE f.place = ? AND f.state = 'here' AND a.role IN ('original', 'clip', 'note')
           AND (c."assetId" IS NOT NULL OR d."assetId" IS NOT NULL)`,
        [volumeId, volumeId, volumeId, folder],
      );
    return rows.map((row) => ({ ...row, damaged: row.damaged === 1, elsewhere: row.elsewhere === 1 }));
  }

  /** Places in a folder of files that somebody put out of the archive, and that do not come back by themselves. */
  async putAway(volumeId: string, folder: string): Promise<Set<string>> {
    const rows: { path: string }[] = await this.reading.source.query(
      `SELECT c.path FROM frame f JOIN binned_copy c ON c."frameId" = f.id AND c."volumeId" = ?
       WHERE f.place = ? AND f.state IN ('binned', 'forgotten')`,
      [volumeId, folder],
    );
    return new Set(rows.map((row) => row.path));
  }

  /** Files that are known on a drive and are as these by length and both ends, some of each; by their ends. */
  async alike(volumeId: string, ends: readonly string[]): Promise<Map<string, KnownInFolder[]>> {
    const rows: (KnownInFolder & { ends: string })[] = await this.reading.source.query(
      `SELECT a.id AS "assetId", a."frameId", COALESCE(c.path, d.path, a."at") AS "at", a.size, c.mtime, a.ends
       FROM json_each(?) m CROSS JOIN asset_at a ON a.picture = m.value JOIN frame_here f ON f.id = a."frameId"
       LEFT JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ?
       LEFT JOIN damage d ON d."assetId" = a.id AND d."volumeId" = ?
       WHERE a.picture IS NOT NULL AND a.ends = a.picture AND (c."assetId" IS NOT NULL OR d."assetId" IS NOT NULL)
       ORDER BY a.id LIMIT ?`,
      [JSON.stringify(ends), volumeId, volumeId, MOST_ALIKE * ends.length],
    );
    return byEnds(rows.map((row) => ({ ...row, damaged: false, elsewhere: false })));
  }

  /** All files of a frame that are known on a drive. */
  async filesOf(volumeId: string, frameId: string): Promise<KnownInFolder[]> {
    const rows: KnownInFolder[] = await this.reading.source.query(
      `SELECT a.id AS "assetId", a."frameId", COALESCE(c.path, d.path, a."at") AS "at", a.size, c.mtime, a.ends
       FROM asset_at a LEFT JOIN copy c ON c."assetId" = a.id AND c."volumeId" = ?
       LEFT JOIN damage d ON d."assetId" = a.id AND d."volumeId" = ?
       WHERE a."frameId" = ? AND a.role IN ('original', 'clip', 'note')
         AND (c."assetId" IS NOT NULL OR d."assetId" IS NOT NULL)`,
      [volumeId, volumeId, frameId],
    );
    return rows.map((row) => ({ ...row, damaged: false, elsewhere: false }));
  }

  /** Folders of a drive, at a place and below, in which files are known to lie. */
  async knownFolders(volumeId: string, adoptedId: string): Promise<string[]> {
    const rows: { place: string }[] = await this.reading.source.query(
      `SELECT DISTINCT f.place FROM adopted_shoot s JOIN frame_here f ON f."shootId" = s."shootId"
       JOIN shoot_volume v ON v."shootId" = f."shootId" AND v."volumeId" = ? WHERE s."adoptedId" = ?`,
      [volumeId, adoptedId],
    );
    return rows.map(({ place }) => place);
  }
}
