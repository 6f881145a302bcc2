import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  REJECTS_AT_ONCE,
  SPACE_KINDS,
  spaceBy,
  spareCopies,
  type KindBytes,
  type SpaceRow,
  type SpareCopies,
  type SpareRow,
} from '@arkiv/core';
import { BinService } from '../bin/bin.service';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { PreviewStore } from '../previews/previewStore';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';
import { KeptSpace } from './keptSpace.service';

export interface SpaceShoot {
  id: string;
  title: string;
  /** YYYY-MM-DD */
  date: string;
  frames: number;
  /** of all its copies on all drives */
  bytes: number;
}

/** A shoot's copies that could be taken off a drive. */
export interface SpareOf extends SpaceShoot {
  volumeId: string;
  /** the drive's name */
  volume: string;
  online: boolean;
  files: number;
}

export interface SpaceTaken {
  drives: {
    id: string;
    name: string;
    role: 'working' | 'backup' | 'edit';
    online: boolean;
    /** bytes; null: it is away */
    free: number | null;
    total: number | null;
    /** of the archive's copies on it */
    bytes: KindBytes;
  }[];
  years: { year: string; bytes: KindBytes }[];
  all: KindBytes;
  /** bytes of copies that lie with editing, and of finished files in sets */
  handed: number;
  finished: number;
  previews: number;
  /** bytes that previews may take, and how many copies each file should have */
  previewsMost: number;
  required: number;
  /** the largest shoots, and how many there are */
  shoots: SpaceShoot[];
  shootCount: number;
  /** the largest, and what all would free together */
  spare: SpareOf[];
  spareBytes: number;
  spareCount: number;
}

/** Rejects by the studio’s rules of shoots of a day or before it, adopted folders left out. */
export interface OldRejects {
  shoots: number;
  frames: number;
  /** of all their copies on all drives */
  bytes: number;
  /** shoots with rejects that are younger */
  younger: number;
  /** the oldest of them, or those after the one that was asked for, as many as go in one go: `frames` and `bytes` are of their rejects alone */
  oldest: SpaceShoot[];
}

/** Lines of the largest: more than anybody goes through in one sitting; the next ones are there when these are done. */
const SHOWN = 40;

/** What takes how much, and what could go. */
@Injectable()
export class SpaceService {
  private counting: Promise<SpaceTaken> | null = null;

  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly settings: SettingsService,
    private readonly volumes: VolumesService,
    private readonly previews: PreviewStore,
    private readonly bin: BinService,
    private readonly kept: KeptSpace,
  ) {}

  /** Windows that ask while it is counted get one and the same answer. */
  taken(): Promise<SpaceTaken> {
    this.counting ??= this.count().finally(() => (this.counting = null));
    return this.counting;
  }

  private async count(): Promise<SpaceTaken> {
    const { requiredCopies: required, previewGigabytes } = await this.settings.all();
    await this.kept.upToDate();
    const status = (await this.volumes.list()).map(({ volume, online, space }) => ({
      ...{ id: volume.id, name: volume.name, role: volume.role, online },
      ...{ free: space?.free ?? null, total: space?.total ?? null },
    }));
    const by = spaceBy(
      await this.long.rows<SpaceRow>(
        `SELECT p."volumeId" AS "volumeId", substr(s.date, 1, 4) AS year, p.kind, SUM(p.bytes) AS bytes
         FROM space_part p JOIN shoot s ON s.id = p."shootId" WHERE s."mergedInto" IS NULL GROUP BY 1, 2, 3`,
        [],
      ),
    );
    const shoots = await this.long.rows<SpaceShoot>(
      `SELECT s.id, s.title, s.date, s.frames, p.bytes FROM
         (SELECT "shootId", SUM(bytes) AS bytes FROM space_part GROUP BY 1 ORDER BY 2 DESC) p
       JOIN shoot s ON s.id = p."shootId" WHERE s."mergedInto" IS NULL ORDER BY p.bytes DESC LIMIT ${SHOWN}`,
      [],
    );
    // Files of adopted folders are left where they lie, whatever else holds them.
    const spare = spareCopies(
      await this.long.rows<SpareRow>(
        `SELECT p."shootId" AS "shootId", p."volumeId" AS "volumeId", p."spareFiles" AS "spareFiles", p."spareBytes" AS "spareBytes"
         FROM space_part p JOIN shoot s ON s.id = p."shootId" JOIN volume v ON v.id = p."volumeId"
         WHERE p."spareFiles" > 0 AND v.role <> 'edit' AND s."keptIn" IS NULL AND s."mergedInto" IS NULL`,
        [],
      ),
      status,
    );
    const [sums] = await this.long.rows<Pick<SpaceTaken, 'handed' | 'finished' | 'shootCount'>>(
      `SELECT COALESCE(SUM(k.handed), 0) AS handed, COALESCE(SUM(k.finished), 0) AS finished,
         (SELECT COUNT(*) FROM shoot WHERE "mergedInto" IS NULL) AS "shootCount" FROM space_shoot k`,
      [],
    );
    const drive = new Map(status.map((one) => [one.id, one]));
    return {
      drives: status.map((one) => ({ ...one, bytes: by.drives.get(one.id) ?? NOTHING })),
      years: by.years.map(([year, bytes]) => ({ year, bytes })),
      all: by.all,
      ...sums!,
      previews: await this.previews.bytes(),
      previewsMost: previewGigabytes * 1e9,
      ...{ required, shoots },
      spare: await this.named(spare.slice(0, SHOWN), drive),
      spareBytes: spare.reduce((sum, { bytes }) => sum + bytes, 0),
      spareCount: spare.length,
    };
  }

  /**
   * Rejects that could go; `until`: of shoots of that day (YYYY-MM-DD) or before it, undefined: of all; `after`: those that are listed
   * come after this shoot.
   */
  async rejects({ until, after }: { until?: string; after?: string } = {}): Promise<OldRejects> {
    await this.kept.upToDate();
    const withRejects = `FROM shoot s LEFT JOIN space_shoot k ON k."shootId" = s.id
      WHERE s.rejects > 0 AND s."keptIn" IS NULL AND s."mergedInto" IS NULL`;
    // No day of a shoot comes after this one.
    const day = until ?? '9999-12-31';
    const [sums] = await this.long.rows<Omit<OldRejects, 'oldest'>>(
      `SELECT COUNT(*) FILTER (WHERE s.date <= ?) AS shoots, COALESCE(SUM(s.rejects) FILTER (WHERE s.date <= ?), 0) AS frames,
         COALESCE(SUM(k.rejected) FILTER (WHERE s.date <= ?), 0) AS bytes, COUNT(*) FILTER (WHERE s.date > ?) AS younger ${withRejects}`,
      [day, day, day, day],
    );
    const oldest = await this.long.rows<SpaceShoot>(
      `SELECT s.id, s.title, s.date, s.rejects AS frames, COALESCE(k.rejected, 0) AS bytes ${withRejects} AND s.date <= ?
         AND (s.date, s.id) > (SELECT date, id FROM shoot WHERE id = ? UNION ALL SELECT '', '' LIMIT 1)
       ORDER BY s.date, s.id LIMIT ${REJECTS_AT_ONCE}`,
      [day, after ?? ''],
    );
    return { ...sums!, oldest };
  }

  private async named(
    spare: readonly SpareCopies[],
    drive: ReadonlyMap<string, { name: string; online: boolean }>,
  ): Promise<SpareOf[]> {
    const rows: Omit<SpaceShoot, 'bytes'>[] = await this.reading.source.query(
      `SELECT id, title, date, frames FROM shoot WHERE id IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(spare.map(({ shootId }) => shootId))],
    );
    const shoots = new Map(rows.map((shoot) => [shoot.id, shoot]));
    return spare.flatMap(({ shootId, volumeId, files, bytes }) => {
      const [shoot, on] = [shoots.get(shootId), drive.get(volumeId)];
      return shoot && on ? [{ ...shoot, bytes, volumeId, files, volume: on.name, online: on.online }] : [];
    });
  }

  /** Puts the rejects of these shoots into the bin, a job for each. One that cannot be done now is named; the others are done. */
  async binRejects(
    shootIds: readonly string[],
  ): Promise<{ jobIds: string[]; refused: { shoot: string; reason: string }[] }> {
    const jobIds: string[] = [];
    const refused: { shoot: string; reason: string }[] = [];
    for (const shootId of shootIds) {
      try {
        jobIds.push((await this.bin.start({ deed: 'bin', shootId })).jobId);
      } catch (error) {
        if (!(error instanceof ArkivError)) throw error;
        const [shoot]: { title: string }[] = await this.reading.source.query(
          `SELECT title FROM shoot WHERE id = ?`,
          [shootId],
        );
        refused.push({ shoot: shoot?.title ?? shootId, reason: error.message });
      }
    }
    return { jobIds, refused };
  }
}

const NOTHING = Object.fromEntries(SPACE_KINDS.map((kind) => [kind, 0])) as KindBytes;
