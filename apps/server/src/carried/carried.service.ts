import { Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import { ArkivError, readRecord } from '@arkiv/core';
import { In } from 'typeorm';
import { BinService } from '../bin/bin.service';
import { Reading } from '../db/unitOfWork';
import { Disk } from '../disk/disk';
import { readOwn } from '../disk/place';
import { Happenings } from '../events/domainEvents';
import { Job, NOT_OVER } from '../jobs/job.entity';
import { JobsService } from '../jobs/jobs.service';
import { MovesService } from '../moves/moves.service';
import { FoundRecords, type FoundArchive, type FoundPart } from '../rebuild/foundRecords.service';
import { Shoot } from '../shoots/shoot.entity';
import { grouped } from '../system/grouped';
import { Ids } from '../system/ids';
import { Turns } from '../system/turns';
import type { Volume } from '../volumes/volume.entity';
import { VolumesService } from '../volumes/volumes.service';
import type { CarryItem, CarryParams, CarryResult } from './carry.handler';
import type { FrameHere } from './changedThere';

export interface CarriedShoot {
  id: string;
  title: string;
  /** YYYY-MM-DD */
  date: string;
  frames: number;
  /** it is in this archive already: what was decided elsewhere comes to it */
  known: boolean;
}

/** A drive on which another archive left shoots that are not taken in yet. */
export interface Carried {
  volumeId: string;
  volume: string;
  /** the archive's name */
  archive: string;
  shoots: CarriedShoot[];
  /** the job that takes them in; null: it is not begun */
  jobId: string | null;
}

/** Shoots that come on a drive from another archive, with all that was decided of them there. */
@Injectable()
export class CarriedService implements BeforeApplicationShutdown {
  private readonly log = new Logger('carried');
  private readonly turns = new Turns((error) => this.log.error((error as Error).stack));
  /** by drive, what lies there and for which archive that was looked up: nobody writes there until it is taken in or left */
  private readonly looked = new Map<string, { of: string; found: Promise<Left> }>();

  constructor(
    private readonly disk: Disk,
    private readonly reading: Reading,
    private readonly volumes: VolumesService,
    private readonly found: FoundRecords,
    private readonly jobs: JobsService,
    private readonly moves: MovesService,
    private readonly bin: BinService,
    private readonly ids: Ids,
    happenings: Happenings,
  ) {
    // A drive on which the other archive left nothing need not be asked about.
    happenings.on('volumes', () => this.turns.soon('look', 0, () => this.settleEmpty()));
  }

  beforeApplicationShutdown(): Promise<void> {
    return this.turns.stop();
  }

  async all(): Promise<Carried[]> {
    const carried: Carried[] = [];
    for (const volume of await this.held()) {
      const shoots = await this.shootsOf(volume);
      if (shoots.length > 0)
        carried.push({
          ...{ volumeId: volume.id, volume: volume.name, archive: volume.heldBy!.name, shoots },
          jobId: await this.openJob(volume.id),
        });
    }
    return carried;
  }

  private async settleEmpty(): Promise<void> {
    for (const volume of await this.held())
      if ((await this.shootsOf(volume)).length === 0) await this.volumes.settled(volume.id);
  }

  /** Drives that are here, which another archive had until this one made them its own. */
  private async held(): Promise<Volume[]> {
    const held: Volume[] = [];
    for (const volume of await this.volumes.all()) {
      if (volume.heldBy && (await this.volumes.isOnline(volume))) held.push(volume);
      else this.looked.delete(volume.id);
    }
    return held;
  }

  /** What the archive that had it last left there, and all parts that lie there, whoever wrote them. */
  private left(volume: Volume): Promise<Left> {
    const of = volume.heldBy?.id ?? '';
    const before = this.looked.get(volume.id);
    if (before?.of === of) return before.found;
    const found = this.found.all(volume).then((archives) => ({
      archive: archives.find(({ id }) => id === of) ?? null,
      parts: archives.flatMap(({ parts }) => parts),
    }));
    this.looked.set(volume.id, { of, found });
    found.catch(() => this.looked.delete(volume.id));
    return found;
  }

  private async shootsOf(volume: Volume): Promise<CarriedShoot[]> {
    const { archive } = await this.left(volume);
    const shoots: CarriedShoot[] = [];
    for (const { head, path } of archive?.parts ?? []) {
      if (head.part !== 'shoot' || head.shoot === null) continue;
      const text = await readOwn(this.disk, await this.volumes.resolve(volume, path));
      const row = text === null ? null : shootIn(text, path);
      if (!row || row.mergedInto !== null) continue;
      const known = await this.reading.manager.existsBy(Shoot, { id: row.id });
      const { id, title, date, frames } = row;
      shoots.push({ id, title, date, frames, known });
    }
    return shoots.sort((a, b) => (a.date < b.date ? -1 : 1));
  }

  private async openJob(volumeId: string): Promise<string | null> {
    const open = await this.reading.manager.findBy(Job, { kind: 'carry', state: In([...NOT_OVER]) });
    return open.find(({ params }) => (params as CarryParams).volumeId === volumeId)?.id ?? null;
  }

  /** What came of taking them in. */
  async result(jobId: string): Promise<CarryResult> {
    const job = await this.reading.manager.findOneBy(Job, { id: jobId, kind: 'carry' });
    if (!job?.result) throw new ArkivError('not-found', { what: 'result of the job', id: jobId });
    // Those of an earlier version say nothing of names and of what was taken out.
    const { named = [], out = [], ...result } = job.result as CarryResult & Partial<CarryResult>;
    const now = new Map<string, { name: string; place: string; state: string }>();
    const ids = [...named, ...out].map(({ id }) => id);
    for (const frame of await this.reading.source.query<
      ({ id: string } & Pick<FrameHere, 'name' | 'place' | 'state'>)[]
    >(`SELECT id, name, place, state FROM frame WHERE id IN (SELECT value FROM json_each(?))`, [
      JSON.stringify(ids),
    ]))
      now.set(frame.id, frame);
    return {
      ...result,
      named: named.filter((its) => {
        const frame = now.get(its.id);
        return frame?.state === 'here' && (frame.name !== its.name || frame.place !== its.place);
      }),
      out: out.filter(({ id }) => now.get(id)?.state === 'here'),
    };
  }

  /** Gives frames the names here that they were given there. Returns the jobs, and how many frames stay as another one has their name. */
  async takeNames(jobId: string): Promise<{ jobIds: string[]; stay: number }> {
    const { named } = await this.result(jobId);
    const jobIds: string[] = [];
    let stay = 0;
    for (const [shootId, its] of grouped(named, (one) => one.shootId)) {
      const { jobId: begun, taken } = await this.moves.startNamed(shootId, its);
      if (begun !== null) jobIds.push(begun);
      stay += taken.length;
    }
    return { jobIds, stay };
  }

  /** Bins here what was taken out there. Returns the jobs. */
  async binToo(jobId: string): Promise<{ jobIds: string[]; stay: number }> {
    const { out } = await this.result(jobId);
    const jobIds: string[] = [];
    for (const [shootId, its] of grouped(out, (one) => one.shootId))
      jobIds.push((await this.bin.start({ deed: 'bin', shootId, frameIds: its.map(({ id }) => id) })).jobId);
    return { jobIds, stay: 0 };
  }

  /** Takes in what the other archive left on a drive. Throws `not-found` where that is nothing. */
  async begin(volumeId: string): Promise<{ jobId: string }> {
    const volume = await this.volumes.get(volumeId);
    const before = await this.openJob(volumeId);
    if (before !== null) return { jobId: before };
    const { archive, parts: all } = await this.left(volume);
    const shoots = await this.shootsOf(volume);
    if (!archive || shoots.length === 0)
      throw new ArkivError('not-found', { what: 'shoot of another archive on', id: volume.name });
    const items = shoots.map(({ id, title }) => {
      const parts = all.filter(({ head }) => head.shoot === id);
      const histories = archive.histories.filter(({ shoot }) => shoot === id);
      const whole = archive.parts.filter(({ head }) => head.shoot === null);
      const data: CarryItem = { shoot: id, parts, histories, whole };
      return { size: parts.reduce((sum, { size }) => sum + size, 0), name: title, data };
    });
    const jobId = this.ids.newId();
    const heldBy = { id: archive.id, name: archive.name };
    const params: CarryParams = { volumeId, heldBy };
    const subjects = [{ kind: 'shoot' as const, id: '*', deed: 'moves' as const }];
    const title = `“${archive.name}”, on “${volume.name}”`;
    await this.jobs.begin([
      { job: { id: jobId, kind: 'carry' as const, title, shootId: null, params, subjects }, items },
    ]);
    return { jobId };
  }

  /** Lets what another archive left lie: this one writes its own texts again, and keeps what lay there beside them. */
  async leave(volumeId: string): Promise<void> {
    await this.volumes.get(volumeId);
    await this.volumes.settled(volumeId);
  }
}

interface Left {
  archive: FoundArchive | null;
  parts: FoundPart[];
}

interface ShootRow {
  id: string;
  title: string;
  date: string;
  frames: number;
  mergedInto: string | null;
}

/** The shoot that a record tells of; null: it cannot be read. */
function shootIn(text: string, path: string): ShootRow | null {
  try {
    const row = readRecord(text, path).rows.find(({ is }) => is === 'shoot')?.row;
    return row ? (row as unknown as ShootRow) : null;
  } catch (error) {
    if (error instanceof ArkivError) return null;
    throw error;
  }
}
