import { Injectable } from '@nestjs/common';
import {
  ArkivError,
  binFolderOf,
  collisionKey,
  isoTime,
  planReturn,
  sidecarOf,
  type BinnedFrame,
  type PlannedMove,
} from '@arkiv/core';
import type { EntityManager } from 'typeorm';
import { LongReading } from '../db/longReading';
import { Reading } from '../db/unitOfWork';
import { FramesService } from '../frames/frames.service';
import { placedFrame, placedFrames, type PlacedFrame, type PlacedRow } from '../frames/placedFrame';
import { JobStore } from '../jobs/jobStore';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import type { DeriveItem, DeriveParams } from '../moves/derive.handler';
import { Rejects, type Unwanted } from '../moves/rejects';
import { TakenPlaces } from '../moves/takenPlaces';
import { Touches, type Touched } from '../moves/touches';
import type { Shoot } from '../shoots/shoot.entity';
import { ShootsService } from '../shoots/shoots.service';
import { Clock } from '../system/clock';
import { Ids } from '../system/ids';
import type { BinItem, BinJobDeed, BinParams } from './bin.handler';
import type { Bin, BinDeed } from './binned.entity';
import { BinStore } from './binStore';

export interface BinRequest extends Unwanted {
  deed: BinDeed | 'delete';
  shootId: string;
  /** delete: how many frames, as typed by the person who asks for it */
  typed?: number;
}

/** What would be done away with. */
export interface BinPlan extends Touched {
  frames: number;
  files: number;
}

/** One time that frames were binned or forgotten, as far as they can be brought back. */
export interface BinTime {
  id: string;
  deed: BinDeed;
  shootId: string;
  /** the shoot's title */
  shoot: string;
  at: number;
  frames: number;
  files: number;
  /** of one copy of each file */
  bytes: number;
  /** names of the drives that hold any of it */
  volumes: string[];
  /** copies on drives that are away, which go into the bin when these return */
  waiting: number;
  /** keys of a few of its pictures */
  pictures: string[];
}

/** What a drive that is away has still to do. */
export interface BinDue {
  volume: string;
  deed: 'bin' | 'back' | 'delete';
  files: number;
}

/** Pictures that show what a line of the bin is about: as many as fit beside its words. */
const SHOWN = 6;
/** Frames of one time that are shown one by one; more are brought back together. */
const MOST = 2000;
const DAY_MILLIS = 24 * 60 * 60 * 1000;

/** The picture that shows a frame which is in the archive no more, in SQL. */
const BINNED_PICTURE = `(SELECT COALESCE(b.picture, b.sha256) FROM binned_file b WHERE b."assetId" = f."shownBy")`;

/** Plans what is done away with and what comes back, and hands it to jobs. */
@Injectable()
export class BinService {
  constructor(
    private readonly reading: Reading,
    private readonly long: LongReading,
    private readonly jobs: JobsService,
    private readonly items: JobStore,
    private readonly openJobs: OpenJobs,
    private readonly archive: FramesService,
    private readonly rejects: Rejects,
    private readonly touches: Touches,
    private readonly taken: TakenPlaces,
    private readonly shoots: ShootsService,
    private readonly bins: BinStore,
    private readonly clock: Clock,
    private readonly ids: Ids,
  ) {}

  async plan(asked: BinRequest): Promise<BinPlan> {
    const ids = [...(await this.rejects.of((await this.shoots.get(asked.shootId)).id, asked))];
    const files: { id: string }[] = await this.reading.source.query(
      `SELECT id FROM asset WHERE "frameId" IN (SELECT value FROM json_each(?))`,
      [JSON.stringify(ids)],
    );
    const touched = await this.touches.of(
      ids,
      files.map(({ id }) => id),
    );
    return { frames: ids.length, files: files.length, ...touched };
  }

  async start(asked: BinRequest): Promise<{ jobId: string }> {
    const shoot = await this.shoots.get(asked.shootId);
    const wanted = await this.rejects.of(shoot.id, asked);
    const frames = (await this.archive.ofShoot(shoot.id)).filter(({ id }) => wanted.has(id));
    if (frames.length === 0) throw new ArkivError('move.nothing', { reason: 'no such frame is there' });
    if (asked.deed === 'delete') checkTyped(asked.typed, frames.length);
    const now = this.clock.now();
    const id = this.ids.newId();
    const folder = binFolderOf(isoTime(now).slice(0, 10), frames[0]!.folder, id);
    const bin: Bin = {
      ...{ id, shootId: shoot.id, folder, at: now },
      deed: asked.deed === 'forget' ? 'forget' : 'bin',
    };
    const items = frames.map((frame): BinItem => ({
      ...{ frameId: frame.id, binId: id, path: `${frame.place}/${frame.name}` },
    }));
    return this.begin(asked.deed, [shoot], [id], items, (manager) => this.bins.open(manager, bin));
  }

  /** Brings frames back: all of one time, or some of it. */
  async back(binId: string, frameIds: readonly string[] | null): Promise<{ jobId: string }> {
    const bin = await this.bin(binId);
    const shoot = await this.shoots.get(bin.shootId);
    const { folders, keptIn, plan: laidOut } = shoot;
    const place = `${folders[0]}/${laidOut.originals}`;
    const frames = (await this.binned(binId))
      .filter(({ id }) => frameIds?.includes(id) ?? true)
      // Its shoot was taken in since: it comes to where that lies, and not into the adopted folder.
      .map((frame): BinnedFrame =>
        keptIn !== null || folders.length === 0 || folders.includes(frame.folder)
          ? frame
          : { ...frame, home: { folder: folders[0]!, place } },
      );
    if (frames.length === 0) throw new ArkivError('move.nothing', { reason: 'no such frame is there' });
    // What was forgotten lies where it lay: its own files do not stand in its way.
    const leaves = new Set(
      bin.deed === 'forget'
        ? frames.flatMap(({ place, name, files }) => [
            ...files.map((file) => collisionKey(file.path)),
            collisionKey(sidecarOf(place, name)),
          ])
        : [],
    );
    const plan = (exists: (to: string) => boolean) => planReturn(frames, exists);
    const taken = await this.taken.by((exists) => placesOf(plan(exists)), leaves);
    const items = plan((to) => taken.has(collisionKey(to))).map(({ id, from, to, files }): BinItem => ({
      ...{ frameId: id!, binId, path: `${from.place}/${from.name}`, to },
      files: files.map((file) => ({ assetId: file.assetId, to: file.to })),
    }));
    return this.begin('bring-back', [shoot], [binId], items);
  }

  /**
   * Brings back what a job took out of the archive, as far as it has not come back or been deleted since; of a job that copied frames,
   * puts the copies into the bin.
   */
  async undo(jobId: string): Promise<{ jobId: string }> {
    const { kind, params } = await this.jobs.get(jobId);
    if (kind === 'derive') {
      const frameIds: string[] = [];
      for await (const item of this.items.walk(jobId, ['done']))
        frameIds.push((item.data as DeriveItem).copy);
      return this.start({ deed: 'bin', shootId: (params as DeriveParams).into, frameIds });
    }
    const { deed, binIds } = params as BinParams;
    if (kind !== 'bin' || (deed !== 'bin' && deed !== 'forget'))
      throw new ArkivError('move.undone', { reason: 'it put nothing into the bin' });
    return this.back(binIds[0]!, null);
  }

  /** Deletes what lies in the bin: of these times, or of all that are older than some days. */
  async empty(
    binIds: readonly string[] | null,
    olderThanDays: number,
    typed: number,
  ): Promise<{ jobId: string }> {
    const latest = this.clock.now() - olderThanDays * DAY_MILLIS;
    const rows: { frameId: string; binId: string; shootId: string; place: string; name: string }[] =
      await this.reading.source.query(
        `SELECT n."frameId", n."binId", b."shootId", f.place, f.name FROM binned_frame n JOIN bin b ON b.id = n."binId"
         JOIN frame f ON f.id = n."frameId"
         WHERE b.deed = 'bin' AND CASE WHEN ? IS NULL THEN b.at <= ? ELSE b.id IN (SELECT value FROM json_each(?)) END`,
        [binIds && '', latest, JSON.stringify(binIds ?? [])],
      );
    if (rows.length === 0) throw new ArkivError('move.nothing', { reason: 'nothing of it is in the bin' });
    checkTyped(typed, rows.length);
    const items = rows.map(({ frameId, binId, place, name }): BinItem => ({
      ...{ frameId, binId, path: `${place}/${name}` },
    }));
    const shoots: Shoot[] = [];
    for (const id of new Set(rows.map(({ shootId }) => shootId))) shoots.push(await this.shoots.get(id));
    return this.begin('empty', shoots, [...new Set(rows.map(({ binId }) => binId))], items);
  }

  /** The newest first. */
  async list(): Promise<{ times: BinTime[]; due: BinDue[] }> {
    const times = await this.long.rows<Omit<BinTime, 'volumes' | 'pictures'>>(
      `SELECT b.id, b.deed, b."shootId", s.title AS shoot, b.at,
         (SELECT COUNT(*) FROM binned_frame n WHERE n."binId" = b.id) AS frames, COUNT(x."assetId") AS files,
         COALESCE(SUM(x.size), 0) AS bytes,
         (SELECT COUNT(*) FROM binned_copy c WHERE c."binId" = b.id AND c.due = 'bin') AS waiting
       FROM bin b JOIN shoot s ON s.id = b."shootId" JOIN binned_frame n ON n."binId" = b.id
       LEFT JOIN binned_file x ON x."frameId" = n."frameId" GROUP BY b.id ORDER BY b.at DESC`,
      [],
    );
    const shown: BinTime[] = [];
    for (const time of times) {
      const volumes = await this.long.rows<{ name: string }>(
        `SELECT name FROM volume WHERE id IN (SELECT "volumeId" FROM binned_copy WHERE "binId" = ?) ORDER BY name`,
        [time.id],
      );
      const pictures = await this.long.rows<{ picture: string | null }>(
        `SELECT ${BINNED_PICTURE} AS picture FROM binned_frame n JOIN frame f ON f.id = n."frameId"
         WHERE n."binId" = ? ORDER BY f.instant LIMIT ?`,
        [time.id, SHOWN],
      );
      shown.push({
        ...time,
        volumes: volumes.map(({ name }) => name),
        pictures: pictures.flatMap(({ picture }) => picture ?? []),
      });
    }
    const due = await this.long.rows<BinDue>(
      `SELECT v.name AS volume, c.due AS deed, COUNT(*) AS files FROM binned_copy c JOIN volume v ON v.id = c."volumeId"
       WHERE c.due IS NOT NULL GROUP BY v.id, c.due ORDER BY v.name, c.due`,
      [],
    );
    return { times: shown, due };
  }

  /** The frames of one time, in order of time. */
  async frames(binId: string): Promise<PlacedFrame[]> {
    await this.bin(binId);
    const rows = await this.long.rows<PlacedRow>(
      `${placedFrames('frame', BINNED_PICTURE)} JOIN binned_frame n ON n."frameId" = f.id WHERE n."binId" = ?
       ORDER BY f.instant IS NULL, f.instant, f.name LIMIT ?`,
      [binId, MOST],
    );
    return rows.map(placedFrame);
  }

  private async bin(id: string): Promise<Bin> {
    const bin = await this.bins.bin(id);
    if (!bin) throw new ArkivError('not-found', { what: 'time in the bin', id });
    return bin;
  }

  private async binned(binId: string): Promise<BinnedFrame[]> {
    const rows: Omit<BinnedFrame, 'files'>[] = await this.reading.source.query(
      `SELECT f.id, f.name, f.folder, f.place FROM binned_frame n JOIN frame f ON f.id = n."frameId"
       WHERE n."binId" = ? ORDER BY f.instant, f.name`,
      [binId],
    );
    const frames: BinnedFrame[] = [];
    for (const row of rows) {
      const files = await this.bins.files(row.id);
      frames.push({ ...row, files: files.map(({ assetId, at: path }) => ({ assetId, path })) });
    }
    return frames;
  }

  private async begin(
    deed: BinJobDeed,
    shoots: readonly Shoot[],
    binIds: string[],
    items: readonly BinItem[],
    tail?: (manager: EntityManager) => Promise<void>,
  ): Promise<{ jobId: string }> {
    for (const { id, title } of shoots)
      if (await this.openJobs.onShoots([id])) throw new ArkivError('move.busy', { shoot: title });
    const id = this.ids.newId();
    const params: BinParams = { deed, shootIds: shoots.map((shoot) => shoot.id), binIds };
    const subjects = shoots.map((shoot) => ({
      ...{ kind: 'shoot' as const, id: shoot.id, deed: 'moves' as const },
    }));
    const [first] = shoots;
    const title = shoots.length === 1 ? first!.title : `${shoots.length} shoots`;
    const shootId = shoots.length === 1 ? first!.id : null;
    const job = { id, kind: 'bin' as const, title, shootId, params, subjects };
    await this.jobs.begin([{ job, items: items.map((data) => ({ size: 0, name: data.path, data })) }], tail);
    return { jobId: id };
  }
}

/** Past the bin there is no way back: whoever asks for it has typed how many frames it is. */
function checkTyped(typed: number | undefined, frames: number): void {
  if (typed !== frames) throw new ArkivError('bin.typed', { frames, typed: typed ?? 'nothing' });
}

const placesOf = (moves: readonly PlannedMove[]): string[] =>
  moves.flatMap(({ files }) => files.map(({ to }) => to));
