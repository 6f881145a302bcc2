import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  SPACE_KINDS,
  spaceBy,
  spareCopies,
  standingSql,
  sumOf,
  type KindBytes,
  type SpaceRow,
} from '@arkiv/core';
import { BinService } from '../bin/bin.service';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { PreviewStore } from '../previews/previewStore';
import { SettingsService } from '../settings/settings.service';
import { VolumesService } from '../volumes/volumes.service';

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
  /** shoots with rejects by the studio's rules, adopted folders left out: `frames` and `bytes` are of these alone; the oldest first */
  rejects: SpaceShoot[];
  /** the largest, and what all would free together */
  spare: SpareOf[];
  spareBytes: number;
  spareCount: number;
}

/** Files that are counted in one go: a few tens of milliseconds, so that a shoot that is opened meanwhile does not wait long for its turn. */
const CHUNK_FILES = 20_000;
/** Lines of the largest: more than anybody goes through in one sitting; the next ones are there when these are done. */
const SHOWN = 40;

interface ShootRow {
  id: string;
  title: string;
  date: string;
  frames: number;
  rejects: number;
  files: number;
}

/** What takes how much, and what could go. Counted when it is asked for: nothing of it is kept. */
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
  ) {}

  /** Windows that ask while it is counted get one and the same answer. */
  taken(): Promise<SpaceTaken> {
    this.counting ??= this.count().finally(() => (this.counting = null));
    return this.counting;
  }

  private async count(): Promise<SpaceTaken> {
    const { rules, requiredCopies: required, previewGigabytes } = await this.settings.all();
    const shoots: ShootRow[] = await this.reading.source.query(
      `SELECT id, title, date, frames, CASE WHEN "keptIn" IS NULL THEN rejects ELSE 0 END AS rejects, files FROM shoot WHERE "mergedInto" IS NULL ORDER BY date, id`,
    );
    const rows: SpaceRow[] = [];
    const rejected = new Map<string, number>();
    const { reject } = standingSql(rules, 'f');
    for (const chunk of chunksOf(shoots)) {
      const ids = JSON.stringify(chunk.map(({ id }) => id));
      rows.push(...(await this.long.rows<SpaceRow>(COPIES, [required, required, ids])));
      const some = await this.long.rows<{ shootId: string; bytes: number }>(
        `SELECT f."shootId" AS "shootId", SUM(${SIZE}) AS bytes FROM json_each(?) j
         JOIN frame_here f ON f."shootId" = j.value JOIN asset a ON a."frameId" = f.id JOIN copy c ON c."assetId" = a.id
         WHERE ${reject.where} GROUP BY 1`,
        [JSON.stringify(chunk.flatMap(({ id, rejects }) => (rejects > 0 ? [id] : []))), ...reject.parameters],
      );
      for (const { shootId, bytes } of some) rejected.set(shootId, bytes);
    }
    const known = new Map(shoots.map((shoot) => [shoot.id, shoot]));
    const status = (await this.volumes.list()).map(({ volume, online, space }) => ({
      ...{ id: volume.id, name: volume.name, role: volume.role, online },
      ...{ free: space?.free ?? null, total: space?.total ?? null },
    }));
    const by = spaceBy(rows, (id) => known.get(id)!.date.slice(0, 4));
    const shootOf = (id: string, bytes: number): SpaceShoot => {
      const { title, date, frames } = known.get(id)!;
      return { id, title, date, frames, bytes };
    };
    const spare = spareCopies(rows, status);
    const drive = new Map(status.map((one) => [one.id, one]));
    const largest = [...by.shoots].map(([id, bytes]) => shootOf(id, sumOf(bytes)));
    return {
      drives: status.map((one) => ({ ...one, bytes: by.drives.get(one.id) ?? NOTHING })),
      years: by.years.map(([year, bytes]) => ({ year, bytes })),
      all: by.all,
      ...(await this.besides()),
      previews: await this.previews.bytes(),
      previewsMost: previewGigabytes * 1e9,
      required,
      shoots: largest.sort((a, b) => b.bytes - a.bytes).slice(0, SHOWN),
      shootCount: shoots.length,
      rejects: shoots.flatMap(({ id, title, date, rejects }) =>
        rejects > 0 ? [{ id, title, date, frames: rejects, bytes: rejected.get(id) ?? 0 }] : [],
      ),
      spare: spare.slice(0, SHOWN).map(({ shootId, volumeId, files, bytes }) => ({
        ...shootOf(shootId, bytes),
        ...{ volumeId, files, volume: drive.get(volumeId)!.name, online: drive.get(volumeId)!.online },
      })),
      spareBytes: spare.reduce((sum, { bytes }) => sum + bytes, 0),
      spareCount: spare.length,
    };
  }

  /** What lies on drives and is no copy of the archive's: with editing, and finished. */
  private async besides(): Promise<Pick<SpaceTaken, 'handed' | 'finished'>> {
    const [sums] = await this.long.rows<Pick<SpaceTaken, 'handed' | 'finished'>>(
      `SELECT (SELECT COALESCE(SUM(size), 0) FROM handed) AS handed,
         (SELECT COALESCE(SUM(f.size), 0) FROM delivery d JOIN delivery_file f ON f."deliveryId" = d.id
          WHERE d."volumeId" <> '' AND NOT EXISTS (SELECT 1 FROM delivery n WHERE n.follows = d.id))
         + (SELECT COALESCE(SUM(json_extract(zip, '$.size')), 0) FROM delivery WHERE zip IS NOT NULL
          AND NOT EXISTS (SELECT 1 FROM delivery n WHERE n.follows = delivery.id)) AS finished`,
      [],
    );
    return sums!;
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

/** Bytes of a copy: as last seen where it lies, which for an adopted file may be other than what was known first. */
const SIZE = `COALESCE(c.size, a.size)`;
/** Files of adopted folders are left where they lie, whatever else holds them. */
const SPARE = `a.devices > ? AND v.role <> 'edit' AND s."keptIn" IS NULL`;
const COPIES = `SELECT a."shootId" AS "shootId", c."volumeId" AS "volumeId",
    CASE WHEN a.role = 'original' AND a.raw THEN 'raw' WHEN a.role = 'original' THEN 'picture'
      WHEN a.role IN ('clip', 'edit') THEN a.role ELSE 'other' END AS kind,
    COUNT(*) AS files, SUM(${SIZE}) AS bytes, SUM(${SPARE}) AS "spareFiles", SUM(CASE WHEN ${SPARE} THEN ${SIZE} ELSE 0 END) AS "spareBytes"
  FROM json_each(?) j JOIN shoot s ON s.id = j.value JOIN asset a ON a."shootId" = j.value JOIN copy c ON c."assetId" = a.id JOIN volume v ON v.id = c."volumeId"
  GROUP BY 1, 2, 3`;

/** Shoots by so many that their files together are a chunk; one that is larger is alone. */
function chunksOf<S extends { files: number }>(shoots: readonly S[]): S[][] {
  const chunks: S[][] = [];
  let files = Infinity;
  for (const shoot of shoots) {
    if (files + shoot.files > CHUNK_FILES) {
      chunks.push([]);
      files = 0;
    }
    chunks.at(-1)!.push(shoot);
    files += shoot.files;
  }
  return chunks;
}
