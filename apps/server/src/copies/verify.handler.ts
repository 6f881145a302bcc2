import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Reading } from '../db/unitOfWork';
import { Disk, diskErrorCode } from '../disk/disk';
import { hashFile } from '../disk/verifiedCopy';
import { Happenings } from '../events/domainEvents';
import { FoundFrames } from '../frames/foundFrames';
import { CopyStore } from '../frames/copyStore';
import type { Job, JobItem } from '../jobs/job.entity';
import {
  WaitForOutside,
  type ItemContext,
  type ItemOutcome,
  type JobHandler,
  type ShownSubjects,
} from '../jobs/jobHandler';
import { OpenJobs } from '../jobs/openJobs.service';
import { JobsService } from '../jobs/jobs.service';
import type { NewItem } from '../jobs/jobStore';
import type { Lane } from '../jobs/lanes';
import { Clock } from '../system/clock';
import { VolumesService } from '../volumes/volumes.service';
import type { Volume } from '../volumes/volume.entity';
import { refuseWhileMoving, type CopiesAsked } from './whileMoving';

export interface VerifyParams extends CopiesAsked {
  /** volumes whose copies are read; missing in jobs whose items were all made at the start */
  on?: string[];
  /** volumes whose copies were meant and that were not there, by name */
  away: string[];
  /** only what was found there and never read since */
  unread?: boolean;
  /** a day's share of what is read again by itself */
  scheduled?: boolean;
}

/** Files whose copies are taken up at once. */
const PART = 200;

/** A copy that is read again. */
export interface VerifyItem {
  path: string;
  volumeId: string;
  assetId: string;
  /** null: it is read whole for the first time, and has one from then on */
  sha256: string | null;
}

export interface VerifyResult {
  verified: number;
  damaged: number;
  reason: string | null;
}

/** What a table holds of some files on some volumes; parameters: both as lists. */
const held = (
  table: string,
  unread: boolean,
): string => `SELECT p."assetId", p."volumeId", a.sha256, a.size, a."shootId",
    COALESCE(p.path, a."at") AS path
  FROM json_each(?) m CROSS JOIN asset_at a ON a.id = m.value CROSS JOIN ${table} p ON p."assetId" = a.id
  WHERE p."volumeId" IN (SELECT value FROM json_each(?))${unread ? ` AND p."verifiedAt" IS NULL` : ''}`;

/** What a reading again found: as it should be, or what is wrong. */
export type Finding =
  | { good: true; sha256: string; pastCache: boolean }
  | { good: false; found: string | null; reason: string; as: 'damaged' | 'missing' };

/** Reads copies again, past the page cache, and holds them against the checksum of their arrival. */
@Injectable()
export class VerifyHandler implements JobHandler, OnModuleInit {
  readonly kind = 'verify';
  /** A drive is read fastest in one line; two lines keep two drives busy. */
  readonly inFlight = 2;

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly jobs: JobsService,
    private readonly openJobs: OpenJobs,
    private readonly volumes: VolumesService,
    private readonly happenings: Happenings,
    private readonly clock: Clock,
    private readonly copyStore: CopyStore,
    private readonly found: FoundFrames,
  ) {}

  onModuleInit(): void {
    this.jobs.register(this);
  }

  lane(): Lane {
    return { bulk: true, way: null, first: false };
  }

  shown({ params }: Job): ShownSubjects {
    return { deed: (params as VerifyParams).unread ? 'first-reading' : null };
  }

  begin(): Promise<void> {
    return Promise.resolve();
  }

  /** Copies that are meant, damaged ones too, as those may prove good after all; shoot by shoot. */
  async more(job: Job, last: JobItem | null): Promise<{ items: NewItem[]; ahead: string }> {
    const { shootId, on = [], unread = false } = job.params as VerifyParams;
    let shoot = last?.shootId ?? shootId ?? (await this.shootAfter('', on));
    let after = last ? (last.data as VerifyItem).assetId : '';
    while (shoot !== null) {
      const ids: { id: string }[] = await this.reading.source.query(
        `SELECT id FROM asset WHERE "shootId" = ? AND id > ? ORDER BY id LIMIT ?`,
        [shoot, after, PART],
      );
      if (ids.length === 0) {
        shoot = shootId === undefined ? await this.shootAfter(shoot, on) : null;
        after = '';
        continue;
      }
      after = ids.at(-1)!.id;
      const items = await this.itemsOf(
        ids.map(({ id }) => id),
        on,
        unread,
      );
      if (items.length > 0) return { items, ahead: shoot };
    }
    return { items: [], ahead: '' };
  }

  /** The next shoot, by id, of which any of these volumes holds anything. */
  private async shootAfter(id: string, on: readonly string[]): Promise<string | null> {
    const [next]: { id: string | null }[] = await this.reading.source.query(
      `SELECT MIN("shootId") AS id FROM shoot_volume
       WHERE "shootId" > ? AND "volumeId" IN (SELECT value FROM json_each(?))`,
      [id, JSON.stringify(on)],
    );
    return next?.id ?? null;
  }

  private async itemsOf(
    assetIds: readonly string[],
    on: readonly string[],
    unread: boolean,
  ): Promise<NewItem[]> {
    const rows: (VerifyItem & { size: number; shootId: string })[] = await this.reading.source.query(
      // Two questions, each by the files' own keys: of one over both tables all copies would be looked through.
      `SELECT * FROM (${(unread ? ['copy'] : ['copy', 'damage']).map((table) => held(table, unread)).join(' UNION ALL ')}) ORDER BY "shootId", "assetId", "volumeId"`,
      (unread ? [0] : [0, 1]).flatMap(() => [JSON.stringify(assetIds), JSON.stringify(on)]),
    );
    return rows.map(({ size, shootId, ...data }) => ({ size, name: data.path, shootId, data }));
  }

  again(job: Job): Promise<void> {
    return refuseWhileMoving(this.reading, this.openJobs, job.params as VerifyParams);
  }

  async runItem(_job: Job, item: JobItem, context: ItemContext): Promise<ItemOutcome> {
    const volume = await this.volumes.get((item.data as VerifyItem).volumeId);
    let data = await this.now(item.data as VerifyItem);
    if (!data) return { state: 'done' };
    let finding = await this.look(volume, data, context.signal);
    // A file that was moved while it was looked for is no damage: it is looked for where it is now.
    for (
      let moved = await this.now(data);
      !finding.good && moved && moved.path !== data.path;
      moved = await this.now(data)
    ) {
      data = moved;
      finding = await this.look(volume, data, context.signal);
    }
    const read = data;
    context.onBytes(item.size);
    const commit = (manager: EntityManager) => this.note(manager, read, finding);
    if (finding.good) return { state: 'done', commit };
    return { state: 'failed', reason: `${data.path} on “${volume.name}” ${finding.reason}`, commit };
  }

  /** Where the copy is by now; null when it is none any more. */
  private async now(data: VerifyItem): Promise<VerifyItem | null> {
    const { volumeId, assetId } = data;
    const rows: { path: string; sha256: string | null }[] = await this.reading.source.query(
      `SELECT COALESCE(p.path, a."at") AS path, a.sha256 FROM asset_at a JOIN (
         SELECT "assetId", path FROM copy WHERE "volumeId" = ? AND "assetId" = ?
         UNION ALL SELECT "assetId", path FROM damage WHERE "volumeId" = ? AND "assetId" = ?) p ON p."assetId" = a.id`,
      [volumeId, assetId, volumeId, assetId],
    );
    const [first] = rows;
    if (!first) return null;
    const there = rows.find(({ path }) => path === data.path) ?? first;
    return { ...data, ...there };
  }

  async finish(job: Job): Promise<VerifyResult> {
    this.happenings.tell('volumes', {});
    const damaged = job.filesFailed;
    const { away } = job.params as VerifyParams;
    return {
      verified: job.filesDone,
      damaged,
      reason:
        away.length > 0
          ? `${away.map((name) => `“${name}”`).join(' and ')} ${away.length > 1 ? 'were' : 'was'} not there: nothing on ${away.length > 1 ? 'them' : 'it'} was read.`
          : null,
    };
  }

  /** Reads one copy. A volume that went away meanwhile is no damage: the job waits for it. */
  async look(volume: Volume, data: VerifyItem, signal?: AbortSignal): Promise<Finding> {
    await this.present(volume);
    try {
      const { sha256, pastCache } = await hashFile(
        this.disk,
        await this.volumes.resolve(volume, data.path),
        signal,
      );
      if (data.sha256 === null || sha256 === data.sha256) return { good: true, sha256, pastCache };
      const short = (sum: string) => `${sum.slice(0, 12)}…`;
      return {
        good: false,
        as: 'damaged',
        found: sha256,
        reason: `has changed: its checksum should be ${short(data.sha256)} and is ${short(sha256)}.`,
      };
    } catch (error) {
      if (signal?.aborted || diskErrorCode(error) === null) throw error;
      await this.present(volume);
      const missing = diskErrorCode(error) === 'ENOENT';
      return {
        good: false,
        as: missing ? 'missing' : 'damaged',
        found: null,
        reason: missing ? 'is missing.' : `cannot be read (${(error as Error).message}).`,
      };
    }
  }

  /** Writes down what was found; a damaged copy counts as no copy from then on. */
  async note(manager: EntityManager, data: VerifyItem, finding: Finding): Promise<void> {
    const { volumeId, assetId } = data;
    const at = this.clock.now();
    if (finding.good) {
      const { sha256, pastCache } = finding;
      const how = { verifiedAt: at, pastCache };
      if (data.sha256 === null) await this.found.read(manager, assetId, volumeId, { sha256, ...how });
      else await this.copyStore.verified(manager, assetId, volumeId, how);
    } else {
      const { found, reason, as } = finding;
      await this.copyStore.damaged(manager, assetId, volumeId, { found, reason, at, as });
    }
  }

  private async present(volume: Volume): Promise<void> {
    if (!(await this.volumes.isOnline(volume)))
      throw new WaitForOutside(
        `“${volume.name}” is not there. Plug it in: reading carries on where it stopped.`,
      );
  }
}
