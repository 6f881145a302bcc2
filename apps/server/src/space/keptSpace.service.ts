import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
  type OnModuleInit,
} from '@nestjs/common';
import { standingSql, type SpaceKind } from '@arkiv/core';
import { LongReading } from '../db/longReading';
import { Reading, UnitOfWork } from '../db/unitOfWork';
import { Copying } from '../events/copying';
import { ShootCounts } from '../frames/shootCounts';
import { SPACE_TRIGGERS } from './spaceTriggers';

/** Files that are counted in one go: a few tens of milliseconds, so that a shoot that is opened meanwhile does not wait long for its turn. */
const CHUNK_FILES = 20_000;
/** Milliseconds after the start before what was never counted is: whoever comes to work is served first. */
const QUIET = 60_000;

interface Part {
  shootId: string;
  volumeId: string;
  kind: SpaceKind;
  bytes: number;
  spareFiles: number;
  spareBytes: number;
}

interface Stale {
  id: string;
  files: number;
  /** how often something of it had changed when it was looked at */
  changes: number;
}

/** How far the counting is that is under way; both 0: none is. */
export interface SpaceCounting {
  /** files of the shoots that are counted */
  files: number;
  /** and of all that were to be */
  of: number;
}

/** A shoot's sums beside those of its copies. */
interface Sums {
  rejected: number;
  handed: number;
  finished: number;
}

/** Bytes of a copy: as last seen where it lies, which for an adopted file may be other than what was known first. */
const SIZE = `COALESCE(c.size, a.size)`;
const PARTS = `SELECT a."shootId" AS "shootId", c."volumeId" AS "volumeId",
    CASE WHEN a.role = 'original' AND a.raw THEN 'raw' WHEN a.role = 'original' THEN 'picture'
      WHEN a.role IN ('clip', 'edit') THEN a.role ELSE 'other' END AS kind,
    SUM(${SIZE}) AS bytes, SUM(a.devices > ?) AS "spareFiles", SUM(CASE WHEN a.devices > ? THEN ${SIZE} ELSE 0 END) AS "spareBytes"
  FROM json_each(?) j CROSS JOIN asset a ON a."shootId" = j.value JOIN copy c ON c."assetId" = a.id GROUP BY 1, 2, 3`;
/** Finished files of sets that no newer one follows, and their zips. */
const FINISHED = `SELECT COALESCE(SUM(COALESCE((SELECT SUM(f.size) FROM delivery_file f WHERE d."volumeId" <> '' AND f."deliveryId" = d.id), 0)
    + COALESCE(json_extract(d.zip, '$.size'), 0)), 0)
  FROM delivery d WHERE d."shootId" = j.value AND NOT EXISTS (SELECT 1 FROM delivery n WHERE n.follows = d.id)`;

/** What each shoot's files take, kept, and counted anew where something of it has changed since. */
@Injectable()
export class KeptSpace implements OnModuleInit, OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly log = new Logger('space');
  private last: Promise<unknown> = Promise.resolve();
  private timer: NodeJS.Timeout | null = null;
  private stopping = false;
  /** something was left to be counted when a card is copied */
  private interrupted = false;
  private counting: SpaceCounting = { files: 0, of: 0 };

  constructor(
    private readonly reading: Reading,
    private readonly work: UnitOfWork,
    private readonly long: LongReading,
    private readonly counts: ShootCounts,
    private readonly copying: Copying,
  ) {}

  async onModuleInit(): Promise<void> {
    await this.work.trigger(SPACE_TRIGGERS);
  }

  onApplicationBootstrap(): void {
    this.timer = setTimeout(() => void this.ahead(), QUIET);
    this.timer.unref();
    this.copying.after(() => {
      if (this.interrupted) void this.ahead();
    });
  }

  /** Counts what is to be counted before somebody asks: that waits while a card is being copied. */
  async ahead(): Promise<void> {
    await this.run(() => !this.copying.isUnderWay).catch((error: unknown) =>
      this.log.error((error as Error).stack),
    );
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.timer) clearTimeout(this.timer);
    await this.last;
  }

  /** How far it is. */
  progress(): SpaceCounting {
    return this.counting;
  }

  /** Resolves when all shoots are counted as they were when this was asked, or later. */
  upToDate(): Promise<void> {
    return this.run(() => true);
  }

  private run(mayGoOn: () => boolean): Promise<void> {
    // One after the other: what changed while the one before counted is counted by the next.
    const run = this.last
      .then(() => this.count(mayGoOn))
      .finally(() => (this.counting = { files: 0, of: 0 }));
    this.last = run.catch(() => undefined);
    return run;
  }

  /** Shoots that are said to be counted and whose kept sums are not what their rows say, in words; none when all are true. For checks. */
  async differences(): Promise<string[]> {
    const { text } = await this.counts.basis();
    const kept: { id: string; sums: string; parts: string }[] = await this.reading.source.query(
      `SELECT "shootId" AS id, json_array(rejected, handed, finished) AS sums,
         (SELECT json_group_array(json_array("volumeId", kind, bytes, "spareFiles", "spareBytes")) FROM
           (SELECT * FROM space_part p WHERE p."shootId" = k."shootId" ORDER BY "volumeId", kind)) AS parts
       FROM space_shoot k WHERE counted = changes AND basis = ?`,
      [text],
    );
    const { parts, sums } = await this.counted(
      kept.map(({ id }) => id),
      (sql, parameters) => this.reading.source.query(sql, [...parameters]),
    );
    return kept.flatMap(({ id, ...its }) => {
      const { rejected, handed, finished } = sums.get(id)!;
      const of = parts
        .filter(({ shootId }) => shootId === id)
        .map((part) => [part.volumeId, part.kind, part.bytes, part.spareFiles, part.spareBytes]);
      const counted = `${JSON.stringify([rejected, handed, finished])} ${JSON.stringify(of)}`;
      const said = `${its.sums} ${its.parts}`;
      return counted === said ? [] : [`space of shoot ${id}: kept ${said}, counted ${counted}`];
    });
  }

  private async count(mayGoOn: () => boolean): Promise<void> {
    if (this.stopping) return;
    this.interrupted = !mayGoOn();
    if (this.interrupted) return;
    const { text } = await this.counts.basis();
    const stale: Stale[] = await this.reading.source.query(
      `SELECT s.id, s.files, COALESCE(k.changes, 0) AS changes FROM shoot s LEFT JOIN space_shoot k ON k."shootId" = s.id
       WHERE s."mergedInto" IS NULL AND (k.counted IS NULL OR k.counted <> k.changes OR k.basis <> ?)`,
      [text],
    );
    const filesOf = (shoots: readonly Stale[]) => shoots.reduce((sum, { files }) => sum + files, 0);
    this.counting = { files: 0, of: filesOf(stale) };
    for (const chunk of chunksOf(stale)) {
      if (this.stopping) return;
      this.interrupted = !mayGoOn();
      if (this.interrupted) return;
      // What changes while they are counted is counted the next time: the number of changes is from before.
      const { parts, sums } = await this.counted(
        chunk.map(({ id }) => id),
        (sql, parameters) => this.long.rows(sql, parameters),
      );
      await this.keep(chunk, text, parts, sums);
      this.counting = { ...this.counting, files: this.counting.files + filesOf(chunk) };
    }
  }

  /** Sums of shoots from their rows. */
  private async counted(
    shootIds: readonly string[],
    read: <T>(sql: string, parameters: readonly unknown[]) => Promise<T[]>,
  ): Promise<{ parts: Part[]; sums: Map<string, Sums> }> {
    const { required, rules } = await this.counts.basis();
    const { reject } = standingSql(rules, 'f');
    const ids = JSON.stringify(shootIds);
    const parts = await read<Part>(PARTS, [required, required, ids]);
    const sums = await read<Sums & { id: string }>(
      `SELECT j.value AS id, (SELECT COALESCE(SUM(${SIZE}), 0) FROM frame_here f JOIN asset a ON a."frameId" = f.id
           JOIN copy c ON c."assetId" = a.id WHERE f."shootId" = j.value AND ${reject.where}) AS rejected,
         (SELECT COALESCE(SUM(h.size), 0) FROM handed h WHERE h."shootId" = j.value) AS handed,
         (${FINISHED}) AS finished
       FROM json_each(?) j`,
      [...reject.parameters, ids],
    );
    return { parts, sums: new Map(sums.map((one) => [one.id, one])) };
  }

  private async keep(
    chunk: readonly Stale[],
    basis: string,
    parts: readonly Part[],
    sums: ReadonlyMap<string, Sums>,
  ): Promise<void> {
    const shoots = chunk.map(({ id, changes }) => ({ id, changes, ...sums.get(id)! }));
    await this.work.write(async (manager) => {
      const ids = JSON.stringify(chunk.map(({ id }) => id));
      await manager.query(`DELETE FROM space_part WHERE "shootId" IN (SELECT value FROM json_each(?))`, [
        ids,
      ]);
      // One that is gone by now, a shoot or a drive, has no sums.
      await manager.query(
        `INSERT INTO space_part SELECT s.id, v.id, j.value ->> 'kind', j.value ->> 'bytes', j.value ->> 'spareFiles', j.value ->> 'spareBytes'
         FROM json_each(?) j JOIN shoot s ON s.id = j.value ->> 'shootId' JOIN volume v ON v.id = j.value ->> 'volumeId'`,
        [JSON.stringify(parts)],
      );
      await manager.query(
        `INSERT INTO space_shoot ("shootId", changes, counted, basis, rejected, handed, finished)
         SELECT s.id, j.value ->> 'changes', j.value ->> 'changes', ?, j.value ->> 'rejected', j.value ->> 'handed', j.value ->> 'finished'
         FROM json_each(?) j JOIN shoot s ON s.id = j.value ->> 'id' WHERE TRUE
         ON CONFLICT ("shootId") DO UPDATE SET counted = excluded.counted, basis = excluded.basis, rejected = excluded.rejected,
           handed = excluded.handed, finished = excluded.finished`,
        [basis, JSON.stringify(shoots)],
      );
    });
  }
}

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
